import type { Axis } from './axis.js';

/** Where a stamp may stand. */
export const stampPlaces = ['blocks', 'phrases', 'both'] as const;
export type StampPlace = (typeof stampPlaces)[number];

/** A team's own name for what a block or phrase is. */
export interface Stamp {
  readonly key: string;
  readonly title: string;
  readonly on: StampPlace;
  /** The key of the stamp from which it takes what it does not say; null: none. */
  readonly from: string | null;
  /** The standing condition of all that bears it, besides the content's own; null: none. */
  readonly when: string | null;
}

/** What conditions are decided by. */
export interface Vocabulary {
  readonly axes: readonly Axis[];
  readonly stamps: readonly Stamp[];
}

/** How many stamps may derive from each other in a row. */
export const mostStampDerivations = 20;

/**
 * A stamp and those that it derives from, nearest first.
 * @returns as far as the way goes: it ends before a stamp that is not there, or that it came by already
 */
export function wayOfStamp(key: string, stamps: readonly Stamp[]): readonly Stamp[] {
  const way: Stamp[] = [];
  let next: string | null = key;
  while (next !== null && way.length < mostStampDerivations) {
    const found = stamps.find((stamp) => stamp.key === next);
    if (!found || way.includes(found)) break;
    way.push(found);
    next = found.from;
  }
  return way;
}
