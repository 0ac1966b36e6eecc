import { randomUUID } from 'node:crypto';
import { expect } from '@playwright/test';
import { goTo, lookThrough, make, save, sheet, visit } from './people.js';
import { testAs } from './server.js';

const test = testAs('tomasz');

test('A stamp is made by a keeper, put on a block by a writer, followed by the lens, and looks as the design says', async ({
  page,
}) => {
  const title = `Site ${randomUUID().slice(0, 8)}`;
  await visit(page, '/variation');
  await page.getByRole('button', { name: 'New stamp' }).click();
  const form = page.getByRole('dialog', { name: 'New stamp' });
  await form.getByLabel('Title').fill(title);
  await form.getByRole('combobox', { name: 'Derives from' }).click();
  await page.getByRole('option', { name: 'Trained staff only' }).click();
  await form.getByRole('button', { name: 'Australia' }).click();
  await form.getByRole('button', { name: 'Save' }).click();
  const row = page.getByRole('table', { name: 'Stamps' }).getByRole('row').filter({ hasText: title });
  await expect(row).toContainText('derives from Trained staff only');
  await expect(row).toContainText('Market: Australia');
  await expect(row).toContainText('not used');

  const topic = `Stamped with ${title}`;
  const text = (words: string) => ({ type: 'text', text: words });
  const body = {
    type: 'topic',
    content: [
      { type: 'title', content: [text(topic)] },
      { type: 'paragraph', content: [text('For all.')] },
      { type: 'paragraph', content: [text('For a few.')] },
    ],
  };
  const { key } = await make(page, 'post', '/components', { kind: 'topic', title: topic, body });
  await goTo(page, `/edit/${key}`);
  const block = sheet(page).getByText('For a few.');
  await block.click();
  await page.getByRole('combobox', { name: 'Stamp' }).click();
  await page.getByRole('option', { name: title }).click();
  await expect(block).toHaveAttribute('data-stamp-title', title);
  await expect(page.getByText(/Its standing condition: .*Market: Australia/)).toBeVisible();
  await save(page);
  await lookThrough(page, 'Dunlin 2, Europe, roof');
  await expect(block).toHaveClass(/out-ghost/);
  await lookThrough(page, 'Dunlin 4 family, Australia, mast');
  await expect(block).not.toHaveClass(/out-ghost/);

  await goTo(page, '/variation');
  await row.getByRole('link', { name: '1 component' }).click();
  await expect(page.getByRole('row').filter({ hasText: topic })).toBeVisible();
  await expect(page.getByRole('row').filter({ hasText: 'Choosing the place' })).toHaveCount(0);
  await visit(page, '/variation');
  await row.getByRole('button', { name: `Delete ${title}` }).click();
  await page.getByRole('alertdialog').getByRole('button', { name: 'Delete' }).click();
  await expect(page.getByText(`“${topic}” bears this stamp; take it off there first.`)).toBeVisible();
});

test('The look of a stamp is said by a design, and what it does not say is taken from the stamp behind it', async ({
  page,
}) => {
  const key = `d-${randomUUID().slice(0, 8)}`;
  const design = { key, title: key, from: 'fennick-handbook', settings: {}, base: 0 };
  await make(page, 'put', `/designs/${key}`, design);
  await visit(page, `/design?design=${key}&part=stamps`);
  const workshop = page.locator('al-setting-row').filter({ has: page.locator('#setting-stamps-workshop-only-frame') });
  await expect(workshop).toContainText('Trained staff only');
  await expect(workshop.getByRole('combobox')).toHaveText('a box');
  const live = page.getByRole('complementary', { name: 'Live page' });
  await live.getByRole('button', { name: 'Web' }).click();
  await live.getByRole('combobox', { name: 'Variant that is shown' }).click();
  await page.getByRole('option', { name: 'Dunlin 4 family, Australia, mast', exact: true }).click();
  const shown = live.frameLocator('iframe');
  await live.getByRole('combobox', { name: 'Page that is shown' }).click();
  await page.getByRole('option', { name: /Mounting on a mast/ }).click();
  const stamped = shown.locator('.stamp-trained-staff');
  await expect(stamped).toContainText('Trained staff only');
  await expect(stamped).toHaveCSS('border-top-style', 'solid');
  await page.locator('#setting-stamps-trained-staff-frame').click();
  await page.getByRole('option', { name: 'none' }).click();
  await expect(stamped).toHaveCSS('border-top-style', 'none');
});
