import type { StoredVariant } from '@allomorph/core';
import { oneRow, type Queryable } from '../db/database.js';
import { storeBlobs } from '../images/blobs.js';
import { threadDatabase, threadMemory as memory } from '../threads/thread-memory.js';
import type { ThreadWork } from '../threads/work-pool.js';
import { buildVariant, failsStrictly, type FormatDeliverable } from './build-variant.js';
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
  const isStrict = failsStrictly(variant, deliverable.problems);
  const [first] = deliverable.formats;
  const message = isStrict
    ? 'The variant is strict and the build has errors.'
    : deliverable.formats.every((each) => each.failed !== null)
      ? (first?.failed ?? 'The variant has no format.')
      : null;
  const failed = message !== null;
  await db.transaction(async (client) => {
    const build = await oneRow(client, `select from builds where id = $1 and state = 'running' for update`, [
      order.build,
    ]);
    // Somebody stopped it meanwhile.
    if (!build) return;
    await client.query('delete from deliverable_files where build = $1', [order.build]);
    await client.query('delete from build_formats where build = $1', [order.build]);
    if (!failed) await storeFormats(client, order.build, deliverable.formats);
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
        message,
        failed ? null : JSON.stringify(deliverable.record),
      ],
    );
  });
  if (!failed) memory.keepStored(deliverable.formats.flatMap(({ files }) => files.map(({ digest }) => digest)));
};

async function storeFormats(db: Queryable, build: string, formats: readonly FormatDeliverable[]): Promise<void> {
  const column = <Name extends keyof FormatDeliverable>(name: Name): readonly FormatDeliverable[Name][] =>
    formats.map((each) => each[name]);
  await db.query(
    `insert into build_formats (build, format, position, state, digest, bytes, pages, milliseconds, problems, message)
     select $1, format, position - 1, case when message is null then 'done' else 'failed' end, nullif(digest, ''), bytes,
            pages, milliseconds, problems, message
       from unnest($2::text[], $3::text[], $4::bigint[], $5::integer[], $6::integer[], $7::jsonb[], $8::text[])
            with ordinality as each (format, digest, bytes, pages, milliseconds, problems, message, position)`,
    [
      build,
      column('format'),
      column('digest'),
      column('size'),
      column('pages'),
      column('milliseconds'),
      column('problems').map((problems) => JSON.stringify(problems)),
      column('failed'),
    ],
  );
  for (const { format, files } of formats) await storeFiles(db, build, format, files);
}

async function storeFiles(
  db: Queryable,
  build: string,
  format: string,
  files: readonly DeliverableFile[],
): Promise<void> {
  await storeBlobs(
    db,
    files.flatMap(({ digest, bytes }) => (bytes ? [{ digest, bytes }] : [])),
  );
  const column = (name: 'path' | 'mediaType' | 'digest'): readonly string[] => files.map((file) => file[name]);
  await db.query(
    `insert into deliverable_files (build, format, path, media_type, digest)
     select $1, $2, * from unnest($3::text[], $4::text[], $5::text[])`,
    [build, format, column('path'), column('mediaType'), column('digest')],
  );
}
