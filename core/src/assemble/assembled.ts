import type { ContentNode } from '../content/node.js';
import type { Problem } from '../problems/problem.js';
import type { EntryRole } from '../publication/publication.js';
import type { Trace } from './trace.js';
import { flattenTree } from '../tree.js';

/**
 * Assembled content: conditions applied, variables and placements replaced by what they stand for.
 * Nodes are those of the content schema without `choice`, `copied`, `placement`, `inline_placement` and
 * (but for the built-in ones that depend on the place) `variable`, plus
 *
 * - `placed`: the content of a block placement; `attrs.placement` is the placement's id and
 *   `attrs.component` what was placed. Ids inside are unique together with the placements around them.
 * - `slot`: the candidates of a slot, each a `placed`; `attrs.stated` is the component of the one that
 *   stands where only one can.
 *
 * Whatever a variant does not change is the very same object as in the source body.
 */
export type AssembledNode = ContentNode;

/** One entry of an assembled outline: one page of the deliverable. */
export interface AssembledEntry {
  /** Unique in the publication, also where a publication stands in another one more than once. */
  readonly id: string;
  readonly topic: string;
  readonly role: EntryRole;
  readonly title: readonly AssembledNode[];
  readonly blocks: readonly AssembledNode[];
  readonly entries: readonly AssembledEntry[];
  /** What it uses, and the problems found in it. */
  readonly trace: Trace;
}

export interface AssembledPublication {
  readonly title: readonly AssembledNode[];
  readonly entries: readonly AssembledEntry[];
  /** What its title uses. */
  readonly trace: Trace;
  readonly problems: readonly Problem[];
  /** Every condition that was asked for on the way, and whether it holds. */
  readonly decisions: ReadonlyMap<string, boolean>;
}

/** All entries of an assembled outline, parents first. */
export function flattenAssembled(entries: readonly AssembledEntry[]): readonly AssembledEntry[] {
  return flattenTree(entries, (entry) => entry.entries);
}
