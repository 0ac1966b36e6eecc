import { makeNode, makeText, type Component, type ContentNode } from '@allomorph/core';
import { Client } from '../tests/support/client.js';
import { freePort } from '../tests/support/free-port.js';
import { freshDatabase } from '../tests/support/fresh-database.js';
import { kill, spawnServer } from '../tests/support/server-process.js';
import { Database } from '../server/src/db/database.js';

/**
 * A server that is killed again and again, and a database whose connections are cut again and again, while somebody saves:
 * how many saves were acknowledged, and whether any of them is missing afterwards.
 */

const rounds = Number(process.env['FAULT_ROUNDS'] ?? 30);
const database = await freshDatabase();
const db = new Database(database.url);
const port = await freePort();
const body = (text: string): ContentNode => makeNode('fragment', null, [makeNode('paragraph', null, [makeText(text)])]);

interface Saver {
  readonly key: string;
  acknowledged: number;
}

/** Saves one revision after the other until the signal; counts what the server said yes to. */
async function saveUntil(client: Client, saver: Saver, signal: AbortSignal): Promise<void> {
  while (!signal.aborted) {
    try {
      const { json: now } = await client.get<Component>(`/components/${saver.key}`);
      if (typeof now.revision !== 'number') throw new Error('not now');
      const text = `save ${saver.acknowledged + 1}`;
      const change = { base: now.revision, title: now.title, body: body(text) };
      const { status } = await client.put(`/components/${saver.key}`, change);
      if (status === 200) saver.acknowledged += 1;
    } catch {
      await new Promise((resolve) => setTimeout(resolve, 20));
    }
  }
}

async function signedIn(origin: string): Promise<Client> {
  for (;;) {
    const client = new Client(origin);
    try {
      if ((await client.post('/session', { name: 'tomasz', password: 'dunlin-tomasz' })).status === 200) return client;
    } catch {
      // Not there yet.
    }
    await new Promise((resolve) => setTimeout(resolve, 50));
  }
}

async function make(client: Client, title: string): Promise<Saver> {
  const { json } = await client.post<Component>('/components', { kind: 'snippet', title, body: body('begin') });
  return { key: json.key, acknowledged: 0 };
}

/** Counts the saves that are in the database: each left one revision besides the first. */
async function kept({ key }: Saver): Promise<number> {
  const { rows } = await db.query<{ count: string }>('select count(*) from revisions where key = $1', [key]);
  return Number(rows[0]?.count) - 1;
}

async function report(what: string, saver: Saver): Promise<void> {
  const there = await kept(saver);
  // A save whose answer was lost may be there too; one that was acknowledged must be.
  const lost = Math.max(0, saver.acknowledged - there);
  console.log(`| ${what} | ${rounds} times | ${saver.acknowledged} | ${lost} |`);
  if (lost > 0) process.exitCode = 1;
}

console.log('| fault | how often | saves acknowledged | lost |\n| --- | --- | --- | --- |');
{
  let saver: Saver | null = null;
  for (let round = 0; round < rounds; round += 1) {
    const { process: server, origin } = await spawnServer(database.url, port);
    const client = await signedIn(origin);
    saver ??= await make(client, 'Killed server');
    const over = new AbortController();
    const saving = saveUntil(client, saver, over.signal);
    await new Promise((resolve) => setTimeout(resolve, 300 + (round % 7) * 90));
    await kill(server);
    over.abort();
    await saving;
  }
  if (saver) await report('the server is killed', saver);
}
{
  const { process: server, origin } = await spawnServer(database.url, port);
  const client = await signedIn(origin);
  const saver = await make(client, 'Cut connections');
  const over = new AbortController();
  const saving = saveUntil(client, saver, over.signal);
  for (let round = 0; round < rounds; round += 1) {
    await new Promise((resolve) => setTimeout(resolve, 300));
    await db
      .query(
        'select pg_terminate_backend(pid) from pg_stat_activity where datname = current_database() and pid <> pg_backend_pid()',
      )
      .catch(() => undefined);
  }
  over.abort();
  await saving;
  await report('all connections of the database are cut', saver);
  await kill(server, 'SIGTERM');
}
await db.close();
await database.drop();
