import { readdirSync, readFileSync } from 'node:fs';
import { fileURLToPath } from 'node:url';
import type { Database } from './database.js';

const folder = fileURLToPath(new URL('./migrations/', import.meta.url));
const migrationLock = 7_041_001;

/** Brings the database's tables up to date, each numbered file once, in one transaction. */
export async function migrate(db: Database): Promise<void> {
  await db.transaction(async (client) => {
    // Two processes that start together take turns.
    await client.query('select pg_advisory_xact_lock($1)', [migrationLock]);
    await client.query(
      'create table if not exists migrations (name text primary key, at timestamptz not null default now())',
    );
    const { rows } = await client.query<{ name: string }>('select name from migrations');
    const done = new Set(rows.map((row) => row.name));
    const files = readdirSync(folder).filter((name) => name.endsWith('.sql'));
    for (const name of files.sort()) {
      if (done.has(name)) continue;
      await client.query(readFileSync(`${folder}${name}`, 'utf8'));
      await client.query('insert into migrations (name) values ($1)', [name]);
    }
  });
}
