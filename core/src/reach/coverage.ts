import type { Publication } from '../model/publication.js';
import type { Source } from '../model/source.js';
import type { VariantSets } from '../variation/variant-sets.js';
import { setsOfPublication, type SetOptions } from './walk-sets.js';

/** How much of an entry's topic one variant has. */
export interface CoverageCell {
  /** Whether the entry itself is in. */
  readonly in: boolean;
  /** Blocks of the topic, placed ones included, that are in. */
  readonly blocks: number;
}

/** One entry of the outline over all variants. */
export interface CoverageRow {
  readonly entry: string;
  /** All blocks of the topic, in whatever variant. */
  readonly blocks: number;
  readonly cells: readonly CoverageCell[];
}

/** What each variant has of each entry of a publication, worked out for all variants in one pass. */
export function coverageOf(
  source: Source,
  sets: VariantSets,
  publication: Publication,
  options: SetOptions = {},
): readonly CoverageRow[] {
  return setsOfPublication(source, sets, publication, options).map(({ id, set, pieces }) => {
    const blocks = pieces.filter((piece) => piece.kind === 'block');
    const counts = new Uint32Array(sets.profiles.length);
    for (const piece of blocks) {
      if (piece.set.size > 0) for (const at of sets.positions(piece.set)) counts[at] = (counts[at] ?? 0) + 1;
    }
    return {
      entry: id,
      blocks: blocks.length,
      cells: sets.profiles.map((_, at) => ({ in: sets.has(set, at), blocks: counts[at] ?? 0 })),
    };
  });
}
