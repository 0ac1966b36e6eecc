import type { AdmonitionKind } from '../model/kinds.js';
import type { Quotes } from '../number/plain-text.js';

/** The words that output adds to the content, in one language. */
export interface OutputWords {
  readonly admonitions: Readonly<Record<AdmonitionKind, string>>;
  readonly contents: string;
  readonly more: string;
  readonly previous: string;
  readonly next: string;
  readonly footnotes: string;
  /** Stands where content cannot be shown. */
  readonly missing: string;
  readonly figures: string;
  readonly tables: string;
  readonly examples: string;
  readonly glossary: string;
  readonly index: string;
  readonly see: string;
  readonly seeAlso: string;
  readonly symbols: string;
  /** Where the text begins. */
  readonly start: string;
  /** Leads past the contents. */
  readonly skip: string;
  readonly nothingHere: string;
  readonly landmarks: string;
  /** Tells readers what the book does for those who cannot see it. */
  readonly accessibility: string;
  /** Before the number of a page. */
  readonly page: string;
  /** The signs around a quoted phrase. */
  readonly quotes: Quotes;
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
  more: 'All contents',
  previous: 'Previous',
  next: 'Next',
  footnotes: 'Footnotes',
  missing: '[not available]',
  figures: 'Figures',
  tables: 'Tables',
  examples: 'Examples',
  glossary: 'Glossary',
  index: 'Index',
  see: 'see',
  seeAlso: 'see also',
  symbols: 'Symbols',
  start: 'Beginning',
  skip: 'Skip to the text',
  nothingHere: 'There is no page at this address',
  landmarks: 'Landmarks',
  accessibility: 'Headings, lists and tables are marked as such, and pictures are described in words.',
  page: 'page',
  quotes: ['“', '”'],
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
  more: 'Ganzer Inhalt',
  previous: 'Zurück',
  next: 'Weiter',
  footnotes: 'Fußnoten',
  missing: '[nicht verfügbar]',
  figures: 'Abbildungen',
  tables: 'Tabellen',
  examples: 'Beispiele',
  glossary: 'Glossar',
  index: 'Stichwortverzeichnis',
  see: 'siehe',
  seeAlso: 'siehe auch',
  symbols: 'Zeichen',
  start: 'Anfang',
  skip: 'Zum Text',
  nothingHere: 'Unter dieser Adresse gibt es keine Seite',
  landmarks: 'Wegmarken',
  accessibility: 'Überschriften, Listen und Tabellen sind als solche ausgezeichnet, Bilder in Worten beschrieben.',
  page: 'Seite',
  quotes: ['„', '“'],
};

const byLanguage: Readonly<Record<string, OutputWords>> = { en: english, de: german };

/** The words for a language tag; English where the language has none yet. */
export function outputWords(language: string): OutputWords {
  return byLanguage[language.toLowerCase().split('-')[0] ?? ''] ?? english;
}

/** Languages that are written from right to left, by their script (Unicode CLDR, `characterOrder`). */
const rightToLeft: ReadonlySet<string> = new Set(['ar', 'dv', 'fa', 'he', 'ks', 'ku', 'ps', 'sd', 'ug', 'ur', 'yi']);

export function directionOf(language: string): 'ltr' | 'rtl' {
  return rightToLeft.has(language.toLowerCase().split('-')[0] ?? '') ? 'rtl' : 'ltr';
}
