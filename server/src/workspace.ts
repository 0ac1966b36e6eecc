import { loadDemo } from '../../demo/src/load-demo.js';
import { oneRow, type Database } from './db/database.js';
import { migrate } from './db/migrate.js';

/**
 * Brings the database up to date and opens its workspace. A new database gets one, with the demo
 * library unless it is asked to stay empty.
 */
export async function openWorkspace(db: Database, content: 'demo' | 'empty'): Promise<string> {
  await migrate(db);
  return db.transaction(async (client) => {
    // Two processes that start together take turns.
    await client.query('select pg_advisory_xact_lock(7041002)');
    const known = await oneRow<{ id: string }>(client, 'select id from workspaces order by title limit 1');
    if (known) return known.id;
    const title = content === 'demo' ? 'Fennick Instruments' : 'Library';
    const made = await oneRow<{ id: string }>(client, 'insert into workspaces (title) values ($1) returning id', [
      title,
    ]);
    const id = made?.id ?? '';
    if (content === 'demo') await loadDemo(client, id);
    return id;
  });
}
