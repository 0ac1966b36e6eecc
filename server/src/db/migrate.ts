import { createHash } from 'node:crypto';
import { readdirSync, readFileSync } from 'node:fs';
import { fileURLToPath } from 'node:url';
import { ownFile } from '../own-file.js';
import type { Database } from './database.js';

const ownFolder = fileURLToPath(ownFile('server/src/db/migrations/'));
const migrationLock = 7_041_001;

/**
 * Brings the database's tables up to date, each numbered file once, in one transaction. What was done is taken down with a
 * check-sum: a file that was changed afterwards would leave databases that differ.
 * @throws Error that names the file, where one was changed, or where the database knows more files than there are
 */
export async function migrate(db: Database, folder = ownFolder): Promise<void> {
  await db.transaction(async (client) => {
    // Two processes that start together take turns.
    await client.query('select pg_advisory_xact_lock($1)', [migrationLock]);
    await client.query(
      'create table if not exists migrations (name text primary key, at timestamptz not null default now())',
    );
    await client.query('alter table migrations add column if not exists digest text');
    const { rows } = await client.query<{ name: string; digest: string | null }>('select name, digest from migrations');
    const done = new Map(rows.map((row) => [row.name, row.digest]));
    const files = readdirSync(folder)
      .filter((name) => name.endsWith('.sql'))
      .sort();
    const unknown = [...done.keys()].sort().find((name) => !files.includes(name));
    if (unknown !== undefined)
      throw new Error(`The database was brought up to date by a later version of the program (“${unknown}”).`);
    for (const name of files) {
      const text = readFileSync(`${folder}${name}`, 'utf8');
      const digest = createHash('sha256').update(text).digest('hex');
      const known = done.get(name);
      if (known === undefined) {
        await client.query(text);
        await client.query('insert into migrations (name, digest) values ($1, $2)', [name, digest]);
      } else if (known === null) {
        // Done by a version that took down no check-sums.
        await client.query('update migrations set digest = $2 where name = $1', [name, digest]);
      } else if (known !== digest)
        throw new Error(`The migration “${name}” is not the one that this database was brought up to date with.`);
    }
  });
}
