import type { AdmonitionKind } from '../content/schema.js';

/** The words that output adds to the content, in one language. */
export interface OutputWords {
  readonly admonitions: Readonly<Record<AdmonitionKind, string>>;
  readonly contents: string;
  readonly previous: string;
  readonly next: string;
  readonly footnotes: string;
  readonly missing: string;
  readonly figures: string;
  readonly tables: string;
  readonly examples: string;
  readonly glossary: string;
  readonly index: string;
  readonly see: string;
  readonly seeAlso: string;
  readonly symbols: string;
}

const english: OutputWords = {
  admonitions: {
    note: 'Note',
    tip: 'Tip',
    important: 'Important',
    notice: 'Notice',
    caution: 'Caution',
    warning: 'Warning',
    danger: 'Danger',
  },
  contents: 'Contents',
  previous: 'Previous',
  next: 'Next',
  footnotes: 'Footnotes',
  missing: 'missing',
  figures: 'Figures',
  tables: 'Tables',
  examples: 'Examples',
  glossary: 'Glossary',
  index: 'Index',
  see: 'see',
  seeAlso: 'see also',
  symbols: 'Symbols',
};

const german: OutputWords = {
  admonitions: {
    note: 'Hinweis',
    tip: 'Tipp',
    important: 'Wichtig',
    notice: 'Achtung',
    caution: 'Vorsicht',
    warning: 'Warnung',
    danger: 'Gefahr',
  },
  contents: 'Inhalt',
  previous: 'Zurück',
  next: 'Weiter',
  footnotes: 'Fußnoten',
  missing: 'fehlt',
  figures: 'Abbildungen',
  tables: 'Tabellen',
  examples: 'Beispiele',
  glossary: 'Glossar',
  index: 'Stichwortverzeichnis',
  see: 'siehe',
  seeAlso: 'siehe auch',
  symbols: 'Zeichen',
};

const byLanguage: Readonly<Record<string, OutputWords>> = { en: english, de: german };

/** The words for a language tag; English where the language has none yet. */
export function outputWords(language: string): OutputWords {
  return byLanguage[language.toLowerCase().split('-')[0] ?? ''] ?? english;
}
