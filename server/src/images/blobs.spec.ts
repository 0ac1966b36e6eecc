import { createHash, randomBytes } from 'node:crypto';
import { freshDatabase } from '../../../tests/support/fresh-database.js';
import { Database } from '../db/database.js';
import { migrate } from '../db/migrate.js';
import { digestOf, readBlob, sizesOfBlobs, storeBlob, storeBlobs } from './blobs.js';

describe('Stored bytes', () => {
  let database: Awaited<ReturnType<typeof freshDatabase>>;
  let db: Database;
  const megabyte = 1 << 20;
  const named = (bytes: Buffer) => ({ digest: digestOf(bytes), bytes });

  beforeAll(async () => {
    database = await freshDatabase();
    db = new Database(database.url);
    await migrate(db);
  });
  afterAll(async () => {
    await db.close();
    await database.drop();
  });

  it('come back as they were, whatever their size, many stored at once', async () => {
    const sizes = [1, 500_000, megabyte - 1, megabyte, megabyte + 1, 3 * megabyte + 7, 0, 700_000];
    const blobs = sizes.map((size) => named(randomBytes(size)));
    await db.transaction((client) => storeBlobs(client, blobs));
    for (const { digest, bytes } of blobs) expect((await readBlob(db, digest))?.equals(bytes)).toBeTrue();
    const known = await sizesOfBlobs(db, [...blobs.map(({ digest }) => digest), 'f'.repeat(64)]);
    expect(known.size).toBe(blobs.length);
    for (const { digest, bytes } of blobs) expect(known.get(digest)).toBe(bytes.length);
  });

  it('are stored once, also when they are given twice or were there before', async () => {
    const [one, two] = [named(randomBytes(5000)), named(randomBytes(6000))];
    expect(await storeBlob(db, one.bytes)).toBe(createHash('sha256').update(one.bytes).digest('hex'));
    await storeBlobs(db, [one, two, two, one]);
    await storeBlobs(db, []);
    const { rows } = await db.query<{ digest: string; count: string }>(
      'select digest, count(*) from blob_chunks where digest = any($1) group by digest',
      [[one.digest, two.digest]],
    );
    expect(rows.map(({ count }) => count)).toEqual(['1', '1']);
    expect((await readBlob(db, two.digest))?.equals(two.bytes)).toBeTrue();
  });

  it('may be stored by two people at the same moment', async () => {
    const same = named(randomBytes(2 * megabyte));
    await Promise.all([1, 2, 3].map(() => db.transaction((client) => storeBlobs(client, [same]))));
    expect((await readBlob(db, same.digest))?.equals(same.bytes)).toBeTrue();
  });

  it('are undefined where there are none', async () => {
    expect(await readBlob(db, '0'.repeat(64))).toBeUndefined();
  });
});
