import { sectionsOn, type ContentsEntry } from '../../number/contents.js';
import type { Label } from '../../number/notes.js';
import type { NumberedPage, NumberedPublication } from '../../number/numbered.js';
import { glossaryOf } from '../../number/glossary.js';
import { plainText } from '../../number/plain-text.js';
import { headingNumber, titleWords } from '../labels.js';
import { wordsOf, type OutputWords } from '../words.js';
import { addressOf } from './addresses.js';
import { perPage } from './per-page.js';

/** A line of the contents: number, title, address, and the lines below it. */
export type SiteEntry = readonly [number: string, title: string, href: string, below?: readonly SiteEntry[]];

/** What all pages of a site share, for the script of the site. */
export interface SiteData {
  readonly language: string;
  /** When the site was made, as ISO 8601. */
  readonly date: string;
  readonly words: OutputWords['reader'];
  readonly contents: readonly SiteEntry[];
  /** The terms of the glossary; what they mean stands in a file of its own. */
  readonly terms: readonly string[];
}

/** The file that holds it, and what whoever packs the site replaces by the day of the build. */
export const siteDataFile = 'contents.js';
export const datePlaceholder = '@made';

/** The file that says what terms mean, in the order in which they are named. */
export const glossaryFile = 'glossary.js';

/** How deep sections go into the contents. */
const deepest = 6;

/** A line of the contents as JSON, without the bracket at its end: number, title, address. */
function lineText(publication: NumberedPublication, label: Label): string {
  const { design } = publication;
  const words = wordsOf(publication);
  const line = [headingNumber(design, label), titleWords(design, label, words), addressOf(label)];
  return JSON.stringify(line).slice(0, -1);
}

/** A line with those below it. */
const withBelow = (line: string, below: readonly string[]): string =>
  below.length === 0 ? `${line}]` : `${line},[${below.join()}]]`;

/**
 * The line of a page, and those of its sections, one below the other. Marked as free of effects: the script of sites takes
 * names of files from this module, and brings nothing else of it.
 */
const pageText = /* @__PURE__ */ perPage((page, publication: NumberedPublication) => {
  const section = ({ label, entries }: ContentsEntry): string =>
    withBelow(lineText(publication, label), entries.map(section));
  return [lineText(publication, page.label), ...sectionsOn(page, deepest).map(section)].join('\n');
});

/**
 * What all pages share, as a script: browsers read scripts from a folder, and data they do not.
 * @param look equal only for equal designs and languages
 */
export function siteDataText(publication: NumberedPublication, look: string): string {
  const entry = (page: NumberedPage): string => {
    const [line = '', ...sections] = pageText(page, look, publication).split('\n');
    return withBelow(line, [...sections, ...page.pages.map(entry)]);
  };
  const data: Omit<SiteData, 'contents' | 'terms'> = {
    language: publication.facts.language,
    date: datePlaceholder,
    words: wordsOf(publication).reader,
  };
  const contents = publication.pages.map(entry).join();
  const terms = JSON.stringify(glossaryOf(publication).map(({ term }) => term));
  return `window.siteData=${JSON.stringify(data).slice(0, -1)},"contents":[${contents}],"terms":${terms}};`;
}

/** What the terms of the glossary mean, as a script; paragraphs stand on lines of their own. */
export function glossaryText(publication: NumberedPublication): string {
  // As passages are searched: without what cannot be shown.
  const words = { quotes: wordsOf(publication).quotes, missing: '' };
  const texts = glossaryOf(publication).map(({ definitions }) =>
    definitions.flatMap(({ blocks }) => blocks.map((block) => plainText([block], words))).filter((text) => text !== ''),
  );
  return `window.siteGlossary=${JSON.stringify(texts.map((paragraphs) => paragraphs.join('\n')))};`;
}

/** Another variant of what a site says, that lies where the site does. */
export interface OtherSite {
  readonly title: string;
  /** A language tag (BCP 47). */
  readonly language: string;
  /** The address of its folder, as seen from pages of the site. */
  readonly folder: string;
  /** The pages of the site that it does not have. */
  readonly lacks: readonly string[];
}

/** The file that says which other variants there are. A site does not know: whoever puts several of them together does. */
export const othersFile = 'others.js';

/** Other variants of a site, as a script. */
export function othersText(others: readonly OtherSite[]): string {
  return `window.siteOthers=${JSON.stringify(others)};`;
}
