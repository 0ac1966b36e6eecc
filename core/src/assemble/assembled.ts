import type { AssembledNode } from '../model/node.js';
import type { Problem } from '../model/problem.js';
import type { EntryRole } from '../model/publication.js';
import { flattenTree } from '../model/tree.js';
import type { AssembledLook } from './look.js';
import type { Piece } from './memo.js';
import type { PageContent } from './memory.js';
import type { OutlinePlace } from './outline.js';
import type { ValuesInForce } from './place.js';
import type { Reading } from './reading.js';

/** One entry of an assembled outline: one page of the deliverable. */
export interface AssembledEntry {
  /** Unique in the publication, also where a publication stands in another one more than once. */
  readonly id: string;
  /** Names the page for good, see `pageNames`. */
  readonly name: string;
  /** Null for a heading without a topic. */
  readonly topic: string | null;
  readonly role: EntryRole;
  readonly title: readonly AssembledNode[];
  readonly blocks: readonly AssembledNode[];
  readonly entries: readonly AssembledEntry[];
  /** What was read for its content, and what was found in it. */
  readonly piece: Piece<PageContent>;
  readonly values: ValuesInForce;
}

/** An entry whose topic was emptied, and which was left out for that. */
export type LeftOutEntry = Omit<AssembledEntry, 'name' | 'entries'>;

export interface AssembledPublication {
  readonly title: readonly AssembledNode[];
  readonly entries: readonly AssembledEntry[];
  readonly leftOut: readonly LeftOutEntry[];
  /** What was read for the title. */
  readonly titlePiece: Piece<unknown>;
  /** What the design shows of the library, and what was read for it. */
  readonly look: AssembledLook;
  readonly lookPiece: Piece<unknown>;
  /** What was read for the outline itself: conditions of entries, topics that do not exist, what an emptied one read. */
  readonly outline: Piece<unknown>;
  readonly problems: readonly Problem[];
  /** The entries that are in, before their topics are looked at. */
  readonly places: readonly OutlinePlace[];
  /** The values in force in the outline itself. */
  readonly values: ValuesInForce;
  /** The reading that it was assembled with. */
  readonly reading: Reading;
}

/** All entries of an assembled outline, parents first. */
export function flattenAssembled(entries: readonly AssembledEntry[]): readonly AssembledEntry[] {
  return flattenTree(entries, (entry) => entry.entries);
}
