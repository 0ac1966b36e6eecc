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
