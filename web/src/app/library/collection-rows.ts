import type { KnownCollection } from '@allomorph/core';

/** One line of the tree of collections. */
export interface CollectionRow {
  /** Its way from the top. */
  readonly way: string;
  readonly name: string;
  /** From 1. */
  readonly level: number;
  /** How many components are in it and below. */
  readonly count: number;
  readonly hasInner: boolean;
  readonly isOpen: boolean;
}

/**
 * The tree of collections, line by line; those that only have others in them are lines, too.
 * @param open the ways of those whose inner ones are shown
 */
export function collectionRows(
  collections: readonly KnownCollection[],
  open: ReadonlySet<string>,
): readonly CollectionRow[] {
  const counts = new Map<string, number>();
  for (const { name, count } of collections)
    for (const way of waysTo(name)) counts.set(way, (counts.get(way) ?? 0) + count);
  const below = (above: string): readonly CollectionRow[] =>
    [...counts.keys()]
      .filter((way) => parentOf(way) === above)
      .map((way) => ({ way, name: nameOf(way) }))
      .sort((a, b) => a.name.localeCompare(b.name))
      .flatMap(({ way, name }): readonly CollectionRow[] => {
        const inner = below(way);
        const isOpen = inner.length > 0 && open.has(way);
        const level = way.split('/').length;
        const row = { way, name, level, count: counts.get(way) ?? 0, hasInner: inner.length > 0, isOpen };
        return [row, ...(isOpen ? inner : [])];
      });
  return below('');
}

/** A collection and all that it stands in, the outermost first. */
export function waysTo(way: string): readonly string[] {
  const names = way.split('/');
  return names.map((_, at) => names.slice(0, at + 1).join('/'));
}

/** What a collection stands in; empty: it stands at the top. */
export function parentOf(way: string): string {
  return way.split('/').slice(0, -1).join('/');
}

export function nameOf(way: string): string {
  return way.split('/').at(-1) ?? way;
}

/** A collection as it is told: “Legal / Europe”. */
export function collectionText(way: string): string {
  return way.replaceAll('/', ' / ');
}
