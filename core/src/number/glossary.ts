import type { AssembledNode } from '../model/node.js';
import type { Problem } from '../model/problem.js';
import { flattenPages, type NumberedPage, type NumberedPublication } from './numbered.js';
import type { FoundTerm, Label } from './notes.js';
import { plainText } from './plain-text.js';
import { shownHeadingAt } from './references.js';

/** One place that defines a term. */
export interface Definition {
  readonly blocks: readonly AssembledNode[];
  readonly page: NumberedPage;
  /** The nearest heading around it. */
  readonly heading: Label;
  readonly component: string;
  readonly placements: readonly string[];
}

/** A term of the glossary with all its definitions, in reading order. */
export interface GlossaryEntry {
  readonly term: string;
  readonly definitions: readonly Definition[];
}

/**
 * The glossary: every term that is marked where it is defined, sorted by the language. What is placed in several
 * topics defines a term once.
 */
export function glossaryOf(publication: NumberedPublication): readonly GlossaryEntry[] {
  const entries = new Map<string, Map<string, Definition>>();
  for (const page of flattenPages(publication.pages)) {
    for (const { term, definition, section, component, placements } of page.notes.terms) {
      const name = plainText(term);
      if (name === '' || !isDefined(definition)) continue;
      const heading = shownHeadingAt(page, section);
      const known = entries.get(name) ?? new Map<string, Definition>();
      entries.set(name, known);
      const sign = `${component} ${plainText(definition)}`;
      if (!known.has(sign)) known.set(sign, { blocks: definition, page, heading, component, placements });
    }
  }
  // Rules of sorting take long to read, and most publications have no glossary.
  if (entries.size === 0) return [];
  const collator = new Intl.Collator(publication.facts.language, { numeric: true });
  return [...entries]
    .map(([term, definitions]) => ({ term, definitions: [...definitions.values()] }))
    .sort((a, b) => collator.compare(a.term, b.term) || (a.term < b.term ? -1 : 1));
}

/** Terms that are marked as defined where nothing defines them, and that nothing else defines either. */
export function undefinedTerms(publication: NumberedPublication): readonly Problem[] {
  const defined = new Set<string>();
  const open: { readonly name: string; readonly found: FoundTerm }[] = [];
  for (const { notes } of flattenPages(publication.pages)) {
    for (const found of notes.terms) {
      const name = plainText(found.term);
      if (name === '') continue;
      if (isDefined(found.definition)) defined.add(name);
      else open.push({ name, found });
    }
  }
  return open
    .filter(({ name }) => !defined.has(name))
    .map(({ name, found: { component, block } }) => ({
      severity: 'warning',
      code: 'term-without-definition',
      message: `The term “${name}” is marked where nothing defines it, so the glossary leaves it out.`,
      place: { component, block, entry: null },
    }));
}

function isDefined(definition: readonly AssembledNode[]): boolean {
  return definition.length > 0 && plainText(definition) !== '';
}
