import { readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import { parse, type HTMLElement } from 'node-html-parser';

/** What is compared of a manual: its words, its numbered headings and the texts of its section references. */
export interface ManualText {
  readonly words: ReadonlyMap<string, number>;
  readonly headings: readonly string[];
  readonly references: readonly string[];
}

export interface ShareOfEqual {
  readonly found: number;
  readonly of: number;
  readonly share: number;
  /** What is missing, with how often. */
  readonly missing: readonly (readonly [string, number])[];
}

const numberedHeading = /^((Chapter|Appendix) [0-9A-Z]+|[0-9A-Z]+(\.[0-9]+)+|Table [0-9A-Z.]+|Figure [0-9A-Z.]+)\. ./;

/** Reads the published manual: its navigation and its contents are left out. */
export function readPublished(folder: string): ManualText {
  return read(
    folder,
    (page) => {
      page
        .querySelectorAll(
          '.navheader, .navfooter, .toc, .list-of-tables, .list-of-figures, .list-of-examples, div.index, head',
        )
        .forEach((node) => node.remove());
      return page.querySelectorAll('body');
    },
    'a.xref',
    'h1.title, h2.title, h3.title, h4.title, h5.title, p.title',
  );
}

/** Reads one of our deliverables: content is what stands in `<main>`. */
export function readDeliverable(folder: string): ManualText {
  return read(
    folder,
    (page) => page.querySelectorAll('main:not(.generated)'),
    'a.reference',
    'h1, h2, h3, h4, h5, h6, caption, figcaption',
  );
}

function read(
  folder: string,
  content: (page: HTMLElement) => readonly HTMLElement[],
  referenceSelector: string,
  headingSelector: string,
): ManualText {
  const words = new Map<string, number>();
  const headings: string[] = [];
  const references: string[] = [];
  for (const name of readdirSync(folder)
    .filter((each) => each.endsWith('.html'))
    .sort()) {
    const page = parse(readFileSync(join(folder, name), 'utf8'), {
      blockTextElements: { script: false, style: false },
    });
    for (const main of content(page)) {
      for (const word of spaced(main).toLowerCase().match(/\w+/g) ?? []) words.set(word, (words.get(word) ?? 0) + 1);
      for (const heading of main.querySelectorAll(headingSelector)) {
        const text = fold(heading.text);
        if (numberedHeading.test(text)) headings.push(text);
      }
      for (const reference of main.querySelectorAll(referenceSelector)) {
        const text = fold(reference.text);
        if (/^(Section|Chapter|Appendix|Table|Figure) /.test(text)) references.push(text);
      }
    }
  }
  return { words, headings, references };
}

const inline = new Set([
  'A',
  'B',
  'I',
  'EM',
  'STRONG',
  'SPAN',
  'CODE',
  'KBD',
  'TT',
  'SUP',
  'SUB',
  'DFN',
  'CITE',
  'Q',
  'ABBR',
  'SMALL',
  'U',
  'VAR',
  'SAMP',
]);

/** The text of a page with a space at the edges of blocks, so that words of neighbours stay apart. */
function spaced(node: HTMLElement): string {
  let text = '';
  for (const child of node.childNodes) {
    if (child.nodeType === 3) text += child.text;
    else if (child.nodeType === 1) {
      const element = child as HTMLElement;
      const inner = spaced(element);
      text += inline.has(element.tagName) ? inner : ` ${inner} `;
    }
  }
  return text;
}

function fold(text: string): string {
  return text.replace(/[\s\u00a0]+/g, ' ').trim();
}

/** How much of one multiset stands in another. */
export function shareOfWords(of: ReadonlyMap<string, number>, within: ReadonlyMap<string, number>): ShareOfEqual {
  let total = 0;
  let found = 0;
  const missing: (readonly [string, number])[] = [];
  for (const [word, count] of of) {
    const there = Math.min(count, within.get(word) ?? 0);
    total += count;
    found += there;
    if (there < count) missing.push([word, count - there]);
  }
  return { found, of: total, share: total === 0 ? 0 : found / total, missing: missing.sort((a, b) => b[1] - a[1]) };
}

/** The same for lists of texts. */
export function shareOfTexts(of: readonly string[], within: readonly string[]): ShareOfEqual {
  return shareOfWords(countTexts(of), countTexts(within));
}

function countTexts(texts: readonly string[]): ReadonlyMap<string, number> {
  const counts = new Map<string, number>();
  for (const text of texts) counts.set(text, (counts.get(text) ?? 0) + 1);
  return counts;
}
