import { cpSync, mkdtempSync, readdirSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { freshDatabase } from '../../../tests/support/fresh-database.js';
import { storeBlob } from '../images/blobs.js';
import { readComponent } from '../library/components.js';
import { readPeople } from '../people/people.js';
import { readVariants } from '../publications/variants.js';
import { Database } from './database.js';
import { migrate } from './migrate.js';

const all = fileURLToPath(new URL('./migrations/', import.meta.url));

describe('Bringing a database up to date', () => {
  let folder: string;
  let database: Awaited<ReturnType<typeof freshDatabase>>;
  let db: Database;

  /** The migrations up to a number, as an earlier version of the program had them. */
  const upTo = (number: number): string => {
    for (const name of readdirSync(all)) if (Number(name.slice(0, 3)) <= number) cpSync(all + name, join(folder, name));
    return `${folder}/`;
  };

  beforeEach(async () => {
    folder = mkdtempSync(join(tmpdir(), 'allomorph-migrations-'));
    database = await freshDatabase();
    db = new Database(database.url);
  });
  afterEach(async () => {
    await db.close();
    await database.drop();
    rmSync(folder, { recursive: true });
  });

  it('keeps what people had in it before people, pictures and the bin had tables of their own', async () => {
    await migrate(db, upTo(5));
    const { rows } = await db.query<{ id: string }>(`insert into workspaces (title) values ('W') returning id`);
    const workspace = rows[0]?.id ?? '';
    await db.query(
      `insert into people (workspace, sign_in, name, role, password_hash) values ($1, 'old', 'Old hand', 'keeper', '')`,
      [workspace],
    );
    await db.query(`insert into session values ('s', '{"person": {"id": "x"}}', now() + interval '1 day')`);
    const digests = await Promise.all(
      [Buffer.from('89504e470d0a1a0a', 'hex'), Buffer.from('<svg xmlns="http://www.w3.org/2000/svg"/>')].map((bytes) =>
        storeBlob(db, bytes),
      ),
    );
    const file = (digest: string | undefined) => ({ digest, mediaType: 'text/html', width: 3, height: null });
    const body = {
      type: 'image',
      alt: 'a',
      file: file(digests[0]),
      versions: [{ when: 'a is b', file: file(digests[1]) }],
    };
    await db.transaction(async (client) => {
      await client.query(
        `insert into components (workspace, key, kind, title, revision) values ($1, 'p', 'image', 'P', 1)`,
        [workspace],
      );
      await client.query(
        `insert into revisions (workspace, key, revision, title, body, schema_version) values ($1, 'p', 1, 'P', $2, 1)`,
        [workspace, JSON.stringify(body)],
      );
    });
    await db.query(
      `insert into publications (workspace, key, title, revision, variable_values, entries) values ($1, 'b', 'B', 1, '{}', '[]')`,
      [workspace],
    );
    const value = {
      type: 'phrase',
      content: [{ type: 'text', text: 'x', marks: [{ type: 'condition', attrs: { when: 5 } }] }],
    };
    await db.query(`insert into variants (workspace, publication, title, recipe) values ($1, 'b', 'V', $2)`, [
      workspace,
      JSON.stringify({ title: 'V', values: { name: value } }),
    ]);

    await migrate(db);
    const [person] = await readPeople(db, workspace);
    expect([person?.signIn, person?.role, person?.isActive, person?.lastSeenAt]).toEqual(['old', 'keeper', true, null]);
    const { rows: files } = await db.query('select digest, media_type, width from image_files order by media_type');
    expect(files).toEqual([
      { digest: digests[0], media_type: 'image/png', width: 3 },
      { digest: digests[1], media_type: 'image/svg+xml', width: 3 },
    ]);
    expect((await readComponent(db, workspace, 'p'))?.title).toBe('P');
    const [variant] = await readVariants(db, workspace);
    expect([variant?.title, variant?.revision]).toEqual(['V', 1]);
    expect(variant?.values['name']?.content?.[0]?.marks).toEqual([{ type: 'condition', attrs: { when: '5?' } }]);
  });

  it('is refused where a file was changed after it was done, or the database is ahead', async () => {
    const own = upTo(2);
    await migrate(db, own);
    await migrate(db, own);
    writeFileSync(join(folder, '002_labels_and_freshness.sql'), 'select 1');
    await expectAsync(migrate(db, own)).toBeRejectedWithError(/“002_labels_and_freshness.sql” is not the one/);
    rmSync(join(folder, '002_labels_and_freshness.sql'));
    await expectAsync(migrate(db, own)).toBeRejectedWithError(/later version of the program \(“002_/);
  });
});
