import { chromium } from '@playwright/test';
import { freePort } from '../tests/support/free-port.js';
import { freshDatabase } from '../tests/support/fresh-database.js';
import { chromiumOptions } from '../tests/support/chromium.js';
import { kill, spawnServer } from '../tests/support/server-process.js';
import { Database } from '../server/src/db/database.js';
import { addPerson } from '../server/src/people/person.js';
import { openWorkspace } from '../server/src/workspace.js';
import { amounts, loadBigLibrary, longOutline, usedEverywhere } from './made-up/big-library.js';
import { spreadOf } from './measure.js';

/**
 * The interface on a library of ten thousand components: how long each place takes until it can be used, and each act until
 * its result shows; beside it how long scripts ran for it, and how many elements there are.
 */

const rounds = 3;
const database = await freshDatabase();
const db = new Database(database.url);
const workspace = await openWorkspace(db, 'empty');
await loadBigLibrary(db, workspace);
await addPerson(db, workspace, { signIn: 'keeper', name: 'A keeper', role: 'keeper', password: 'secret-keeper' });
const { process: server, origin } = await spawnServer(database.url, await freePort());
const browser = await chromium.launch(chromiumOptions);
const page = await browser.newPage({ viewport: { width: 1280, height: 800 }, baseURL: origin });
const session = await page.context().newCDPSession(page);
await session.send('Performance.enable');

/** Seconds that the page's scripts have run. */
async function worked(): Promise<number> {
  const { metrics } = await session.send('Performance.getMetrics');
  return metrics.find(({ name }) => name === 'ScriptDuration')?.value ?? 0;
}

interface Measured {
  readonly wall: number;
  readonly own: number;
}

async function measure(act: () => Promise<unknown>, shows: () => Promise<unknown>): Promise<Measured> {
  const [begun, before] = [performance.now(), await worked()];
  await act();
  await shows();
  const wall = performance.now() - begun;
  return { wall, own: (await worked()) - before };
}

function print(what: string, all: readonly Measured[], elements: number): void {
  const wall = spreadOf(all.map((each) => each.wall));
  const own = spreadOf(all.map((each) => each.own * 1000));
  const number = (value: number): string => value.toFixed(0);
  console.log(`| ${what} | ${number(wall.median)} / ${number(wall.most)} | ${number(own.median)} | ${elements} |`);
}

const elements = (): Promise<number> => page.evaluate('document.querySelectorAll("*").length');
const visible = (selector: string) => () => page.locator(selector).first().waitFor();

await page.goto('/sign-in');
await page.getByLabel('Name').fill('keeper');
await page.getByLabel('Password').fill('secret-keeper');
await page.getByRole('button', { name: 'Sign in' }).click();
await page.getByRole('heading', { name: 'Library' }).waitFor();

const { components, variables, entries, variants, builds, profiles } = amounts;
console.log(
  `| ${components} components, ${variables} variables, ${entries} entries x ${variants} variants, ${builds} builds, ${profiles} profiles | ms until usable: median / most | script, ms | elements |\n| --- | --- | --- | --- |`,
);
const places: readonly (readonly [string, string, string])[] = [
  ['the library', '/library', 'al-library tbody .title'],
  ['a topic in the editor', '/edit/topic-1', '.ProseMirror p'],
  ['where used, 5,000 uses', `/edit/${usedEverywhere}?panel=uses`, '.direct a'],
  ['the variables', '/variables', 'al-variables tbody b'],
  ['the vocabulary', '/variation', '.state'],
  ['the outline', `/publications/${longOutline}`, 'al-outline-grid .cell.in'],
  ['the board of builds', '/builds', 'al-build-board tbody'],
  ['all builds', '/builds?view=all', 'al-builds tbody b'],
  ['comparing', '/compare', '.choice p-select'],
];
for (const [what, address, shows] of places) {
  const all: Measured[] = [];
  for (let round = 0; round < rounds; round += 1) {
    await page.goto('about:blank');
    all.push(await measure(() => page.goto(address), visible(shows)));
  }
  print(`${what}, the page loaded anew`, all, await elements());
}

async function act(
  what: string,
  address: string,
  ready: string,
  doIt: () => Promise<() => Promise<unknown>>,
): Promise<void> {
  const all: Measured[] = [];
  for (let round = 0; round < rounds; round += 1) {
    await page.goto(address);
    await page.locator(ready).first().waitFor();
    await page.waitForLoadState('networkidle');
    let shows: () => Promise<unknown> = () => Promise.resolve();
    all.push(
      await measure(
        async () => {
          shows = await doIt();
        },
        () => shows(),
      ),
    );
  }
  print(what, all, await elements());
}
const outline = `/publications/${longOutline}`;
const grid = 'al-outline-grid .cell.in';
await act('a letter in the title of the publication', outline, grid, async () => {
  await page.getByLabel('Title of the publication').press('x');
  return () => page.getByText('not saved').waitFor();
});
await act('an entry chosen by the arrow key', outline, grid, async () => {
  await page.locator('al-outline-grid .grid').press('ArrowDown');
  return () => page.locator('al-outline-grid .row.chosen').waitFor();
});
await act('an entry moved by a key', outline, grid, async () => {
  await page.locator('al-outline-grid .grid').press('ArrowDown');
  await page.locator('al-outline-grid .grid').press('Alt+ArrowDown');
  return () => page.getByText('not saved').waitFor();
});
await act('scrolled to the end of the outline', outline, grid, async () => {
  await page
    .locator('al-outline-grid .grid')
    .evaluate((node) => ((node as unknown as { scrollTop: number }).scrollTop = 1e6));
  return () => page.locator('al-outline-grid').getByText('Topic 999', { exact: true }).waitFor();
});
await act('the variants found by a word', outline, grid, async () => {
  await page.getByLabel('Find variants').fill('Variant 52');
  return () => page.locator('al-outline-grid .column').nth(1).waitFor({ state: 'detached' });
});
await act('the library searched', '/library', 'al-library tbody .title', async () => {
  await page.getByLabel('Find in the library').fill('snippet 77');
  return () => page.locator('.total', { hasText: /^\d{1,3}$/ }).waitFor();
});
await act('a component chosen', '/library', 'al-library tbody .title', async () => {
  await page.locator('al-library tbody tr').nth(3).click();
  return () => page.locator('.preview .sheet').waitFor();
});
await act('a letter in a topic', '/edit/topic-1', '.ProseMirror p', async () => {
  await page.locator('.ProseMirror p').first().click();
  await page.keyboard.press('x');
  return () => page.getByText('not saved').waitFor();
});
await act('a variable found', '/variables', 'al-variables tbody b', async () => {
  await page.getByLabel('Find a variable').fill('Value 77');
  return () => page.locator('.total', { hasText: /^1$/ }).waitFor();
});
await browser.close();
await kill(server, 'SIGTERM');
await db.close();
await database.drop();
