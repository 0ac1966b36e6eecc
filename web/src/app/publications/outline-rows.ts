import type { OutlineEntry } from '@allomorph/core';

/** One line of an outline as it is drawn. */
export interface OutlineRow {
  readonly entry: OutlineEntry;
  /** From 1. */
  readonly level: number;
  readonly hasEntries: boolean;
  readonly isOpen: boolean;
  /** Its place among its siblings, from 1, and how many they are. */
  readonly place: number;
  readonly siblings: number;
}

/**
 * The lines of an outline that are not folded away, in order.
 * @param folded the ids of entries whose own are not shown
 */
export function outlineRows(entries: readonly OutlineEntry[], folded: ReadonlySet<string>, level = 1): OutlineRow[] {
  const rows: OutlineRow[] = [];
  entries.forEach((entry, index) => {
    const below = entry.entries ?? [];
    const isOpen = below.length > 0 && !folded.has(entry.id);
    rows.push({
      entry,
      level,
      hasEntries: below.length > 0,
      isOpen,
      place: index + 1,
      siblings: entries.length,
    });
    if (isOpen) for (const row of outlineRows(below, folded, level + 1)) rows.push(row);
  });
  return rows;
}

/** The ids of the entries above one, nearest last; none for one that is not there. */
export function entriesAbove(entries: readonly OutlineEntry[], id: string): readonly string[] {
  const find = (list: readonly OutlineEntry[], above: readonly string[]): readonly string[] | null => {
    for (const entry of list) {
      if (entry.id === id) return above;
      const found = find(entry.entries ?? [], [...above, entry.id]);
      if (found) return found;
    }
    return null;
  };
  return find(entries, []) ?? [];
}

/** Where an entry is dropped, seen from another one. */
export type DropPlace = 'before' | 'into' | 'after';

/** The outline with an entry, and all that is in it, moved to another place; as it was where it would stand in itself. */
export function dropEntry(
  entries: readonly OutlineEntry[],
  id: string,
  target: string,
  place: DropPlace,
): readonly OutlineEntry[] {
  if (id === target || entriesAbove(entries, target).includes(id)) return entries;
  let moved: OutlineEntry | null = null;
  const without = (list: readonly OutlineEntry[]): OutlineEntry[] =>
    list.flatMap((entry) => {
      if (entry.id === id) {
        moved = entry;
        return [];
      }
      return [withEntries(entry, without(entry.entries ?? []))];
    });
  const rest = without(entries);
  const entry = moved as OutlineEntry | null;
  if (!entry) return entries;
  const put = (list: readonly OutlineEntry[]): OutlineEntry[] =>
    list.flatMap((each) => {
      const below = put(each.entries ?? []);
      if (each.id !== target) return [withEntries(each, below)];
      if (place === 'into') return [withEntries(each, [...below, entry])];
      const same = withEntries(each, below);
      return place === 'before' ? [entry, same] : [same, entry];
    });
  return put(rest);
}

function withEntries(entry: OutlineEntry, entries: readonly OutlineEntry[]): OutlineEntry {
  if (entries.length === 0 && !entry.entries) return entry;
  return { ...entry, entries: entries.length > 0 ? [...entries] : undefined };
}
