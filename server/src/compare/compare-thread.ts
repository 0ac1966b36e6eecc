import { assemblePublication, comparePublications, type EntryChange, type StoredVariant } from '@allomorph/core';
import { readKeptSource } from '../builds/build-source.js';
import { readRecipe } from '../builds/build-variant.js';
import { oneRow } from '../db/database.js';
import { threadDatabase, threadMemory as memory } from '../threads/thread-memory.js';
import type { ThreadWork } from '../threads/work-pool.js';

/** What a comparing thread is started with. */
export interface CompareOrder {
  readonly url: string;
  readonly workspace: string;
  readonly before: StoredVariant;
  readonly after: StoredVariant;
  /** The build whose content stands before, instead of the variant's of now. */
  readonly built: string | null;
  readonly buildDate: string;
}

/** Assembles two variants from one state of the database and compares them. */
export const run: ThreadWork<CompareOrder, never, readonly EntryChange[]> = async (order) => {
  const { workspace } = order;
  return threadDatabase(order.url).snapshot(async (client) => {
    const assemble = async (variant: StoredVariant) => {
      const { source, recipe } = await readRecipe(client, workspace, variant, order.buildDate, memory.known(workspace));
      memory.keepLibrary(workspace, variant.publication, source.library);
      return assemblePublication(source, recipe, memory.engine(workspace));
    };
    const assembleBuilt = async (build: string) => {
      const row = await oneRow<{ source: Buffer }>(client, 'select source from builds where id = $1', [build]);
      const { source, recipe } = await readKeptSource(client, workspace, row?.source ?? Buffer.alloc(0));
      return assemblePublication(source, recipe, memory.engine(workspace));
    };
    const before = order.built === null ? await assemble(order.before) : await assembleBuilt(order.built);
    const changes = comparePublications(before, await assemble(order.after));
    // What is the same in both is told by name only.
    return changes.map((change) =>
      change.kind === 'same' || change.kind === 'moved' ? { ...change, passages: [] } : change,
    );
  });
};
