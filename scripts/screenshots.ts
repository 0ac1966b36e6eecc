import { spawnSync } from 'node:child_process';
import { mkdirSync, mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { chromium } from '@playwright/test';
import { chromiumOptions } from '../tests/support/chromium.js';
import { lookThrough, sheet, signIn } from '../tests/browser/people.js';
import { freePort } from '../tests/support/free-port.js';
import { freshDatabase } from '../tests/support/fresh-database.js';
import { kill, spawnServer } from '../tests/support/server-process.js';

/** Takes one picture of each main view, from the demo library, into docs/screenshots. */

// Compiled, this file lies elsewhere: it runs in the folder of the project.
const folder = join(process.cwd(), 'docs/screenshots');
mkdirSync(folder, { recursive: true });
const database = await freshDatabase();
const { process: server, origin } = await spawnServer(database.url, await freePort());
const browser = await chromium.launch(chromiumOptions);
const page = await browser.newPage({ viewport: { width: 1280, height: 800 }, baseURL: origin, colorScheme: 'light' });
const shot = async (name: string): Promise<void> => {
  await page.waitForTimeout(900);
  await page.screenshot({ path: join(folder, `${name}.png`) });
};
const open = async (path: string): Promise<void> => {
  await page.goto(path);
  await page.waitForTimeout(900);
};

await signIn(page, 'tomasz');
await open('/library');
await page.getByLabel('Find in the library').fill('mains voltge');
await page.waitForTimeout(600);
await page.getByRole('row').filter({ hasText: 'Warning: mains voltage' }).first().click();
await page.getByRole('button', { name: 'Collections' }).click();
await page.waitForTimeout(900);
await shot('library');
await open('/edit/mount-mast');
await lookThrough(page, 'Dunlin 2, Europe, roof');
await sheet(page).getByText('Put the bracket around').click();
await shot('editor-through-a-lens');
await lookThrough(page, null);
await sheet(page).getByText('The torque is').click();
await page.keyboard.press('Control+Space');
await page.keyboard.type('torque');
await shot('insert-menu');
await page.keyboard.press('Escape');
await page.goto('/edit/readings?panel=structure');
await page.getByRole('treeitem', { name: /section Wind/ }).click();
await shot('structure');
await open('/edit/data');
await sheet(page).locator('[data-node=display_formula]').click();
await shot('formula');
await open('/replace?find=mast&with=pole');
await page.locator('li ins').first().waitFor();
await shot('replace');
await open('/first-hour?step=2');
await page.getByLabel('Document', { exact: true }).fill('Calibration guide');
await page.getByLabel('Languages').fill('en, de');
await page
  .getByRole('group', { name: 'Product' })
  .getByLabel(/one for each/)
  .check();
await page
  .getByRole('group', { name: 'Audience' })
  .getByLabel(/one for only/)
  .check();
await shot('first-hour');
await open('/variables?by=market');
await shot('variables');
await open('/variation');
await shot('variation');
await open('/people');
await shot('people');
await open('/publications/observer-handbook?entry=e10');
await shot('publication');
await open('/publications');
// The installation guide for the page of a deliverable, the handbook for what a change makes stale.
for (const title of ['Installation Guide', 'Observer Handbook']) {
  await open('/publications');
  const book = page.getByRole('article').filter({ has: page.getByRole('link', { name: title, exact: true }) });
  await book.getByRole('button', { name: 'Build all variants' }).click();
  await page.waitForTimeout(12_000);
}
await open('/edit/caution-battery');
await sheet(page)
  .locator('p')
  .first()
  .click({ position: { x: 60, y: 12 } });
await page.keyboard.press('Home');
await page.keyboard.type('Switch the station off. ');
await page.getByRole('tab', { name: 'Reach' }).click();
await page.getByText('Looking …').waitFor({ state: 'hidden', timeout: 120_000 });
await shot('reach');
await page.getByRole('button', { name: 'Save', exact: true }).click();
await page.waitForTimeout(1500);
await open('/builds');
await page.getByRole('link', { name: 'Dunlin 4, Europe', exact: true }).click();
await page.waitForTimeout(3000);
await shot('builds');
await page.getByRole('link', { name: 'Why is this here?' }).click();
const asked = page.frameLocator('iframe').locator('article');
await asked.locator('h1').waitFor();
await page.getByRole('combobox', { name: 'Page that is shown' }).click();
await page.getByRole('option', { name: /When something is wrong/ }).click();
await page.getByText('Show what was left out').click();
await asked.getByText('Sensor board').click();
await page.waitForTimeout(1000);
await shot('origin');
await open('/edit/care');
await sheet(page).locator('[data-node=slot]').click();
await shot('slot');
await open('/design?design=fennick-handbook&part=cover');
await page.getByAltText('The first pages on paper').waitFor();
await page.waitForTimeout(3000);
await shot('design');
await open('/compare');
for (const [at, title] of ['Dunlin 2, Europe', 'Dunlin 4X, North America'].entries()) {
  await page.locator('.choice p-select').nth(at).click();
  await page.waitForTimeout(500);
  await page.getByRole('option', { name: title, exact: true }).first().click();
  await page.waitForTimeout(700);
}
await page.waitForTimeout(2500);
await shot('compare');
await open('/builds');
await page.getByRole('link', { name: 'Dunlin 4 family, Australia, mast', exact: true }).click();
await page.waitForTimeout(900);
const [deliverable] = await Promise.all([
  page.context().waitForEvent('page'),
  page.getByRole('link', { name: 'Open Web site' }).click(),
]);
await deliverable.setViewportSize({ width: 1280, height: 800 });
await deliverable
  .getByRole('link', { name: /Mounting on a mast/ })
  .first()
  .click();
await deliverable.waitForTimeout(700);
await deliverable.screenshot({ path: join(folder, 'deliverable.png') });
// Pages of the handbook on paper, beside each other.
await open('/builds');
await page.getByRole('link', { name: 'Dunlin 4, Europe', exact: true }).click();
const paper = await page.getByRole('link', { name: 'Open PDF' }).getAttribute('href');
const papers = mkdtempSync(join(tmpdir(), 'allomorph-paper-'));
writeFileSync(join(papers, 'a.pdf'), await (await page.request.get(paper ?? '')).body());
const shown = [2, 5, 8, 11].map((number) => {
  const at = join(papers, String(number));
  spawnSync('pdftoppm', [
    '-r',
    '70',
    '-f',
    `${number}`,
    '-l',
    `${number}`,
    '-singlefile',
    '-png',
    join(papers, 'a.pdf'),
    at,
  ]);
  return `<img style="width:300px;box-shadow:0 2px 10px #0005" src="data:image/png;base64,${readFileSync(`${at}.png`).toString('base64')}">`;
});
rmSync(papers, { recursive: true });
await page.setContent(
  `<body style="margin:0;height:480px;display:flex;gap:16px;align-items:center;justify-content:center;background:#8d9293">${shown.join('')}`,
);
await page.setViewportSize({ width: 1280, height: 480 });
await shot('paper');
await browser.close();
await kill(server, 'SIGTERM');
await database.drop();
