import { fileURLToPath } from 'node:url';
import { demoSignIns } from '../../demo/src/load-demo.js';
import { BuildQueue, Builder } from './builds/builder.js';
import { Database } from './db/database.js';
import { sessionSecret } from './db/session-secret.js';
import { EventHub } from './events/events.js';
import { createApp } from './http/app.js';
import { Analyses } from './threads/analyses.js';
import { upgradeBodies } from './library/upgrade-bodies.js';
import { contentOfNewDatabase, openWorkspace } from './workspace.js';

const url = process.env['DATABASE_URL'];
const port = Number(process.env['PORT'] ?? 4600);
const host = process.env['HOST'] ?? '127.0.0.1';
if (!url) {
  console.error('DATABASE_URL is not set; “npm start” sets it.');
  process.exit(1);
}

const db = new Database(url);
await openWorkspace(db, contentOfNewDatabase());
// Goes on while people work; until then bodies of earlier versions are brought up to date as they are read.
void upgradeBodies(db).catch((error: unknown) => console.error('Stored content was not brought up to date:', error));
const queue = await BuildQueue.open(url);
const events = new EventHub(url);
await events.start();
const builder = new Builder(db, queue);
await builder.start();
const webFolder = fileURLToPath(new URL('../../web/dist/browser', import.meta.url));
const analyses = new Analyses(db);
const app = createApp({
  db,
  queue,
  events,
  analyses,
  sessionSecret: await sessionSecret(db),
  webFolder,
});
const signIns = await demoSignIns(db);
const server = app.listen(port, host, (error) => {
  if (error) {
    console.error(
      (error as NodeJS.ErrnoException).code === 'EADDRINUSE'
        ? `Port ${port} is in use by another program; set PORT to a free one.`
        : error.message,
    );
    process.exit(1);
  }
  if (signIns.length > 0) console.log(`Sign in as one of the demo people (name, password):\n${signIns.join('\n')}`);
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
  await analyses.stop();
  await db.close();
  process.exit(0);
}
process.on('SIGINT', () => void stop());
process.on('SIGTERM', () => void stop());
