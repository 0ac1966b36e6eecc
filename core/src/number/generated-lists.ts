import { textAttr, type ContentNode } from '../content/node.js';
import type { Problem } from '../problems/problem.js';
import { flattenPages, type Label, type NumberedPage, type NumberedPublication } from './numbered.js';
import { plainText } from './plain-text.js';

/** One line of the contents, with those below it. */
export interface ContentsEntry {
  readonly label: Label;
  readonly page: NumberedPage;
  readonly entries: readonly ContentsEntry[];
}

/**
 * The contents: every page, and the sections inside topics down to a depth.
 * @param depth how many levels of sections below each page's title
 */
export function contentsOf(publication: NumberedPublication, depth: number): readonly ContentsEntry[] {
  const visit = (page: NumberedPage): ContentsEntry => {
    const top: ContentsEntry[] = [];
    // The lists that entries of each depth join, the page's first.
    const lists: ContentsEntry[][] = [top];
    page.notes.landmarks.forEach(({ kind, depth: level }, at) => {
      const list = lists[level];
      if (kind !== 'section' || level >= depth || !list) return;
      const entries: ContentsEntry[] = [];
      list.push({ label: page.labels[at] as Label, page, entries });
      lists.length = level + 1;
      lists.push(entries);
    });
    return { label: page.label, page, entries: [...top, ...page.pages.map(visit)] };
  };
  return publication.pages.map(visit);
}

/** What a list of figures, tables or examples shows: everything of the kind that has a caption, in order. */
export function captionsOf(
  publication: NumberedPublication,
  kind: 'figure' | 'table' | 'example',
): readonly { readonly label: Label; readonly page: NumberedPage }[] {
  return flattenPages(publication.pages).flatMap((page) =>
    page.labels.filter((label) => label.kind === kind && label.title.length > 0).map((label) => ({ label, page })),
  );
}

/** Where a heading of the index leads to. */
export interface IndexLocator {
  readonly page: NumberedPage;
  /** The nearest heading around the marker. */
  readonly heading: Label;
  /** The HTML id of the marker; null: the page. */
  readonly anchor: string | null;
}

export interface IndexEntry {
  readonly heading: string;
  readonly locators: readonly IndexLocator[];
  readonly see: readonly string[];
  readonly seeAlso: readonly string[];
  readonly entries: readonly IndexEntry[];
}

/** The headings under one letter. */
export interface IndexGroup {
  /** A letter; empty for what begins with neither a letter nor a digit, and `0–9` for digits. */
  readonly letter: string;
  readonly entries: readonly IndexEntry[];
}

interface Draft {
  readonly heading: string;
  readonly locators: IndexLocator[];
  readonly see: Set<string>;
  readonly seeAlso: Set<string>;
  readonly below: Map<string, Draft>;
}

/**
 * The index: headings of two levels with the places they lead to, sorted and grouped by letter as the
 * language does (Unicode Technical Standard 10, by way of ECMA-402 `Intl.Collator`).
 */
export function indexOf(publication: NumberedPublication): readonly IndexGroup[] {
  const drafts = new Map<string, Draft>();
  for (const page of flattenPages(publication.pages)) {
    for (const { node, section, anchor } of page.notes.markers) {
      const primary = textAttr(node, 'primary')?.trim() ?? '';
      if (primary === '') continue;
      const secondary = textAttr(node, 'secondary')?.trim() ?? '';
      let draft = draftIn(drafts, primary);
      if (secondary !== '') draft = draftIn(draft.below, secondary);
      const [see, seeAlso] = [textAttr(node, 'see')?.trim(), textAttr(node, 'seeAlso')?.trim()];
      if (see) draft.see.add(see);
      if (seeAlso) draft.seeAlso.add(seeAlso);
      const heading = (section === null ? undefined : page.labels[section]) ?? page.label;
      // A reference to another heading is no place of its own.
      if (!see && !draft.locators.some((each) => each.heading === heading))
        draft.locators.push({ page, heading, anchor });
    }
  }
  const collator = new Intl.Collator(publication.language, { numeric: true });
  return groupByLetter(finish(drafts, collator), publication.language);
}

