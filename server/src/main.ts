import { randomBytes } from 'node:crypto';
import { fileURLToPath } from 'node:url';
import { BuildQueue, Builder } from './builds/builder.js';
import { Database } from './db/database.js';
import { migrate } from './db/migrate.js';
import { EventHub } from './events/events.js';
import { createApp } from './http/app.js';
import { loadDemo } from '../../demo/src/load-demo.js';
import { firstWorkspace } from './workspace.js';

const url = process.env['DATABASE_URL'];
const port = Number(process.env['PORT'] ?? 4600);
const host = process.env['HOST'] ?? '127.0.0.1';
if (!url) {
  console.error('DATABASE_URL is not set; “npm start” sets it.');
  process.exit(1);
}

const db = new Database(url);
await migrate(db);
const workspace = await firstWorkspace(db, 'Fennick Instruments');
if (workspace.isNew && process.env['ALLOMORPH_DEMO'] !== 'no') await loadDemo(db, workspace.id);
const queue = await BuildQueue.open(url);
const events = new EventHub(url);
await events.start();
const builder = new Builder(db, queue);
await builder.start();
const webFolder = fileURLToPath(new URL('../../web/dist/browser', import.meta.url));
const app = createApp({
  db,
  queue,
  events,
  sessionSecret: process.env['SESSION_SECRET'] ?? randomBytes(32).toString('hex'),
  webFolder,
});
const server = app.listen(port, host, (error) => {
  if (error) {
    console.error(
      (error as NodeJS.ErrnoException).code === 'EADDRINUSE'
        ? `Port ${port} is in use by another program; set PORT to a free one.`
        : error.message,
    );
    process.exit(1);
  }
  console.log(`Allomorph is ready at http://${host}:${port}/`);
});

let stopping = false;
async function stop(): Promise<void> {
  if (stopping) return;
  stopping = true;
  server.close();
  server.closeAllConnections();
  await builder.stop();
  await queue.close();
  await events.stop();
  await db.close();
  process.exit(0);
}
process.on('SIGINT', () => void stop());
process.on('SIGTERM', () => void stop());
