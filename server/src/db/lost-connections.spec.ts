import type { BuildDetail, Component, StoredVariant } from '@allomorph/core';
import { Client, type ProblemDetails } from '../../../tests/support/client.js';
import { freePort } from '../../../tests/support/free-port.js';
import { freshDatabase } from '../../../tests/support/fresh-database.js';
import { hear } from '../../../tests/support/heard.js';
import { waitForBuilds } from '../../../tests/support/running-server.js';
import { kill, spawnServer } from '../../../tests/support/server-process.js';
import { Database, isDatabaseAway } from './database.js';

describe('A server that loses its connections to the database', () => {
  let database: Awaited<ReturnType<typeof freshDatabase>>;
  let db: Database;
  let server: Awaited<ReturnType<typeof spawnServer>>;
  let client: Client;

  beforeAll(async () => {
    database = await freshDatabase();
    db = new Database(database.url);
    server = await spawnServer(database.url, await freePort());
    client = new Client(server.origin);
    await client.post('/session', { name: 'tomasz', password: 'dunlin-tomasz' });
  });
  afterAll(async () => {
    await kill(server.process, 'SIGTERM');
    await db.close();
    await database.drop();
  });

  /** Cuts every connection of the server, as a restart of the database does. */
  const cut = (): Promise<unknown> =>
    db.query(
      `select pg_terminate_backend(pid) from pg_stat_activity
        where datname = current_database() and pid <> pg_backend_pid()`,
    );
  /** Asks until there is an answer; what it says meanwhile must be a sentence that asks for patience. */
  const answered = async (): Promise<void> => {
    for (;;) {
      const { status, json } = await client.get<ProblemDetails>('/components');
      if (status === 200) return;
      expect([status, json.detail]).toEqual([503, jasmine.stringContaining('The database cannot be reached just now')]);
    }
  };

  it('knows one that was lost between two queries of a transaction', async () => {
    const own = new Database(database.url, 1);
    const lost = new Promise((resolve) => own.pool.on('connect', (connection) => connection.once('error', resolve)));
    const failed = own.transaction(async (inside) => {
      const { rows } = await inside.query<{ pid: number }>('select pg_backend_pid() as pid');
      await db.query('select pg_terminate_backend($1)', [rows[0]?.pid]);
      await lost;
      await inside.query('select 1');
    });
    expect(isDatabaseAway(await failed.catch((error: unknown) => error))).toBeTrue();
    await own.close();
  });

  it('goes on with all that it does, however often that happens', async () => {
    for (let round = 0; round < 4; round += 1) {
      await cut();
      await answered();
    }
    for (const path of ['/healthz', '/readyz']) expect((await client.request('GET', path)).status).toBe(200);
    const { process } = server;
    expect([process.exitCode, process.signalCode]).toEqual([null, null]);

    // Each event is told once, however often the listener had to connect again.
    const heard = await hear(client);
    const body = { type: 'fragment', content: [{ type: 'paragraph' }] };
    const save = async (): Promise<string> => {
      const { json } = await client.post<Component>('/components', { kind: 'snippet', title: 'Told', body });
      await client.put(`/components/${json.key}`, { base: 1, title: 'Told', body });
      return json.key;
    };
    const of = (key: string): number =>
      heard.told.filter((each) => each.type === 'component' && each.key === key && each.revision === 2).length;
    // The listener may still be connecting: what is told before is lost.
    for (let key = await save(); of(key) === 0;) key = await save();
    const [last, after] = [await save(), await save()];
    await heard.until(() => of(after) > 0);
    expect(of(last)).toBe(1);
    // Whoever listens is told that something may have been missed.
    await cut();
    await heard.until(() => heard.told.some(({ type }) => type === 'missed'));
    await heard.end();
    await answered();

    const { json: variants } = await client.get<readonly StoredVariant[]>('/variants');
    const { json } = await client.post<{ builds: string[] }>('/builds', { variants: [variants[0]?.id] });
    const [build] = await waitForBuilds(client, json.builds);
    expect((build as BuildDetail).state).toBe('done');
  });
});
