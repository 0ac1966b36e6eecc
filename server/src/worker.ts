import { BuildQueue, Builder } from './builds/builder.js';
import { configOfProcess } from './config.js';
import { Database, whenThere } from './db/database.js';
import { makeLog } from './http/log.js';
import { stopOnSignals } from './stop-on-signals.js';
import { openWorkspace } from './workspace.js';

/** A process that takes builds from the queue and does nothing else; any number of them share one database. */

const config = configOfProcess();
const db = new Database(config.databaseUrl);
await whenThere(
  () => openWorkspace(db, config.content),
  (seconds) => console.error(`The database cannot be reached; trying again in ${seconds} s.`),
);
const queue = await BuildQueue.open(config.databaseUrl);
const builder = new Builder(db, queue, makeLog(config.logLevel));
await builder.start();
console.log('Taking builds. Ctrl+C ends it.');

stopOnSignals(async () => {
  await builder.stop();
  await queue.close();
  await db.close();
});
