import { randomBytes } from 'node:crypto';
import { oneRow, type Queryable } from './database.js';

/** The secret that signs session cookies: one for all server processes on a database, made at the first start. */
export async function sessionSecret(db: Queryable): Promise<string> {
  await db.query(`insert into settings (key, value) values ('session-secret', $1) on conflict do nothing`, [
    randomBytes(32).toString('hex'),
  ]);
  const row = await oneRow<{ value: string }>(db, `select value from settings where key = 'session-secret'`);
  return row?.value ?? '';
}
