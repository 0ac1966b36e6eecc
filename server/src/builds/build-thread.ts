import type { StoredVariant } from '@allomorph/core';
import type { Queryable } from '../db/database.js';
import { storeBlobs } from '../images/blobs.js';
import { threadDatabase, threadMemory as memory } from '../threads/thread-memory.js';
import type { ThreadWork } from '../threads/work-pool.js';
import { buildVariant, failsStrictly } from './build-variant.js';
import type { DeliverableFile } from './deliverable-file.js';

/** What a build thread is started with. */
export interface BuildOrder {
  readonly url: string;
  readonly workspace: string;
  readonly build: string;
  readonly variant: StoredVariant;
  readonly buildDate: string;
}

/** What a build thread says on its way. */
export interface BuildReport {
  readonly stage: string;
  readonly progress: number;
}

/**
 * Runs one build. The deliverable and the end of the build are written in one transaction: a process
 * that is killed leaves nothing behind but a build that another one takes up.
 */
export const run: ThreadWork<BuildOrder, BuildReport, void> = async (order, tell) => {
  const { workspace, variant } = order;
  const db = threadDatabase(order.url);
  const report = (stage: string, progress: number): void => tell({ stage, progress });
  const deliverable = await db.snapshot((client) =>
    buildVariant(client, workspace, variant, order.buildDate, report, memory),
  );
  report('storing', 0.9);
  const failed = failsStrictly(variant, deliverable.problems);
  await db.transaction(async (client) => {
    await client.query('delete from deliverable_files where build = $1', [order.build]);
    if (!failed) await storeFiles(client, order.build, deliverable.files);
    await client.query(
      `update builds set state = $2, stage = 'finished', progress = 1, ended_at = now(), pages = $3, bytes = $4, digest = $5,
              problems = $6, worker_lock = null, message = $7, record = $8 where id = $1`,
      [
        order.build,
        failed ? 'failed' : 'done',
        deliverable.pages,
        deliverable.size,
        failed ? null : deliverable.digest,
        JSON.stringify(deliverable.problems),
        failed ? 'The variant is strict and the build has errors.' : null,
        failed ? null : JSON.stringify(deliverable.record),
      ],
    );
  });
  if (!failed) memory.keepStored(deliverable.files.map(({ digest }) => digest));
};

async function storeFiles(db: Queryable, build: string, files: readonly DeliverableFile[]): Promise<void> {
  await storeBlobs(
    db,
    files.flatMap(({ digest, bytes }) => (bytes ? [{ digest, bytes }] : [])),
  );
  const column = (name: 'path' | 'mediaType' | 'digest'): readonly string[] => files.map((file) => file[name]);
  await db.query(
    `insert into deliverable_files (build, path, media_type, digest)
     select $1, * from unnest($2::text[], $3::text[], $4::text[])`,
    [build, column('path'), column('mediaType'), column('digest')],
  );
}
