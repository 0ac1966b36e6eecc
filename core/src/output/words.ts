import { admonitionKinds, type AdmonitionKind } from '../model/kinds.js';
import type { NumberedPublication } from '../number/numbered.js';
import type { Quotes } from '../number/plain-text.js';

/** The words that output adds to the content, in one language. */
export interface OutputWords {
  readonly admonitions: Readonly<Record<AdmonitionKind, string>>;
  /** Before what bears a stamp, by its key; none where the design has none. */
  readonly stamps: Readonly<Record<string, string>>;
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
  readonly onThisPage: string;
  /** The way down to a page. */
  readonly way: string;
  /** What the script of a site says. */
  readonly reader: {
    readonly search: string;
    readonly results: string;
    readonly nothingFound: string;
    /** Before the title of what is folded or opened. */
    readonly fold: string;
    readonly copy: string;
    readonly copied: string;
    readonly linkHere: string;
    readonly enlarge: string;
    readonly close: string;
    readonly otherVariants: string;
    /** Beside a variant that does not have the page. */
    readonly notInVariant: string;
  };
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
  stamps: {},
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
  onThisPage: 'On this page',
  way: 'Where this page stands',
  reader: {
    search: 'Search',
    results: 'Found',
    nothingFound: 'Nothing was found.',
    fold: 'Below',
    copy: 'Copy',
    copied: 'Copied',
    linkHere: 'Link to here',
    enlarge: 'Enlarge',
    close: 'Close',
    otherVariants: 'Other variants',
    notInVariant: 'without this page',
  },
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
  stamps: {},
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
  onThisPage: 'Auf dieser Seite',
  way: 'Wo diese Seite steht',
  reader: {
    search: 'Suchen',
    results: 'Gefunden',
    nothingFound: 'Es wurde nichts gefunden.',
    fold: 'Unter',
    copy: 'Kopieren',
    copied: 'Kopiert',
    linkHere: 'Link hierher',
    enlarge: 'Vergrößern',
    close: 'Schließen',
    otherVariants: 'Andere Varianten',
    notInVariant: 'ohne diese Seite',
  },
};

const byLanguage: Readonly<Record<string, OutputWords>> = { en: english, de: german };

/** The words for a language tag; English where the language has none yet. */
export function outputWords(language: string): OutputWords {
  return byLanguage[language.toLowerCase().split('-')[0] ?? ''] ?? english;
}

/** By the publication: each page asks. */
const ofPublications = new WeakMap<Pick<NumberedPublication, 'facts' | 'design'>, OutputWords>();
const ofDesigns = new Map<string, OutputWords>();
const mostOfDesigns = 500;

/** The words for a publication: those of its language, with those that its design has of its own. Equal ones are the same object. */
export function wordsOf(publication: Pick<NumberedPublication, 'facts' | 'design'>): OutputWords {
  let words = ofPublications.get(publication);
  if (!words) ofPublications.set(publication, (words = findWords(publication)));
  return words;
}

function findWords({ facts, design }: Pick<NumberedPublication, 'facts' | 'design'>): OutputWords {
  const words = outputWords(facts.language);
  const own = admonitionKinds.flatMap((kind) => {
    const { word } = design.blocks.admonitions[kind];
    return word === '' ? [] : [[kind, word] as const];
  });
  const stamps = Object.entries(design.stamps).flatMap(([key, { word }]) =>
    word === '' ? [] : [[key, word] as const],
  );
  if (own.length === 0 && stamps.length === 0) return words;
  const name = JSON.stringify([words.contents, own, stamps]);
  let found = ofDesigns.get(name);
  if (!found) {
    if (ofDesigns.size >= mostOfDesigns) ofDesigns.clear();
    const admonitions = { ...words.admonitions, ...Object.fromEntries(own) };
    found = { ...words, admonitions, stamps: Object.fromEntries(stamps) };
    ofDesigns.set(name, found);
  }
  return found;
}

/** Languages that are written from right to left, by their script (Unicode CLDR, `characterOrder`). */
const rightToLeft: ReadonlySet<string> = new Set(['ar', 'dv', 'fa', 'he', 'ks', 'ku', 'ps', 'sd', 'ug', 'ur', 'yi']);

export function directionOf(language: string): 'ltr' | 'rtl' {
  return rightToLeft.has(language.toLowerCase().split('-')[0] ?? '') ? 'rtl' : 'ltr';
}
