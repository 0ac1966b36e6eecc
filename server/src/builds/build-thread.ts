import type { StoredVariant } from '@allomorph/core';
import { Database } from '../db/database.js';
import { storeBlob } from '../images/blobs.js';
import type { ThreadWork } from '../threads/run-in-thread.js';
import { buildVariant, failsStrictly } from './build-variant.js';

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
  const db = new Database(order.url);
  try {
    const report = (stage: string, progress: number): void => tell({ stage, progress });
    const deliverable = await db.snapshot((client) =>
      buildVariant(client, order.workspace, order.variant, order.buildDate, report),
    );
    report('storing', 0.9);
    const failed = failsStrictly(order.variant, deliverable.problems);
    const bytes = deliverable.files.reduce((sum, file) => sum + file.bytes.length, 0);
    await db.transaction(async (client) => {
      await client.query('delete from deliverable_files where build = $1', [order.build]);
      for (const file of failed ? [] : deliverable.files) {
        const digest = await storeBlob(client, file.bytes);
        await client.query('insert into deliverable_files (build, path, media_type, digest) values ($1, $2, $3, $4)', [
          order.build,
          file.path,
          file.mediaType,
          digest,
        ]);
      }
      await client.query(
        `update builds set state = $2, stage = 'finished', progress = 1, ended_at = now(), pages = $3, bytes = $4, digest = $5,
                problems = $6, worker_lock = null, message = $7, record = $8 where id = $1`,
        [
          order.build,
          failed ? 'failed' : 'done',
          deliverable.pages,
          bytes,
          failed ? null : deliverable.digest,
          JSON.stringify(deliverable.problems),
          failed ? 'The variant is strict and the build has errors.' : null,
          failed ? null : JSON.stringify(deliverable.record),
        ],
      );
    });
  } finally {
    await db.close();
  }
};
