import { makeNode, makeText, type Component, type ContentNode } from '@allomorph/core';
import { Client } from '../tests/support/client.js';
import { freePort } from '../tests/support/free-port.js';
import { freshDatabase } from '../tests/support/fresh-database.js';
import { kill, spawnServer } from '../tests/support/server-process.js';
import { Database } from '../server/src/db/database.js';
import { addPerson } from '../server/src/people/person.js';
import { openWorkspace } from '../server/src/workspace.js';
import { longOutline, loadBigLibrary, usedEverywhere } from './made-up/big-library.js';
import { spreadOf } from './measure.js';

/**
 * Fifty people at once on a library of ten thousand components, each with a pause after every act: how long the server
 * takes for each kind of request, whether any fails, and how much memory it holds at the beginning and at the end.
 */

const people = 50;
const seconds = Number(process.env['LOAD_SECONDS'] ?? 60);
const pause = 4_000;
const database = await freshDatabase();
const db = new Database(database.url);
const workspace = await openWorkspace(db, 'empty');
const variants = await loadBigLibrary(db, workspace);
for (let at = 0; at < people; at += 1)
  await addPerson(db, workspace, { signIn: `p${at}`, name: `Person ${at}`, role: 'keeper', password: `secret-p${at}` });
const { process: server, origin } = await spawnServer(database.url, await freePort());

const times = new Map<string, number[]>();
let failures = 0;

async function timed(kind: string, ask: () => Promise<{ readonly status: number }>): Promise<void> {
  const begun = performance.now();
  const { status } = await ask();
  times.set(kind, [...(times.get(kind) ?? []), performance.now() - begun]);
  // Two who save the same at once is no failure; nobody does here.
  if (status >= 400) failures += 1;
}

async function memory(): Promise<number> {
  const text = await (await fetch(`${origin}/metrics`)).text();
  return Number(/^process_resident_memory_bytes (\S+)/m.exec(text)?.[1] ?? 0) / 1e6;
}

const paragraph = (text: string): ContentNode => makeNode('paragraph', null, [makeText(text)]);
const words = ['rotor', 'seal', 'beacon', 'hinge 4', 'valve', 'snippet 77', 'topic 9'];

async function work(at: number, until: number): Promise<void> {
  const client = new Client(origin);
  await client.post('/session', { name: `p${at}`, password: `secret-p${at}` });
  const { json: own } = await client.post<Component>('/components', {
    kind: 'topic',
    title: `Own topic of ${at}`,
    body: makeNode('topic', null, [makeNode('title', null, [makeText('Own')]), paragraph('begin')]),
  });
  let revision = 1;
  const acts: readonly (() => Promise<void>)[] = [
    () => timed('search', () => client.get(`/components?find=${words[(at + revision) % words.length]}`)),
    () => timed('component', () => client.get(`/components/t-${(at * 131 + revision) % 8000}/closure`)),
    () =>
      timed('save', () => {
        const body = makeNode('topic', null, [
          makeNode('title', null, [makeText('Own')]),
          paragraph(`turn ${revision}`),
        ]);
        return client.put(`/components/${own.key}`, { base: revision++, title: own.title, body });
      }),
    () => timed('where used', () => client.get(`/components/${usedEverywhere}/uses`)),
    () => timed('builds', () => client.get('/builds')),
    () => timed('publication', () => client.get(`/publications/${longOutline}`)),
    () => timed('variables', () => client.get('/variables')),
    () => timed('freshness', () => client.get('/freshness')),
  ];
  // Nobody begins at the same moment as the others.
  await new Promise((resolve) => setTimeout(resolve, (at / people) * pause));
  for (let turn = at; Date.now() < until; turn += 1) {
    await acts[turn % acts.length]?.();
    await new Promise((resolve) => setTimeout(resolve, pause));
  }
}

// What the deliverables of the variants were made from, so that freshness has something to look at.
const first = new Client(origin);
await first.post('/session', { name: 'p0', password: 'secret-p0' });
const built = variants.slice(0, 8).map(({ id }) => id);
await first.post('/builds', { variants: built });
for (;;) {
  const { json } = await first.get<{ total: number }>('/builds?state=queued');
  const { json: running } = await first.get<{ total: number }>('/builds?state=running');
  if (json.total + running.total === 0) break;
  await new Promise((resolve) => setTimeout(resolve, 1_000));
}
await first.get('/freshness');
const before = await memory();
await Promise.all(Array.from({ length: people }, (_, at) => work(at, Date.now() + seconds * 1000)));
const after = await memory();

console.log(
  `| ${people} people, ${seconds} s, a pause of ${pause / 1000} s | ms: median / 95 % / most | requests |\n| --- | --- | --- |`,
);
for (const [kind, all] of times) {
  const sorted = [...all].sort((a, b) => a - b);
  const p95 = sorted[Math.min(sorted.length - 1, Math.ceil(0.95 * sorted.length) - 1)] ?? 0;
  console.log(
    `| ${kind} | ${Math.round(spreadOf(all).median)} / ${Math.round(p95)} / ${Math.round(spreadOf(all).most)} | ${all.length} |`,
  );
}
console.log(`${failures} failed; resident memory ${Math.round(before)} MB before, ${Math.round(after)} MB after.`);
await kill(server, 'SIGTERM');
await db.close();
await database.drop();
