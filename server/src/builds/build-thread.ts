import type { StoredVariant } from '@allomorph/core';
import { oneRow, type Database, type Queryable } from '../db/database.js';
import { storeBlobs } from '../images/blobs.js';
import { threadDatabase, threadMemory as memory } from '../threads/thread-memory.js';
import type { ThreadWork } from '../threads/work-pool.js';
import { buildVariant, reasonToStop, type Deliverable, type FormatDeliverable } from './build-variant.js';
import type { DeliverableFile } from './deliverable-file.js';
import { dropOldDeliverables } from './kept-deliverables.js';

/** What a build thread is started with. */
export interface BuildOrder {
  readonly url: string;
  readonly workspace: string;
  readonly build: string;
  readonly variant: StoredVariant;
  readonly buildDate: string;
  /** The build whose record it is made from again; null: it is made from the library. */
  readonly againOf: string | null;
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
  const make = (): Promise<Deliverable> =>
    db.snapshot(async (client) => {
      const kept = order.againOf === null ? null : await keptSourceOf(client, order.againOf);
      return buildVariant(client, workspace, variant, order.buildDate, report, memory, kept);
    });
  const deliverable = await make();
  report('storing', 0.9);
  try {
    await store(db, order, deliverable);
  } catch (error) {
    // Files that this process knew to be there went with an old deliverable meanwhile: they are made once more.
    if (!(error instanceof FilesGone)) throw error;
    memory.forgetStored(error.digests);
    await store(db, order, await make());
  }
};

/** Files are gone from the store that a build took for stored. */
class FilesGone extends Error {
  constructor(readonly digests: readonly string[]) {
    super('Files of the deliverable are gone from the store.');
  }
}

async function keptSourceOf(db: Queryable, build: string): Promise<Buffer> {
  const row = await oneRow<{ source: Buffer | null }>(db, 'select source from builds where id = $1', [build]);
  if (!row?.source) throw new Error('Nothing was kept of which this build could be made again.');
  return row.source;
}

async function store(db: Database, order: BuildOrder, deliverable: Deliverable): Promise<void> {
  const { variant, againOf } = order;
  const stopped = reasonToStop(variant, [
    ...deliverable.problems,
    ...deliverable.formats.flatMap(({ problems }) => problems),
  ]);
  const [first] = deliverable.formats;
  const hasNothing = deliverable.formats.every((each) => each.failed !== null);
  const message = stopped ?? (hasNothing ? (first?.failed ?? 'The variant has no format.') : null);
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
              problems = $6, worker_lock = null, message = $7, record = $8, source = $9 where id = $1`,
      [
        order.build,
        failed ? 'failed' : 'done',
        deliverable.pages,
        deliverable.size,
        failed ? null : deliverable.digest,
        JSON.stringify(deliverable.problems),
        message,
        // Only what is made from the library can be up to date with it.
        failed || againOf !== null ? null : JSON.stringify(deliverable.record),
        failed ? null : deliverable.source,
      ],
    );
    if (!failed) await dropOldDeliverables(client, variant.id);
  });
  if (!failed) memory.keepStored(deliverable.formats.flatMap(({ files }) => files.map(({ digest }) => digest)));
}

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
  // Held until the end of this transaction, so that nobody takes them out meanwhile.
  const { rows } = await db.query<{ digest: string }>('select digest from blobs where digest = any($1) for key share', [
    files.map(({ digest }) => digest),
  ]);
  const there = new Set(rows.map(({ digest }) => digest));
  const gone = files.filter(({ digest }) => !there.has(digest)).map(({ digest }) => digest);
  if (gone.length > 0) throw new FilesGone(gone);
  const column = (name: 'path' | 'mediaType' | 'digest'): readonly string[] => files.map((file) => file[name]);
  await db.query(
    `insert into deliverable_files (build, format, path, media_type, digest)
     select $1, $2, * from unnest($3::text[], $4::text[], $5::text[])`,
    [build, format, column('path'), column('mediaType'), column('digest')],
  );
}
