import { fileURLToPath } from 'node:url';
import { demoSignIns } from '../../demo/src/load-demo.js';
import { BuildQueue, Builder } from './builds/builder.js';
import { configOfProcess } from './config.js';
import { Database, whenThere } from './db/database.js';
import { sessionSecret } from './db/session-secret.js';
import { EventHub } from './events/events.js';
import { createApp } from './http/app.js';
import { makeLog } from './http/log.js';
import { upgradeContent } from './library/upgrade-content.js';
import { ownFile } from './own-file.js';
import { inviteFirst } from './people/invitations.js';
import { stopOnSignals } from './stop-on-signals.js';
import { Analyses } from './threads/analyses.js';
import { openWorkspace } from './workspace.js';

/** How long requests that are under way may still take when the process ends, in milliseconds. */
const longestGoodbye = 5_000;

const config = configOfProcess();
const log = makeLog(config.logLevel);
const db = new Database(config.databaseUrl);
db.pool.on('error', ({ message }) => log.warn({ why: message }, 'a database connection was lost'));
const workspace = await whenThere(
  () => openWorkspace(db, config.content),
  (seconds) => console.error(`The database cannot be reached; trying again in ${seconds} s.`),
);
// Goes on while people work; until then content of earlier versions is brought up to date as it is read.
void upgradeContent(db).catch((error: unknown) =>
  log.error({ err: error }, 'stored content was not brought up to date'),
);
const queue = await BuildQueue.open(config.databaseUrl);
const events = new EventHub(config.databaseUrl);
await events.start();
const builder = new Builder(db, queue, log);
await builder.start();
// The compiled program lies in a folder of the project.
const webFolder = fileURLToPath(ownFile('../web/dist/browser'));
const analyses = new Analyses(db, config.threads);
const app = createApp({ config, db, queue, events, analyses, log, secret: await sessionSecret(db), webFolder });
const signIns = await demoSignIns(db);
const first = await inviteFirst(db, workspace, config.origin);
const server = app.listen(config.port, config.host, (error) => {
  if (error) {
    console.error(
      (error as NodeJS.ErrnoException).code === 'EADDRINUSE'
        ? `Port ${config.port} is in use by another program; set PORT to a free one.`
        : error.message,
    );
    process.exit(1);
  }
  if (signIns.length > 0) console.log(`Sign in as one of the demo people (name, password):\n${signIns.join('\n')}`);
  if (first !== null) console.log(`Nobody is here yet. Open this address once to become the first keeper:\n${first}`);
  console.log(`Allomorph is ready at ${config.origin}/`);
});

// Longer than those who stand between and browsers keep a connection: none is closed while a request is on its way.
server.keepAliveTimeout = 75_000;

stopOnSignals(async () => {
  // Requests that are under way are answered; streams of events, which never end, are not waited for.
  events.endAll();
  const closed = new Promise((resolve) => server.close(resolve));
  server.closeIdleConnections();
  await Promise.race([closed, new Promise((resolve) => setTimeout(resolve, longestGoodbye).unref())]);
  server.closeAllConnections();
  await builder.stop();
  await queue.close();
  await events.stop();
  await analyses.stop();
  await db.close();
});
