import { createServer } from 'node:http';
import type { AddressInfo } from 'node:net';
import { roles, type BuildDetail, type Role } from '@allomorph/core';
import { BuildQueue, Builder } from '../../server/src/builds/builder.js';
import { Database } from '../../server/src/db/database.js';
import { readConfig, type Config } from '../../server/src/config.js';
import { EventHub } from '../../server/src/events/events.js';
import { createApp } from '../../server/src/http/app.js';
import { silentLog } from '../../server/src/http/log.js';
import { Analyses } from '../../server/src/threads/analyses.js';
import { openWorkspace } from '../../server/src/workspace.js';
import { addPerson } from '../../server/src/people/person.js';
import { Client } from './client.js';
import { hear } from './heard.js';
import { freshDatabase } from './fresh-database.js';

/** The whole server on a database of its own, with a writer, a keeper and a reader. */
export interface RunningServer {
  readonly origin: string;
  readonly db: Database;
  readonly workspace: string;
  /** Somebody who is signed in. */
  as(name: Role): Promise<Client>;
  /** Waits until builds have ended. */
  ended(client: Client, ids: readonly string[]): Promise<readonly BuildDetail[]>;
  stop(): Promise<void>;
}

/** By content, the database of which each server gets a copy. They go with the cluster of the tests. */
const prepared = new Map<'demo' | 'empty', Promise<string>>();

async function prepare(content: 'demo' | 'empty'): Promise<string> {
  const { name, url } = await freshDatabase();
  const db = new Database(url);
  const workspace = await openWorkspace(db, content);
  for (const role of roles) {
    await addPerson(db, workspace, { signIn: role, name: `A ${role}`, role, password: `secret-${role}` });
  }
  await (await BuildQueue.open(url)).close();
  // Nothing may be connected to what is copied.
  await db.close();
  return name;
}

export async function startServer(
  content: 'demo' | 'empty' = 'empty',
  settings: Partial<Config> = {},
  webFolder: string | null = null,
): Promise<RunningServer> {
  const ready = prepared.get(content) ?? prepare(content);
  prepared.set(content, ready);
  const database = await freshDatabase(await ready);
  const db = new Database(database.url);
  const workspace = await openWorkspace(db, content);
  const queue = await BuildQueue.open(database.url);
  const events = new EventHub(database.url);
  await events.start();
  const builder = new Builder(db, queue);
  await builder.start();
  const analyses = new Analyses(db, 2);
  const config = { ...readConfig({ DATABASE_URL: database.url }), ...settings };
  const parts = { db, queue, events, analyses, log: silentLog, secret: 'for tests only', webFolder };
  const server = createServer();
  server.keepAliveTimeout = 600_000;
  server.listen(0, '127.0.0.1');
  await new Promise((resolve) => server.once('listening', resolve));
  const origin = `http://127.0.0.1:${(server.address() as AddressInfo).port}`;
  server.on('request', createApp({ ...parts, config: { ...config, origin, deliverablesOrigin: origin } }));
  return {
    origin,
    db,
    workspace,
    as: async (name) => {
      const client = new Client(origin);
      await client.post('/session', { name, password: `secret-${name}` });
      return client;
    },
    ended: (client, ids) => waitForBuilds(client, ids),
    stop: async () => {
      server.close();
      server.closeAllConnections();
      await builder.stop();
      await queue.close();
      await events.stop();
      await analyses.stop();
      await db.close();
      await database.drop();
    },
  };
}

const hasEnded = ({ state }: BuildDetail): boolean => ['done', 'failed', 'broken off'].includes(state);

/** Waits until builds have ended, or are as they should be. */
export async function waitForBuilds(
  client: Client,
  ids: readonly string[],
  isSo: (build: BuildDetail) => boolean = hasEnded,
): Promise<readonly BuildDetail[]> {
  const heard = await hear(client);
  try {
    let builds: readonly BuildDetail[] = [];
    await heard.until(async () => {
      const answers = await Promise.all(ids.map((id) => client.get<BuildDetail>(`/builds/${id}`)));
      builds = answers.map(({ json }) => json);
      return builds.every(isSo);
    });
    return builds;
  } finally {
    await heard.end();
  }
}
