/**
 * How far content may grow by what it places, and how deep it may nest. No manual comes near; without limits ten snippets
 * that each place the next one ten times would be a library that nothing can build.
 */
export const limits = {
  /** Nodes of what stands for one placement or in one slot, with all that is placed in it. */
  placedNodes: 100_000,
  /** Nodes of one page. */
  pageNodes: 400_000,
  /** Inline nodes of one value or phrase. */
  lineNodes: 10_000,
  /** How deep placements and variables may stand in each other. */
  placementDepth: 50,
  /** Pieces within which the work on content goes on; blocks and placements are several each. */
  depth: 400,
  /** Entries of an outline that are told to be left out of a build. */
  leftOutEntries: 1000,
  /** Pieces of a topic that are looked at for all variants at once. */
  pieces: 400_000,
} as const;

/** Content is larger than anything that is worked out of it may be. */
export class TooLargeError extends Error {
  // The class is lost on the way out of a thread, the name is not.
  override readonly name = 'TooLargeError';
}
