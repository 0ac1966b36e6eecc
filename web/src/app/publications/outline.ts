import { flattenEntries, type OutlineEntry } from '@allomorph/core';

/** Changes some entries of an outline. */
export function changeEntries(
  entries: readonly OutlineEntry[],
  ids: ReadonlySet<string>,
  change: Partial<OutlineEntry>,
): OutlineEntry[] {
  return entries.map((entry) => {
    const own = ids.has(entry.id) ? { ...entry, ...change } : entry;
    return own.entries ? { ...own, entries: changeEntries(own.entries, ids, change) } : own;
  });
}

/** Takes entries out; what stands below them moves up to their place. */
export function removeEntries(entries: readonly OutlineEntry[], ids: ReadonlySet<string>): OutlineEntry[] {
  return entries.flatMap((entry) => {
    const below = removeEntries(entry.entries ?? [], ids);
    if (ids.has(entry.id)) return below;
    return [entry.entries ? { ...entry, entries: below } : entry];
  });
}

/** Takes entries out with all that stands below them. */
export function cutEntries(entries: readonly OutlineEntry[], ids: ReadonlySet<string>): OutlineEntry[] {
  return entries.flatMap((entry) =>
    ids.has(entry.id) ? [] : [withEntries(entry, cutEntries(entry.entries ?? [], ids))],
  );
}

/** The entries that were picked, in order; those that stand in another picked one come with it. */
export function pickedEntries(entries: readonly OutlineEntry[], ids: ReadonlySet<string>): readonly OutlineEntry[] {
  return entries.flatMap((entry) => (ids.has(entry.id) ? [entry] : pickedEntries(entry.entries ?? [], ids)));
}

/** Adds entries behind another one, at its level; at the end where that one is not found. */
export function addEntries(
  entries: readonly OutlineEntry[],
  after: string | null,
  added: readonly OutlineEntry[],
): readonly OutlineEntry[] {
  if (after === null || !contains(entries, after)) return [...entries, ...added];
  return putEntries(entries, added, after, 'after');
}

/** Where entries are put, seen from another one. */
export type DropPlace = 'before' | 'into' | 'after';

/** The outline with entries put beside, or at the end of, one that is in it. */
export function putEntries(
  entries: readonly OutlineEntry[],
  added: readonly OutlineEntry[],
  target: string,
  place: DropPlace,
): OutlineEntry[] {
  return entries.flatMap((each) => {
    const below = putEntries(each.entries ?? [], added, target, place);
    if (each.id !== target) return [withEntries(each, below)];
    if (place === 'into') return [withEntries(each, [...below, ...added])];
    const same = withEntries(each, below);
    return place === 'before' ? [...added, same] : [same, ...added];
  });
}

/** The outline with entries, and all that is in them, moved to another place; as it was where they would stand in themselves. */
export function dropEntries(
  entries: readonly OutlineEntry[],
  ids: ReadonlySet<string>,
  target: string,
  place: DropPlace,
): readonly OutlineEntry[] {
  const moved = pickedEntries(entries, ids);
  if (moved.length === 0 || contains(moved, target)) return entries;
  return putEntries(cutEntries(entries, ids), moved, target, place);
}

/** Where an entry can be moved: among its siblings, under the one before, or behind its parent. */
export type EntryMove = 'up' | 'down' | 'in' | 'out';

/** Moves entries among their siblings, or one level in (under the one before) or out. Those that cannot be moved stay. */
export function moveEntries(
  entries: readonly OutlineEntry[],
  ids: ReadonlySet<string>,
  to: EntryMove,
): readonly OutlineEntry[] {
  // The ones that move first make room for the next.
  const moving = pickedEntries(entries, ids).map(({ id }) => id);
  if (to === 'down' || to === 'out') moving.reverse();
  const stuck = new Set<string>();
  let moved = entries;
  for (const id of moving) {
    const beside = siblingOf(moved, id, to === 'down' ? 1 : -1);
    const isHeld = to !== 'out' && beside !== undefined && stuck.has(beside);
    const next = isHeld ? moved : moveEntry(moved, id, to);
    if (next === moved) stuck.add(id);
    moved = next;
  }
  return moved;
}

/** The same outline where the entry cannot be moved so. */
function moveEntry(entries: readonly OutlineEntry[], id: string, to: EntryMove): readonly OutlineEntry[] {
  const index = entries.findIndex((entry) => entry.id === id);
  const list = [...entries];
  const entry = list[index];
  if (!entry) {
    let isSame = true;
    const moved = list.flatMap((each) => {
      const below = each.entries ?? [];
      const inside = below.find((child) => child.id === id);
      if (to === 'out' && inside) {
        isSame = false;
        return [{ ...each, entries: below.filter((child) => child !== inside) }, inside];
      }
      const after = moveEntry(below, id, to);
      if (after === below) return [each];
      isSame = false;
      return [{ ...each, entries: [...after] }];
    });
    return isSame ? entries : moved;
  }
  const before = list[index - 1];
  const behind = list[index + 1];
  if (to === 'in' && before) {
    list.splice(index - 1, 2, { ...before, entries: [...(before.entries ?? []), entry] });
  } else if (to === 'up' && before) list.splice(index - 1, 2, entry, before);
  else if (to === 'down' && behind) list.splice(index, 2, behind, entry);
  else return entries;
  return list;
}

function siblingOf(entries: readonly OutlineEntry[], id: string, step: number): string | undefined {
  const index = entries.findIndex((entry) => entry.id === id);
  if (index >= 0) return entries[index + step]?.id;
  for (const { entries: below } of entries) {
    if (below && contains(below, id)) return siblingOf(below, id, step);
  }
  return undefined;
}

/** Entries with ids that neither an outline nor each other have. */
export function withFreshIds(
  added: readonly OutlineEntry[],
  outline: readonly OutlineEntry[],
): readonly OutlineEntry[] {
  let last = highestId(outline);
  const fresh = (list: readonly OutlineEntry[]): OutlineEntry[] =>
    list.map((entry) => {
      last += 1;
      const own = { ...entry, id: `e${last}` };
      return entry.entries ? { ...own, entries: fresh(entry.entries) } : own;
    });
  return fresh(added);
}

function highestId(entries: readonly OutlineEntry[]): number {
  return flattenEntries(entries).reduce(
    (most, { entry }) => Math.max(most, Number(/^e(\d+)$/.exec(entry.id)?.[1] ?? 0)),
    0,
  );
}

function contains(entries: readonly OutlineEntry[], id: string): boolean {
  return entries.some((entry) => entry.id === id || contains(entry.entries ?? [], id));
}

function withEntries(entry: OutlineEntry, entries: readonly OutlineEntry[]): OutlineEntry {
  if (entries.length === 0 && !entry.entries) return entry;
  return { ...entry, entries: entries.length > 0 ? [...entries] : undefined };
}
