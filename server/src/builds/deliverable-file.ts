import type { Queryable } from '../db/database.js';
import { readBlob } from '../images/blobs.js';

/** One file of a deliverable. */
export interface DeliverableFile {
  readonly path: string;
  readonly mediaType: string;
  readonly digest: string;
  /** In bytes. */
  readonly size: number;
  /** Null where they are stored under their digest. */
  readonly bytes: Buffer | null;
}

/** The bytes of a file of a deliverable. */
export async function bytesOf(db: Queryable, { digest, bytes }: DeliverableFile): Promise<Buffer> {
  const found = bytes ?? (await readBlob(db, digest));
  if (!found) throw new Error(`The stored bytes ${digest} are gone.`);
  return found;
}
