import { BuildQueue, Builder } from './builds/builder.js';
import { Database } from './db/database.js';
import { contentOfNewDatabase, openWorkspace } from './workspace.js';

/** A process that takes builds from the queue and does nothing else; any number of them share one database. */

const url = process.env['DATABASE_URL'];
if (!url) {
  console.error('DATABASE_URL is not set: it names the database whose builds are to be taken.');
  process.exit(1);
}
const db = new Database(url);
await openWorkspace(db, contentOfNewDatabase());
const queue = await BuildQueue.open(url);
const builder = new Builder(db, queue);
await builder.start();
console.log('Taking builds. Ctrl+C ends it.');

async function stop(): Promise<void> {
  await builder.stop();
  await queue.close();
  await db.close();
  process.exit(0);
}
process.on('SIGINT', () => void stop());
process.on('SIGTERM', () => void stop());
