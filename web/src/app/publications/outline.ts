import type { OutlineEntry } from '@allomorph/core';

/** Changes one entry of an outline. */
export function changeEntry(
  entries: readonly OutlineEntry[],
  id: string,
  change: Partial<OutlineEntry>,
): OutlineEntry[] {
  return entries.map((entry) => {
    const own = entry.id === id ? { ...entry, ...change } : entry;
    return own.entries ? { ...own, entries: changeEntry(own.entries, id, change) } : own;
  });
}

/** Takes an entry out; the entries below it move up to its place. */
export function removeEntry(entries: readonly OutlineEntry[], id: string): OutlineEntry[] {
  return entries.flatMap((entry) => {
    const below = removeEntry(entry.entries ?? [], id);
    if (entry.id === id) return below;
    return [entry.entries ? { ...entry, entries: below } : entry];
  });
}

/** Adds an entry behind another one, at its level; at the end where that one is not found. */
export function addEntry(entries: readonly OutlineEntry[], after: string | null, added: OutlineEntry): OutlineEntry[] {
  if (after === null || !contains(entries, after)) return [...entries, added];
  return entries.flatMap((entry) => {
    if (entry.id === after) return [entry, added];
    if (!entry.entries || !contains(entry.entries, after)) return [entry];
    return [{ ...entry, entries: addEntry(entry.entries, after, added) }];
  });
}

/** Where an entry can be moved: among its siblings, under the one before, or behind its parent. */
export type EntryMove = 'up' | 'down' | 'in' | 'out';

/** Moves an entry among its siblings, or one level in (under the one before) or out. */
export function moveEntry(entries: readonly OutlineEntry[], id: string, to: EntryMove): OutlineEntry[] {
  const index = entries.findIndex((entry) => entry.id === id);
  const list = [...entries];
  const entry = list[index];
  if (!entry) {
    return list.flatMap((each) => {
      const below = each.entries ?? [];
      const inside = below.find((child) => child.id === id);
      if (to === 'out' && inside) return [{ ...each, entries: below.filter((child) => child !== inside) }, inside];
      return [each.entries ? { ...each, entries: moveEntry(below, id, to) } : each];
    });
  }
  const before = list[index - 1];
  if (to === 'in' && before) {
    list.splice(index - 1, 2, { ...before, entries: [...(before.entries ?? []), entry] });
  } else if (to === 'up' && before) list.splice(index - 1, 2, entry, before);
  else if (to === 'down' && index + 1 < list.length) list.splice(index, 2, list[index + 1] as OutlineEntry, entry);
  return list;
}

/** An id that no entry has. */
export function freshEntryId(entries: readonly OutlineEntry[]): string {
  let highest = 0;
  const visit = (list: readonly OutlineEntry[]): void => {
    for (const entry of list) {
      highest = Math.max(highest, Number(/^e(\d+)$/.exec(entry.id)?.[1] ?? 0));
      visit(entry.entries ?? []);
    }
  };
  visit(entries);
  return `e${highest + 1}`;
}

function contains(entries: readonly OutlineEntry[], id: string): boolean {
  return entries.some((entry) => entry.id === id || contains(entry.entries ?? [], id));
}
