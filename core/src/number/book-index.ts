import { textAttr } from '../model/node.js';
import type { Problem } from '../model/problem.js';
import { shownHeadingAt } from './references.js';
import type { Label } from './notes.js';
import { flattenPages, type NumberedPage, type NumberedPublication } from './numbered.js';

/** Where a heading of the index leads to. */
export interface IndexLocator {
  readonly page: NumberedPage;
  /** The nearest heading around the marker. */
  readonly heading: Label;
  /** The occurrence of the block that it stands in; null: the heading. */
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
 * The index: headings of three levels with the places they lead to, sorted and grouped by letter as the
 * language does (Unicode Technical Standard 10, by way of ECMA-402 `Intl.Collator`).
 */
export function indexOf(publication: NumberedPublication): readonly IndexGroup[] {
  const drafts = new Map<string, Draft>();
  for (const page of flattenPages(publication.pages)) {
    for (const { node, section, anchor } of page.notes.markers) {
      const primary = textAttr(node, 'primary')?.trim() ?? '';
      if (primary === '') continue;
      let draft = draftIn(drafts, primary);
      for (const level of [textAttr(node, 'secondary'), textAttr(node, 'tertiary')]) {
        if (level?.trim()) draft = draftIn(draft.below, level.trim());
      }
      const [see, seeAlso] = [textAttr(node, 'see')?.trim(), textAttr(node, 'seeAlso')?.trim()];
      if (see) draft.see.add(see);
      if (seeAlso) draft.seeAlso.add(seeAlso);
      const heading = shownHeadingAt(page, section);
      // A reference to another heading is no place of its own.
      if (!see && !draft.locators.some((each) => each.heading === heading))
        draft.locators.push({ page, heading, anchor });
    }
  }
  // As in a glossary: most publications have none.
  if (drafts.size === 0) return [];
  const collator = new Intl.Collator(publication.facts.language, { numeric: true });
  return groupByLetter(finish(drafts, collator), publication.facts.language);
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
    const letter = letterOf(entry.heading, base, language);
    // Letters that the language does not tell apart share a group: in German “Ä” stands under “A”.
    const known = [...letters.keys()].find((each) => base.compare(each, letter) === 0);
    if (known === undefined) letters.set(letter, [entry]);
    else letters.get(known)?.push(entry);
  }
  return [...letters].map(([letter, members]) => ({ letter, entries: members }));
}

/** @param base tells letters apart, not their accents, as the language does */
function letterOf(heading: string, base: Intl.Collator, language: string): string {
  const [first = ''] = heading;
  if (/\p{N}/u.test(first)) return '0–9';
  if (!/\p{L}/u.test(first)) return '';
  const plain = first.normalize('NFD').replace(/\p{M}/gu, '');
  return (base.compare(first, plain) === 0 ? plain : first).toLocaleUpperCase(language);
}

/** “See” and “see also” that name a heading which the index of this variant does not have. */
export function danglingIndexReferences(publication: NumberedPublication): readonly Problem[] {
  const pages = flattenPages(publication.pages);
  const headings = new Set<string>();
  for (const { notes } of pages) {
    for (const { node } of notes.markers) {
      const levels = ['primary', 'secondary', 'tertiary'].flatMap((level) => textAttr(node, level)?.trim() || []);
      levels.forEach((_, at) => headings.add(levels.slice(0, at + 1).join(', ')));
    }
  }
  return pages.flatMap(({ notes }) =>
    notes.markers.flatMap(({ node, component, block }): Problem[] =>
      ['see', 'seeAlso'].flatMap((kind) => {
        const heading = textAttr(node, kind)?.trim();
        if (!heading || headings.has(heading)) return [];
        const message = `The index sends readers to “${heading}”, which no index term of this variant names.`;
        return [
          { severity: 'warning', code: 'missing-index-heading', message, place: { component, block, entry: null } },
        ];
      }),
    ),
  );
}
