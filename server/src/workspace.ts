import { labelledDesign, plainDesign } from '@allomorph/core';
import { oneRow, type Database } from './db/database.js';
import { writeDesign } from './variation/variation.js';

/** The first workspace; made, with the designs that every workspace begins with, where there is none. */
export async function firstWorkspace(
  db: Database,
  title = 'Library',
): Promise<{ readonly id: string; readonly isNew: boolean }> {
  return db.transaction(async (client) => {
    await client.query('select pg_advisory_xact_lock(7041002)');
    const known = await oneRow<{ id: string }>(client, 'select id from workspaces order by title limit 1');
    if (known) return { id: known.id, isNew: false };
    const made = await oneRow<{ id: string }>(client, 'insert into workspaces (title) values ($1) returning id', [
      title,
    ]);
    const id = made?.id ?? '';
    for (const design of [plainDesign, labelledDesign])
      await writeDesign(client, { workspace: id, person: null }, design);
    return { id, isNew: true };
  });
}
