import { chromium, type Page } from '@playwright/test';
import { freePort } from '../tests/support/free-port.js';
import { freshDatabase } from '../tests/support/fresh-database.js';
import { chromiumOptions } from '../tests/support/chromium.js';
import { kill, spawnServer } from '../tests/support/server-process.js';
import { Database } from '../server/src/db/database.js';
import { insertComponents } from '../server/src/library/components.js';
import { addPerson } from '../server/src/people/person.js';
import { writeAxis, writeProfile } from '../server/src/variation/vocabulary.js';
import { openWorkspace } from '../server/src/workspace.js';
import { longTopics, makeLongTopics } from './made-up/long-topics.js';
import { axes, profileOf } from './made-up/publication.js';

/**
 * Writing in long topics, in a real browser: how long a topic takes until its page can be written in, and how long scripts,
 * style and layout run for a key, for another lens and for saving.
 */

const keys = 60;
const rounds = 3;
const database = await freshDatabase();
const db = new Database(database.url);
const workspace = await openWorkspace(db, 'empty');
const actor = { workspace, person: null };
await db.transaction(async (client) => {
  for (const axis of axes) await writeAxis(client, actor, axis);
  for (let at = 0; at < 2; at += 1)
    await writeProfile(client, actor, {
      axes: profileOf(at).axes as Record<string, { default: 'in' | 'out'; in?: string[]; out?: string[] }>,
      key: `profile-${at}`,
      title: `Profile ${at}`,
    });
  await insertComponents(client, actor, makeLongTopics());
});
await addPerson(db, workspace, { signIn: 'keeper', name: 'A keeper', role: 'keeper', password: 'secret-keeper' });
const { process: server, origin } = await spawnServer(database.url, await freePort());
const browser = await chromium.launch(chromiumOptions);
const page = await browser.newPage({ viewport: { width: 1280, height: 800 }, baseURL: origin });
const session = await page.context().newCDPSession(page);
await session.send('Performance.enable');

interface Spent {
  readonly script: number;
  /** Scripts, style and layout, and all else that keeps the page from answering. */
  readonly all: number;
}

/** Milliseconds that the page has worked. */
async function spent(): Promise<Spent> {
  const { metrics } = await session.send('Performance.getMetrics');
  const seconds = (wanted: string): number => metrics.find(({ name }) => name === wanted)?.value ?? 0;
  return { script: seconds('ScriptDuration') * 1000, all: seconds('TaskDuration') * 1000 };
}

const frames = (of: Page): Promise<unknown> =>
  of.evaluate('new Promise((done) => requestAnimationFrame(() => requestAnimationFrame(done)))');

async function costOf(act: () => Promise<unknown>): Promise<Spent> {
  const before = await spent();
  await act();
  await frames(page);
  const after = await spent();
  return { script: after.script - before.script, all: after.all - before.all };
}

function at(share: number, values: readonly number[]): string {
  const sorted = [...values].sort((a, b) => a - b);
  return (sorted[Math.round(share * (sorted.length - 1))] ?? 0).toFixed(0);
}

function print(what: string, values: readonly number[], besides: readonly number[] = []): void {
  const more = besides.length > 0 ? `${at(0.5, besides)} / ${at(0.95, besides)}` : '';
  console.log(`| ${what} | ${at(0.5, values)} / ${at(0.95, values)} | ${more} |`);
}

await page.goto('/sign-in');
await page.getByLabel('Name').fill('keeper');
await page.getByLabel('Password').fill('secret-keeper');
await page.getByRole('button', { name: 'Sign in' }).click();
await page.getByRole('heading', { name: 'Library' }).waitFor();

console.log('| writing | ms: median / 95 of 100 | all work of the page, ms |\n| --- | --- | --- |');
for (const [key, name] of [
  [longTopics.long, '5,000 words, 60 placements'],
  [longTopics.huge, '22,000 nodes'],
] as const) {
  const opened: number[] = [];
  for (let round = 0; round < rounds; round += 1) {
    await page.goto('/library');
    await page.locator('al-library tbody .title').first().waitFor();
    await page.waitForLoadState('networkidle');
    // Inside the application, as a writer comes to it, until the first frame with the page has been drawn.
    const took = await page.evaluate(
      `new Promise((done) => {
        const begun = performance.now();
        history.pushState({}, '', '/edit/${key}');
        dispatchEvent(new PopStateEvent('popstate'));
        const look = () => {
          if (!document.querySelector('.ProseMirror[contenteditable=true] p')) requestAnimationFrame(look);
          else requestAnimationFrame(() => requestAnimationFrame(() => done(performance.now() - begun)));
        };
        look();
      })`,
    );
    opened.push(Number(took));
  }
  await page.waitForLoadState('networkidle');
  const nodes = await page.evaluate(
    `(() => { const walk = document.createTreeWalker(document.querySelector('.ProseMirror')); let n = 0; while (walk.nextNode()) n += 1; return n; })()`,
  );
  print(`${name} (${String(nodes)} nodes): opened, until it can be written in`, opened);

  const typed = async (what: string): Promise<void> => {
    await page.locator('.ProseMirror p').first().click();
    const costs: Spent[] = [];
    for (let each = 0; each < keys; each += 1)
      costs.push(await costOf(() => page.keyboard.press(each % 6 === 5 ? 'Space' : 'x')));
    print(
      `${name}: ${what}`,
      costs.map(({ script }) => script),
      costs.map(({ all }) => all),
    );
  };
  await typed('a key');

  const lens: number[] = [];
  const whole: number[] = [];
  for (let round = 0; round < 2 * rounds; round += 1) {
    const choose = page.locator('al-lens-strip p-select');
    await choose.click();
    const option = page.locator('.p-select-option').filter({ hasText: `Profile ${round % 2}` });
    await option.waitFor();
    const cost = await costOf(() => option.click());
    lens.push(cost.script);
    whole.push(cost.all);
    await page.locator('.p-select-option').first().waitFor({ state: 'detached' });
  }
  print(`${name}: another lens`, lens, whole);
  await typed('a key through a lens');
  await page.getByRole('tab', { name: 'Structure' }).click();
  await typed('a key beside the structure');

  const saved: number[] = [];
  for (let round = 0; round < rounds; round += 1) {
    await page.locator('.ProseMirror p').first().click();
    await page.keyboard.press('x');
    await page.getByText('not saved').waitFor();
    const begun = performance.now();
    await page.keyboard.press('Control+s');
    await page.locator('.state', { hasText: /^saved$/ }).waitFor();
    saved.push(performance.now() - begun);
  }
  print(`${name}: saved`, saved);
}
await browser.close();
await kill(server, 'SIGTERM');
await db.close();
await database.drop();
