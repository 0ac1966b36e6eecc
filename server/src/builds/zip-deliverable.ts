import { Readable } from 'node:stream';
import { ZipFile } from 'yazl';
import type { Queryable } from '../db/database.js';
import { readBlobParts } from '../images/blobs.js';

/** Entries carry one fixed date, in no zone, so that equal deliverables are equal archives. */
export const zipOptions = { mtime: new Date(1980, 0, 1, 0, 0, 0), mode: 0o100_644, forceDosTimestamp: true } as const;

/**
 * The files of a deliverable as one archive, read and packed while it is sent; undefined where the build made none.
 * @param format the files of one format alone; null: those of all, each format in a folder of its own
 */
export async function zipDeliverable(
  db: Queryable,
  build: string,
  format: string | null,
): Promise<NodeJS.ReadableStream | undefined> {
  const { rows } = await db.query<{ path: string; digest: string; size: string }>(
    `select case when $2::text is null then f.format || '/' || f.path else f.path end as path, f.digest, b.size
       from deliverable_files f join blobs b on b.digest = f.digest
      where f.build = $1 and ($2::text is null or f.format = $2) order by 1`,
    [build, format],
  );
  if (rows.length === 0) return undefined;
  const zip = new ZipFile();
  zip.on('error', (error) => zip.outputStream.emit('error', error));
  for (const { path, digest, size } of rows) {
    const options = { ...zipOptions, size: Number(size) };
    zip.addReadStreamLazy(path, options, (take) => take(null, Readable.from(readBlobParts(db, digest))));
  }
  zip.end();
  return zip.outputStream;
}
