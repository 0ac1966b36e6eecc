import {
  conditionFindings,
  coverageOf,
  flattenEntries,
  ownCondition,
  VariantSets,
  type PublicationCoverage,
} from '@allomorph/core';
import type { Queryable } from '../db/database.js';
import { HttpProblem } from '../http/problem.js';
import { threadDatabase, threadMemory as memory } from '../threads/thread-memory.js';
import type { ThreadWork } from '../threads/work-pool.js';
import { readProfiles } from '../variation/vocabulary.js';
import { readVariants } from './variants.js';
import { readSource } from './read-source.js';

/** What a thread is asked: what each variant of a publication has of each entry. */
export interface CoverageOrder {
  readonly url: string;
  readonly workspace: string;
  readonly publication: string;
}

/** Answers from one state of the database. */
export const run: ThreadWork<CoverageOrder, never, PublicationCoverage> = (order) =>
  threadDatabase(order.url).snapshot((client) => coverage(client, order));

async function coverage(db: Queryable, { workspace, publication: key }: CoverageOrder): Promise<PublicationCoverage> {
  const read = await readSource(db, workspace, key, [], [], memory.known(workspace));
  if (!read) throw new HttpProblem(404, `There is no publication “${key}”.`);
  memory.keepLibrary(workspace, key, read.source.library);
  const profiles = new Map((await readProfiles(db, workspace)).map((profile) => [profile.key, profile]));
  const variants = (await readVariants(db, workspace, key)).flatMap(({ id, profile }) => {
    const found = profiles.get(profile);
    return found ? [{ id, profile: found }] : [];
  });
  const sets = new VariantSets(
    read.source,
    variants.map((variant) => variant.profile),
  );
  const topics = flattenEntries(read.publication.entries).flatMap(({ entry }) => entry.topic ?? []);
  const ownConditions = topics.flatMap((topic) => {
    const when = ownCondition(read.source.library.component(topic));
    return when === null ? [] : [[topic, when] as const];
  });
  return {
    ownConditions: Object.fromEntries(ownConditions),
    variants: variants.map((variant) => variant.id),
    rows: coverageOf(read.source, sets, read.publication),
    findings: variants.length === 0 ? [] : conditionFindings(read.source, sets, read.publication),
  };
}
