import { assemblePublication, numberPublication, referenceReadings, type ReferenceReadings } from '@allomorph/core';
import { readRecipe } from '../builds/build-variant.js';
import type { Queryable } from '../db/database.js';
import { HttpProblem } from '../http/problem.js';
import { threadDatabase, threadMemory as memory } from '../threads/thread-memory.js';
import type { ThreadWork } from '../threads/work-pool.js';
import { readVariants } from './variants.js';

/** What a thread is asked: what a cross-reference would read in a variant. */
export interface ReferenceOrder {
  readonly url: string;
  readonly workspace: string;
  readonly buildDate: string;
  readonly variant: string;
  /** The topic that it stands in. */
  readonly from: string;
  readonly to: string;
  readonly block: string | null;
}

/** Answers from one state of the database. */
export const run: ThreadWork<ReferenceOrder, never, ReferenceReadings | null> = (order) =>
  threadDatabase(order.url).snapshot((client) => readings(client, order));

async function readings(db: Queryable, order: ReferenceOrder): Promise<ReferenceReadings | null> {
  const { workspace } = order;
  const variant = (await readVariants(db, workspace)).find(({ id }) => id === order.variant);
  if (!variant) throw new HttpProblem(404, 'There is no such variant.');
  const { source, recipe } = await readRecipe(db, workspace, variant, order.buildDate, memory.known(workspace));
  memory.keepLibrary(workspace, variant.publication, source.library);
  const numbered = numberPublication(assemblePublication(source, recipe, memory.engine(workspace)), recipe);
  return referenceReadings(numbered, order.from, { component: order.to, target: order.block });
}
