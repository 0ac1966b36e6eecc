import { createHash } from 'node:crypto';
import { createReadStream } from 'node:fs';
import { oneRow, type Queryable } from '../db/database.js';

const chunkSize = 1 << 20;

/** The name under which bytes are stored: their SHA-256 in hexadecimal. */
export function digestOf(bytes: Uint8Array): string {
  return createHash('sha256').update(bytes).digest('hex');
}

/** Stores bytes under their digest; bytes that are there already are not stored again. */
export async function storeBlob(db: Queryable, bytes: Uint8Array): Promise<string> {
  const digest = digestOf(bytes);
  await storeBlobs(db, [{ digest, bytes }]);
  return digest;
}

/** Stores the bytes of a file under their digest, part by part. */
export async function storeBlobOfFile(db: Queryable, path: string): Promise<string> {
  const hash = createHash('sha256');
  let size = 0;
  const parts = (): AsyncIterable<Buffer> => createReadStream(path, { highWaterMark: chunkSize });
  for await (const part of parts()) {
    hash.update(part);
    size += part.length;
  }
  const digest = hash.digest('hex');
  const added = await db.query(
    'insert into blobs (digest, size, chunks) values ($1, $2, $3) on conflict do nothing returning digest',
    [digest, size, Math.ceil(size / chunkSize)],
  );
  if (added.rows.length === 0) return digest;
  let number = 0;
  for await (const part of parts()) {
    await storeChunks(db, [{ digest, number, part }]);
    number += 1;
  }
  return digest;
}

/** The same for many, each under the digest that it has. */
export async function storeBlobs(
  db: Queryable,
  blobs: readonly { readonly digest: string; readonly bytes: Uint8Array }[],
): Promise<void> {
  const added = await db.query<{ digest: string }>(
    `insert into blobs (digest, size, chunks)
     select * from unnest($1::text[], $2::bigint[], $3::integer[]) on conflict do nothing returning digest`,
    [
      blobs.map(({ digest }) => digest),
      blobs.map(({ bytes }) => bytes.length),
      blobs.map(({ bytes }) => Math.ceil(bytes.length / chunkSize)),
    ],
  );
  const missing = new Set(added.rows.map(({ digest }) => digest));
  let batch: Chunk[] = [];
  let size = 0;
  for (const { digest, bytes } of blobs) {
    if (!missing.delete(digest)) continue;
    for (let number = 0; number * chunkSize < bytes.length; number += 1) {
      const part = bytes.subarray(number * chunkSize, (number + 1) * chunkSize);
      if (size + part.length > chunkSize) {
        await storeChunks(db, batch);
        batch = [];
        size = 0;
      }
      batch.push({ digest, number, part });
      size += part.length;
    }
  }
  await storeChunks(db, batch);
}

interface Chunk {
  readonly digest: string;
  readonly number: number;
  readonly part: Uint8Array;
}

/** Sent as one piece of binary data, which is cut up there: bytes in lists would go as text. */
async function storeChunks(db: Queryable, chunks: readonly Chunk[]): Promise<void> {
  if (chunks.length === 0) return;
  let end = 0;
  const begins = chunks.map(({ part }) => (end += part.length) - part.length);
  await db.query(
    `insert into blob_chunks (digest, number, bytes)
     select digest, number, substring($5::bytea from 1 + begins for length)
       from unnest($1::text[], $2::integer[], $3::integer[], $4::integer[]) as chunk (digest, number, begins, length)`,
    [
      chunks.map(({ digest }) => digest),
      chunks.map(({ number }) => number),
      begins,
      chunks.map(({ part }) => part.length),
      Buffer.concat(chunks.map(({ part }) => part)),
    ],
  );
}

/** Which digests have their bytes stored, each with the number of bytes. */
export async function sizesOfBlobs(db: Queryable, digests: readonly string[]): Promise<ReadonlyMap<string, number>> {
  const { rows } = await db.query<{ digest: string; size: string }>(
    'select digest, size from blobs where digest = any($1)',
    [digests],
  );
  return new Map(rows.map(({ digest, size }) => [digest, Number(size)]));
}

/** The bytes of a digest; undefined where there are none. */
export async function readBlob(db: Queryable, digest: string): Promise<Buffer | undefined> {
  const blob = await oneRow<{ chunks: number }>(db, 'select chunks from blobs where digest = $1', [digest]);
  if (!blob) return undefined;
  const { rows } = await db.query<{ bytes: Buffer }>(
    'select bytes from blob_chunks where digest = $1 order by number',
    [digest],
  );
  return Buffer.concat(rows.map((row) => row.bytes));
}

/**
 * Some of the bytes of a digest, part by part; all of them unless it is said where to begin, and before which one to end.
 * @throws Error where they are gone, also in between
 */
export async function* readBlobParts(
  db: Queryable,
  digest: string,
  begin = 0,
  end = Number.POSITIVE_INFINITY,
): AsyncGenerator<Buffer> {
  const blob = await oneRow<{ chunks: number }>(db, 'select chunks from blobs where digest = $1', [digest]);
  const last = Math.min(blob?.chunks ?? 0, Math.ceil(end / chunkSize));
  for (let number = Math.floor(begin / chunkSize); number < last; number += 1) {
    const part = await oneRow<{ bytes: Buffer }>(
      db,
      'select bytes from blob_chunks where digest = $1 and number = $2',
      [digest, number],
    );
    if (!part) throw new Error(`The stored bytes ${digest} are gone.`);
    const from = number * chunkSize;
    yield part.bytes.subarray(Math.max(0, begin - from), Math.min(chunkSize, end - from));
  }
}
