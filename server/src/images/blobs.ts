import { createHash } from 'node:crypto';
import { oneRow, type Queryable } from '../db/database.js';

const chunkSize = 1 << 20;

/** The name under which bytes are stored: their SHA-256 in hexadecimal. */
export function digestOf(bytes: Uint8Array): string {
  return createHash('sha256').update(bytes).digest('hex');
}

/** Stores bytes under their digest; bytes that are there already are not stored again. */
export async function storeBlob(db: Queryable, bytes: Uint8Array): Promise<string> {
  const digest = digestOf(bytes);
  const chunks = Math.ceil(bytes.length / chunkSize);
  const added = await oneRow(
    db,
    'insert into blobs (digest, size, chunks) values ($1, $2, $3) on conflict do nothing returning digest',
    [digest, bytes.length, chunks],
  );
  if (!added) return digest;
  for (let number = 0; number < chunks; number += 1) {
    const part = Buffer.from(bytes.subarray(number * chunkSize, (number + 1) * chunkSize));
    await db.query('insert into blob_chunks (digest, number, bytes) values ($1, $2, $3)', [digest, number, part]);
  }
  return digest;
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
