import {
  makeNode,
  makeText,
  newRecipe,
  referencesOf,
  type BuildDetail,
  type BuildList,
  type Component,
  type ContentNode,
  type StoredVariant,
} from '@allomorph/core';
import { Client } from '../../tests/support/client.js';
import { freePort } from '../../tests/support/free-port.js';
import { freshDatabase } from '../../tests/support/fresh-database.js';
import { waitForBuilds } from '../../tests/support/running-server.js';
import { kill, spawnServer, spawnWorker } from '../../tests/support/server-process.js';
import { Database } from './db/database.js';
import { LastingClient } from './db/lasting-client.js';
import { eventChannel } from './events/events.js';

describe('A server that is killed', () => {
  let database: Awaited<ReturnType<typeof freshDatabase>>;
  let db: Database;

  const signIn = async (origin: string): Promise<Client> => {
    const client = new Client(origin);
    await client.post('/session', { name: 'tomasz', password: 'dunlin-tomasz' });
    return client;
  };

  beforeAll(async () => {
    database = await freshDatabase();
    db = new Database(database.url);
  });
  afterAll(async () => {
    await db.close();
    await database.drop();
  });

  /** Waits until something is so, and looks whenever anything is told: it may be the end of the last build. */
  const untilTold = async (isSo: () => Promise<boolean>): Promise<void> => {
    let told: () => void = () => undefined;
    const listener = new LastingClient(database.url, async (each) => {
      each.on('notification', () => told());
      await each.query(`listen ${eventChannel}`);
    });
    await listener.open();
    for (;;) {
      const next = new Promise<void>((resolve) => (told = resolve));
      if (await isSo()) break;
      await next;
    }
    await listener.close();
  };

  it('in the middle of saves leaves each of them whole or not at all', async () => {
    const { process, origin } = await spawnServer(database.url, await freePort());
    const client = await signIn(origin);
    const paragraphs = (count: number): ContentNode[] =>
      Array.from({ length: count }, (_, index) =>
        makeNode('paragraph', null, [makeText(`Paragraph ${index} `), makeNode('variable', { key: 'product-name' })]),
      );
    const body = (count: number): ContentNode => makeNode('fragment', null, paragraphs(count));
    const { json: made } = await client.post<Component>('/components', {
      kind: 'snippet',
      title: 'Long',
      body: body(1),
    });
    let revision = 1;
    let answered = 1;
    let saved: () => void = () => undefined;
    const severalSaved = new Promise<void>((resolve) => (saved = resolve));
    const saving = (async () => {
      for (;;) {
        const { status } = await client.put(`/components/${made.key}`, {
          base: revision,
          title: 'Long',
          body: body(400 + revision),
        });
        if (status !== 200) return;
        revision += 1;
        answered = revision;
        if (answered === 4) saved();
      }
    })().catch(() => undefined);
    await severalSaved;
    await kill(process);
    await saving;

    const { rows } = await db.query<{ revision: number; newest: number; body: Component['body'] }>(
      `select c.revision, (select max(revision) from revisions where key = c.key) as newest, r.body
         from components c join revisions r on r.workspace = c.workspace and r.key = c.key and r.revision = c.revision where c.key = $1`,
      [made.key],
    );
    const [head] = rows;
    expect(head?.revision).toBe(head?.newest as number);
    expect(head?.revision).toBeGreaterThanOrEqual(answered);
    const stored = await db.query<{ count: string }>(`select count(*) from component_references where source = $1`, [
      made.key,
    ]);
    expect(Number(stored.rows[0]?.count)).toBe(referencesOf(head?.body as ContentNode).length);
  });

  it('in the middle of a build leaves nothing half-written, and the build is run again', async () => {
    const port = await freePort();
    const first = await spawnServer(database.url, port);
    const client = await signIn(first.origin);
    const { json: variants } = await client.get<StoredVariant[]>('/variants');
    const variant = variants.find((each) => each.publication === 'observer-handbook') as StoredVariant;
    const { json } = await client.post<{ builds: string[] }>('/builds', { variants: [variant.id] });
    const [build = ''] = json.builds;
    for (;;) {
      const { rows } = await db.query<{ state: string }>('select state from builds where id = $1', [build]);
      if (rows[0]?.state === 'running') break;
      if (rows[0]?.state === 'done') throw new Error('The build ended before it could be killed.');
    }
    await kill(first.process);
    const files = await db.query<{ count: string }>('select count(*) from deliverable_files where build = $1', [build]);
    expect(Number(files.rows[0]?.count)).toBe(0);

    const second = await spawnServer(database.url, port);
    const again = await signIn(second.origin);
    const [ended] = await waitForBuilds(again, [build]);
    expect((ended as BuildDetail).state).toBe('done');
    const { rows } = await db.query<{ attempts: number }>('select attempts from builds where id = $1', [build]);
    expect(rows[0]?.attempts).toBe(2);
    await kill(second.process);
  });

  it('no, asked to end in the middle of a build, gives the build back at once, and does not count it as an attempt', async () => {
    const { process, origin } = await spawnServer(database.url, await freePort());
    const client = await signIn(origin);
    const { json: variants } = await client.get<StoredVariant[]>('/variants');
    const { json } = await client.post<{ builds: string[] }>('/builds', { variants: variants.map(({ id }) => id) });
    const states = async () =>
      (
        await db.query<{ state: string; attempts: number }>('select state, attempts from builds where id = any($1)', [
          json.builds,
        ])
      ).rows;
    while (!(await states()).some(({ state }) => state === 'running'));
    await kill(process, 'SIGTERM');
    expect((await states()).some(({ state }) => state === 'running')).toBeFalse();
    expect(
      (await states()).filter(({ state }) => state === 'queued').every(({ attempts }) => attempts === 0),
    ).toBeTrue();
    const second = await spawnServer(database.url, await freePort());
    const ended = await waitForBuilds(await signIn(second.origin), json.builds);
    expect(ended.some(({ state }) => state === 'broken off')).toBeFalse();
    await kill(second.process);
  });

  it('while a worker of its own stands by, has its builds taken by that one', async () => {
    const server = await spawnServer(database.url, await freePort());
    const client = await signIn(server.origin);
    const { json: variants } = await client.get<StoredVariant[]>('/variants');
    const { json } = await client.post<{ builds: string[] }>('/builds', {
      variants: variants.slice(0, 3).map(({ id }) => id),
    });
    await kill(server.process);
    const worker = await spawnWorker(database.url);
    const unended = async (): Promise<number> => {
      const { rows } = await db.query<{ count: string }>(
        `select count(*) from builds where id = any($1) and state in ('queued', 'running')`,
        [json.builds],
      );
      return Number(rows[0]?.count);
    };
    await untilTold(async () => (await unended()) === 0);
    const { rows } = await db.query<{ state: string }>('select state from builds where id = any($1)', [json.builds]);
    expect(rows.map((row) => row.state)).toEqual(['done', 'done', 'done']);
    await kill(worker, 'SIGTERM');
  });

  it('with a build in hand that it had not begun leaves it to others', async () => {
    const server = await spawnServer(database.url, await freePort());
    const client = await signIn(server.origin);
    const { json: variants } = await client.get<StoredVariant[]>('/variants');
    const { json } = await client.post<{ builds: string[] }>('/builds', {
      variants: variants.slice(0, 4).map(({ id }) => id),
    });
    const taken = await db.query(
      `update graphile_worker._private_jobs set locked_at = now(), locked_by = 'one that is gone'
        where key = $1 and locked_at is null returning id`,
      [json.builds.at(-1)],
    );
    expect(taken.rows.length).toBe(1);
    const ended = await waitForBuilds(client, json.builds);
    expect(ended.map(({ state }) => state)).toEqual(['done', 'done', 'done', 'done']);
    await kill(server.process);
  });

  it('half-way through two hundred builds that two processes share, leaves none unmade, none made twice and none in part', async () => {
    const server = await spawnServer(database.url, await freePort());
    const client = await signIn(server.origin);
    const { json: variants } = await client.get<StoredVariant[]>('/variants');
    const like = variants.find((each) => each.publication === 'installation-guide') as StoredVariant;
    const ids: string[] = [];
    for (let at = 0; at < 200; at += 1) {
      const { json: made } = await client.post<StoredVariant>(`/publications/${like.publication}/variants`, {
        ...newRecipe,
        profile: like.profile,
        title: `Variant ${at}`,
      });
      ids.push(made.id);
    }
    const worker = await spawnWorker(database.url);
    const { json } = await client.post<{ builds: string[] }>('/builds', { variants: ids });
    expect(json.builds.length).toBe(200);
    const inState = async (...states: readonly string[]): Promise<number> => {
      const { rows } = await db.query<{ count: string }>(
        'select count(*) from builds where id = any($1) and state = any($2)',
        [json.builds, states],
      );
      return Number(rows[0]?.count);
    };
    await untilTold(async () => (await inState('done')) >= 100);
    await kill(worker);
    await untilTold(async () => (await inState('queued', 'running')) === 0);
    expect(await inState('done')).toBe(200);
    const { rows } = await db.query<{ attempts: number; files: string; bytes: string; told: string }>(
      `select b.attempts, b.bytes as told, count(f.*) as files, sum(k.size) as bytes
         from builds b join deliverable_files f on f.build = b.id left join blobs k on k.digest = f.digest
        where b.id = any($1) group by b.id, b.attempts, b.bytes`,
      [json.builds],
    );
    expect(rows.length).toBe(200);
    // Only what the killed process was making was begun again.
    expect(rows.filter(({ attempts }) => attempts > 1).length).toBeLessThanOrEqual(1);
    expect(new Set(rows.map(({ files }) => files)).size).toBe(1);
    for (const { bytes, told } of rows) expect(bytes).toBe(told);
    await kill(server.process, 'SIGTERM');
  });

  it('again and again in the same build ends with the build marked as broken off', async () => {
    await db.query(`update builds set state = 'running', attempts = 3, worker_lock = 999999, ended_at = null`);
    const { process, origin } = await spawnServer(database.url, await freePort());
    const client = await signIn(origin);
    const { json } = await client.get<BuildList>('/builds');
    expect(json.items[0]?.state).toBe('broken off');
    expect(json.items[0]?.message).toBe('The process that ran this build ended, several times.');
    await kill(process);
  });
});
