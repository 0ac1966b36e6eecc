import { readFileSync } from 'node:fs';
import { randomUUID } from 'node:crypto';
import { expect, type Page } from '@playwright/test';
import { make, visit } from './people.js';
import { testAs } from './server.js';

const test = testAs('tomasz');

/** A design of one's own, by a name that no other test has. */
async function newDesign(page: Page, from: string, settings: object = {}): Promise<string> {
  const key = `d-${randomUUID().slice(0, 12)}`;
  await make(page, 'put', `/designs/${key}`, { key, title: `Design ${key}`, from, settings, base: 0 });
  return key;
}

const row = (page: Page, title: string) => page.locator('al-setting-row').filter({ hasText: title }).first();
const shownPage = (page: Page) => page.frameLocator('iframe[title="A page of the web site"]');
const saveButton = (page: Page) => page.getByRole('button', { name: 'Save', exact: true });

test('A design is derived, changed with the live page beside it, saved, and taken back to what it derives from', async ({
  page,
}) => {
  await visit(page, '/design?design=labelled&part=cover&as=web');
  await expect(page.getByText('comes with the application')).toBeVisible();
  await expect(page.locator('#setting-cover-over')).toBeDisabled();
  await page.getByRole('button', { name: 'Derive a design from this' }).click();
  const title = `Ours ${randomUUID().slice(0, 8)}`;
  await page.getByRole('dialog').getByLabel('Title').fill(title);
  await page.getByRole('button', { name: 'Make it' }).click();
  await expect(page.locator('#design-title')).toHaveValue(title);
  await page.getByRole('combobox', { name: 'Page that is shown' }).click();
  await page.getByRole('option', { name: /\(start\)$/ }).click();
  await page.locator('#setting-cover-over').fill('Seen at once, {company}');
  await expect(shownPage(page).getByText('Seen at once, Fennick Instruments')).toBeVisible();
  await expect(page.getByText('not saved', { exact: true })).toBeVisible();
  await page.keyboard.press('Control+s');
  await expect(page.getByText(/is saved as revision 2/)).toBeVisible();
  await page.reload();
  await expect(page.locator('#setting-cover-over')).toHaveValue('Seen at once, {company}');
  await row(page, 'Over the title').getByRole('button', { name: 'as Plain' }).click();
  await expect(page.locator('#setting-cover-over')).toHaveValue('');
  await expect(shownPage(page).getByRole('heading', { level: 1 })).toBeVisible();
  await expect(shownPage(page).getByText('Seen at once')).toHaveCount(0);
});

test('Paper is drawn anew with every change, and what is missing is said', async ({ page }) => {
  const key = await newDesign(page, 'plain');
  await visit(page, `/design?design=${key}&part=paper`);
  const sheets = page.getByAltText('The first pages on paper');
  const shape = () =>
    sheets.evaluate((image) => {
      const { naturalWidth, naturalHeight } = image as unknown as { naturalWidth: number; naturalHeight: number };
      return naturalWidth / naturalHeight;
    });
  await expect(sheets).toBeVisible();
  const before = await shape();
  await page.locator('label[for="setting-paper-landscape"]').click();
  await expect.poll(shape).toBeGreaterThan(before * 1.5);
  await page.getByRole('button', { name: 'Cover', exact: true }).click();
  await page.locator('#setting-cover-foot').fill('{nowhere}');
  await expect(page.getByText('The variable nowhere does not exist.')).toBeVisible();
  // A number that cannot be is brought to the nearest that can.
  await page
    .getByRole('button', { name: /^Paper/ })
    .first()
    .click();
  await page.locator('#setting-paper-top').fill('900');
  await page.locator('#setting-paper-top').press('Tab');
  await expect(page.locator('#setting-paper-top')).toHaveValue('100');
});

test('Words are said by language, and lists put in order', async ({ page }) => {
  const key = await newDesign(page, 'labelled');
  await visit(page, `/design?design=${key}&part=numbers&language=de`);
  const chapter = page.locator('#setting-templates-chapter-heading');
  await expect(chapter).toHaveValue('Kapitel {number}.');
  await chapter.fill('Kap. {number}');
  await page.getByRole('button', { name: 'Lists', exact: true }).click();
  await page.getByRole('button', { name: 'Figures up' }).click();
  await page.getByRole('button', { name: 'Tables out' }).click();
  await saveButton(page).click();
  await expect(page.getByText(/is saved as revision 2/)).toBeVisible();
  const { designs } = (await (await page.request.get('/api/variation')).json()) as {
    designs: { key: string; settings: Record<string, unknown> }[];
  };
  expect(designs.find((each) => each.key === key)?.settings).toEqual({
    'templates.chapter.heading@de': 'Kap. {number}',
    'lists.front': ['figures', 'contents'],
  });
});

test('Two who change one design keep what both did, setting by setting', async ({ page, elsewhere }) => {
  const key = await newDesign(page, 'plain', { 'paper.top': 30 });
  await visit(page, `/design?design=${key}&part=paper`);
  await page.locator('#setting-paper-bottom').fill('40');
  await page.locator('#setting-paper-bottom').press('Tab');
  const other = await elsewhere('tomasz');
  await visit(other, `/design?design=${key}&part=paper`);
  await other.locator('#setting-paper-inner').fill('33');
  await other.locator('#setting-paper-inner').press('Tab');
  await saveButton(other).click();
  await expect(other.getByText(/is saved as revision 2/)).toBeVisible();
  await saveButton(page).click();
  await expect(page.getByText(/is saved as revision 3, with what somebody else changed/)).toBeVisible();
  await expect(page.locator('#setting-paper-inner')).toHaveValue('33');
  await expect(page.locator('#setting-paper-bottom')).toHaveValue('40');
});

test('A design goes out as a file and comes in again, the same', async ({ page }) => {
  const key = await newDesign(page, 'formal', { 'paper.top': 31, 'templates.figure.heading@de': 'Bild {number}' });
  await visit(page, `/design?design=${key}`);
  const menu = page.getByRole('button', { name: 'More for designs' });
  await menu.click();
  const [download] = await Promise.all([
    page.waitForEvent('download'),
    page.getByRole('menuitem', { name: 'Save as a file' }).click(),
  ]);
  const text = readFileSync(await download.path(), 'utf8');
  const file = JSON.parse(text) as { settings: Record<string, unknown> };
  expect(file.settings).toMatchObject({
    'paper.top': 31,
    'paper.sides': 'two',
    'templates.figure.heading@de': 'Bild {number}',
  });
  await menu.click();
  await page.getByRole('menuitem', { name: 'Open a file …' }).click();
  const dialog = page.getByRole('dialog');
  await dialog.getByLabel('File').setInputFiles({
    name: 'x.json',
    mimeType: 'application/json',
    buffer: Buffer.from('{"format":"allomorph-design","version":1,"title":"x","settings":{"paper.top":-3}}'),
  });
  await expect(dialog.getByRole('alert')).toContainText('a whole number from 8 to 100 is needed');
  await dialog
    .getByLabel('File')
    .setInputFiles({ name: 'y.json', mimeType: 'application/json', buffer: Buffer.from(text) });
  const title = `Again ${randomUUID().slice(0, 8)}`;
  await dialog.getByLabel('Title').fill(title);
  await page.getByRole('button', { name: 'Make it' }).click();
  await expect(page.locator('#design-title')).toHaveValue(title);
  await expect(page.locator('#setting-paper-top')).toHaveValue('31');
});
