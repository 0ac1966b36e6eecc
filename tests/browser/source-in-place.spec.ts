import { randomUUID } from 'node:crypto';
import { expect } from '@playwright/test';
import { findings } from '../support/accessibility.js';
import { make, save, sheet, visit } from './people.js';
import { testAs } from './server.js';

const test = testAs('ines');

const text = (words: string) => ({ type: 'text', text: words });
const titled = (words: string) => ({ type: 'title', content: [text(words)] });
const paragraph = (...content: readonly object[]) => ({ type: 'paragraph', content });

test('The source of what is placed, and the values of a variable, are changed over the page, without losing what is written', async ({
  page,
}) => {
  const name = randomUUID().slice(0, 8);
  const value = { type: 'phrase', content: [text('two years')] };
  const life = await make(page, 'post', '/components', {
    kind: 'variable',
    title: `Life ${name}`,
    body: { type: 'variable', default: value, rules: [] },
  });
  const snippet = await make(page, 'post', '/components', {
    kind: 'snippet',
    title: `Caution ${name}`,
    body: { type: 'fragment', content: [paragraph(text('Mind the signs.'))] },
  });
  const body = {
    type: 'topic',
    content: [
      titled(`Care ${name}`),
      paragraph(text('It lasts '), { type: 'variable', attrs: { key: life.key } }),
      { type: 'placement', attrs: { component: snippet.key } },
    ],
  };
  const { key } = await make(page, 'post', '/components', { kind: 'topic', title: `Care ${name}`, body });
  await visit(page, `/edit/${key}`);
  await sheet(page).getByText('It lasts').click();
  await page.keyboard.press('Home');
  await page.keyboard.type('Unsaved. ');

  await sheet(page).getByText('open source').click();
  const dialog = page.getByRole('dialog').filter({ hasText: `Caution ${name}` });
  const source = dialog.getByRole('textbox', { name: /^Content of the source/ });
  await source.getByText('Mind the signs.').click();
  await page.keyboard.press('End');
  await page.keyboard.type(' And see @');
  await page.keyboard.type(`care ${name}`);
  await expect(page.locator('al-insert-menu button.marked')).toContainText(`Care ${name}`);
  await page.keyboard.press('Enter');
  await expect(dialog.locator('al-reach-panel')).toContainText(/Saving this alters \d+|Saving this alters none/);
  expect(await findings(page, 'everything', '.p-dialog')).toEqual([]);
  // What is closed unsaved is there again.
  await page.keyboard.press('Escape');
  await expect(dialog).toBeHidden();
  await expect(sheet(page).locator('.seam')).toContainText('Mind the signs.');
  await sheet(page).getByText('open source').click();
  await expect(source).toContainText(`And see Care ${name}`);
  await expect(dialog).toContainText('This is what you wrote earlier');
  await page.keyboard.press('Control+s');
  await expect(dialog).toBeHidden();
  await expect(sheet(page).locator('.seam')).toContainText(`Mind the signs. And see Care ${name}`);

  await sheet(page).locator('.variable').click();
  const panel = page.locator('al-variable-panel');
  await expect(panel.getByRole('row')).toHaveText(/always\s+two years/);
  await panel.getByRole('button', { name: 'Change its values' }).click();
  const values = page.getByRole('dialog').filter({ hasText: `Life ${name}` });
  await values.getByRole('textbox', { name: 'Default value' }).click();
  await page.keyboard.press('Control+a');
  await page.keyboard.type('three years');
  await values.getByRole('button', { name: 'Save' }).click();
  await expect(values).toBeHidden();
  await expect(panel.getByRole('row')).toHaveText(/always\s+three years/);
  await panel.getByRole('button', { name: 'Swap for another' }).click();
  await page.keyboard.type('product name');
  await page.keyboard.press('Enter');
  await expect(sheet(page).locator('.variable')).toHaveText('Product name');

  await expect(page.getByText('not saved')).toBeVisible();
  await save(page);
  await page.reload();
  await expect(sheet(page).locator('p').first()).toHaveText('Unsaved. It lasts Product name');
});