function draftIn(drafts: Map<string, Draft>, heading: string): Draft {
  let draft = drafts.get(heading);
  if (!draft) {
    draft = { heading, locators: [], see: new Set(), seeAlso: new Set(), below: new Map() };
    drafts.set(heading, draft);
  }
  return draft;
}

function finish(drafts: ReadonlyMap<string, Draft>, collator: Intl.Collator): readonly IndexEntry[] {
  return [...drafts.values()]
    .sort((a, b) => collator.compare(a.heading, b.heading) || (a.heading < b.heading ? -1 : 1))
    .map(({ heading, locators, see, seeAlso, below }) => ({
      heading,
      locators,
      see: [...see].sort(collator.compare),
      seeAlso: [...seeAlso].sort(collator.compare),
      entries: finish(below, collator),
    }));
}

function groupByLetter(entries: readonly IndexEntry[], language: string): readonly IndexGroup[] {
  const base = new Intl.Collator(language, { sensitivity: 'base' });
  const letters = new Map<string, IndexEntry[]>();
  for (const entry of entries) {
    const letter = letterOf(entry.heading, language);
    // Letters that the language does not tell apart share a group: in German “Ä” stands under “A”.
    const known = [...letters.keys()].find((each) => base.compare(each, letter) === 0);
    if (known === undefined) letters.set(letter, [entry]);
    else letters.get(known)?.push(entry);
  }
  return [...letters].map(([letter, members]) => ({ letter, entries: members }));
}

function letterOf(heading: string, language: string): string {
  const [first = ''] = heading;
  if (/\p{N}/u.test(first)) return '0–9';
  if (!/\p{L}/u.test(first)) return '';
  const plain = first.normalize('NFD').replace(/\p{M}/gu, '');
  const same = new Intl.Collator(language, { sensitivity: 'base' }).compare(first, plain) === 0;
  return (same ? plain : first).toLocaleUpperCase(language);
}

/** “See” and “see also” that name a heading which the index of this variant does not have. */
export function danglingIndexReferences(publication: NumberedPublication): readonly Problem[] {
  const pages = flattenPages(publication.pages);
  const headings = new Set<string>();
  for (const { notes } of pages) {
    for (const { node } of notes.markers) {
      const primary = textAttr(node, 'primary')?.trim() ?? '';
      headings.add(primary);
      const secondary = textAttr(node, 'secondary')?.trim();
      if (secondary) headings.add(`${primary}, ${secondary}`);
    }
  }
  return pages.flatMap(({ notes }) =>
    notes.markers.flatMap(({ node, component, block }): Problem[] =>
      ['see', 'seeAlso'].flatMap((kind) => {
        const heading = textAttr(node, kind)?.trim();
        if (!heading || headings.has(heading)) return [];
        const message = `The index sends readers to “${heading}”, which no marker of this variant names.`;
        return [
          { severity: 'warning', code: 'missing-index-heading', message, place: { component, block, entry: null } },
        ];
      }),
    ),
  );
}

/** A term of the glossary, with the place that defines it. */
export interface GlossaryEntry {
  readonly term: string;
  readonly definition: readonly ContentNode[];
  readonly page: NumberedPage;
  readonly heading: Label;
  readonly component: string;
  readonly placements: readonly string[];
}

/** The glossary: every term that is marked where it is defined, once, sorted by the language. */
export function glossaryOf(publication: NumberedPublication): readonly GlossaryEntry[] {
  const entries = new Map<string, GlossaryEntry>();
  for (const page of flattenPages(publication.pages)) {
    for (const { term, definition, section, component, placements } of page.notes.terms) {
      const name = plainText(term);
      if (name === '' || definition.length === 0 || entries.has(name)) continue;
      const heading = (section === null ? undefined : page.labels[section]) ?? page.label;
      entries.set(name, { term: name, definition, page, heading, component, placements });
    }
  }
  const collator = new Intl.Collator(publication.language, { numeric: true });
  return [...entries.values()].sort((a, b) => collator.compare(a.term, b.term) || (a.term < b.term ? -1 : 1));
}
