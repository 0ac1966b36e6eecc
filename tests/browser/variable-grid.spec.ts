import { randomUUID } from 'node:crypto';
import { expect } from '@playwright/test';
import { make, takeBack, visit } from './people.js';
import { testAs } from './server.js';

const test = testAs('ines');

test('Variables are seen and changed case by case in a grid, by the mouse and by keys', async ({ page }) => {
  const name = `Plug ${randomUUID().slice(0, 8)}`;
  const phrase = (text: string) => ({ type: 'phrase', content: [{ type: 'text', text }] });
  const rules = [{ when: 'market is europe, australia', language: null, value: phrase('two pins') }];
  const body = { type: 'variable', default: phrase('any plug'), rules };
  const { key } = await make(page, 'post', '/components', { kind: 'variable', title: name, body });
  await visit(page, `/variables?find=${encodeURIComponent(name)}`);
  await page.getByRole('combobox', { name: 'What the columns are' }).click();
  await page.getByRole('option', { name: 'A column for each market' }).click();
  const grid = page.getByRole('grid', { name: 'Variables by case' });
  const cell = (column: string) => grid.getByRole('button', { name: new RegExp(`^${name}, ${column}:`) });
  await expect(cell('Europe')).toHaveAccessibleName(/two pins, by a case for this and others$/);
  await expect(cell('North America')).toHaveAccessibleName(/any plug, by the default$/);

  await cell('Europe').click();
  const field = page.getByRole('textbox', { name: `${name}, Europe` });
  await expect(field).toBeFocused();
  await page.keyboard.press('Control+a');
  await page.keyboard.type('two round pins');
  await page.keyboard.press('Enter');
  await expect(cell('Europe')).toHaveAccessibleName(/two round pins, for just this case$/);
  await expect(cell('Australia')).toHaveAccessibleName(/two pins, by a case for this and others$/);
  // By the keyboard alone.
  await expect(cell('Europe')).toBeFocused();
  await page.keyboard.press('ArrowRight');
  await expect(cell('North America')).toBeFocused();
  await page.keyboard.press('Enter');
  await expect(page.getByRole('textbox', { name: `${name}, North America` })).toBeFocused();
  await page.keyboard.press('Control+a');
  await page.keyboard.type('flat pins');
  await page.keyboard.press('Escape');
  await expect(cell('North America')).toHaveAccessibleName(/any plug, by the default$/);

  await cell('Europe').click();
  await page.getByRole('button', { name: 'As elsewhere' }).click();
  await expect(cell('Europe')).toHaveAccessibleName(/two pins, by a case for this and others$/);
  await takeBack(page, ', Europe: saved.');
  await expect(cell('Europe')).toHaveAccessibleName(/two round pins, for just this case$/);

  // What somebody else saves meanwhile takes away nothing that is being written.
  await cell('Australia').click();
  const written = page.getByRole('textbox', { name: `${name}, Australia` });
  await expect(written).toBeFocused();
  await page.keyboard.press('Control+a');
  await page.keyboard.type('slanted');
  const stored = (await (await page.request.get(`/api/components/${key}`)).json()) as {
    revision: number;
    body: object;
  };
  const changed = { ...stored.body, default: phrase('round pins') };
  await make(page, 'put', `/components/${key}`, { base: stored.revision, title: name, body: changed });
  await expect(cell('North America')).toHaveAccessibleName(/round pins, by the default$/);
  await expect(written).toHaveText('slanted');
  await page.keyboard.press('Escape');

  // What is being written is kept when one goes elsewhere.
  await cell('Australia').click();
  await expect(page.getByRole('textbox', { name: `${name}, Australia` })).toBeFocused();
  await page.keyboard.press('Control+a');
  await page.keyboard.type('slanted pins');
  await page.getByRole('link', { name: 'Library', exact: true }).click();
  await expect(page.getByText(`“${name}”, Australia: saved.`)).toBeVisible();
  await expect(page.getByRole('heading', { name: 'Library', exact: true })).toBeVisible();
  await page.goBack();
  await expect(cell('Australia')).toHaveAccessibleName(/slanted pins, for just this case$/);

  // The next cell of a row is not kept waiting by the list, and what others said in another cell stays.
  const other = (await (await page.request.get(`/api/components/${key}`)).json()) as { revision: number; body: object };
  let letGo: () => void = () => undefined;
  const held = new Promise<void>((resolve) => (letGo = resolve));
  await page.route('**/api/variables', async (route) => {
    await held;
    await route.continue();
  });
  const said = { base: other.revision, title: name, body: { ...other.body, default: phrase('said elsewhere') } };
  await make(page, 'put', `/components/${key}`, said);
  for (const [column, words] of [
    ['Australia', 'bent pins'],
    ['North America', 'flat pins'],
    ['Australia', 'bent pins again'],
  ] as const) {
    await cell(column).click();
    await expect(page.getByRole('textbox', { name: `${name}, ${column}` })).toBeFocused();
    await page.keyboard.press('Control+a');
    await page.keyboard.type(words);
    const saves = page.waitForResponse((answer) => answer.request().method() === 'PUT' && answer.ok());
    await page.keyboard.press('Enter');
    await saves;
  }
  // What two say in the same cell is told, and nothing is written over.
  await cell('Default').click();
  await expect(page.getByRole('textbox', { name: `${name}, Default` })).toBeFocused();
  const newest = (await (await page.request.get(`/api/components/${key}`)).json()) as {
    revision: number;
    body: object;
  };
  const theirs = { base: newest.revision, title: name, body: { ...newest.body, default: phrase('theirs') } };
  await make(page, 'put', `/components/${key}`, theirs);
  await page.keyboard.press('Control+a');
  await page.keyboard.type('mine');
  await page.keyboard.press('Enter');
  await expect(page.getByText(/somebody else said “theirs” here meanwhile.*“mine”/)).toBeVisible();
  letGo();
  await expect(cell('Australia')).toHaveAccessibleName(/bent pins again, for just this case$/);
  await expect(cell('North America')).toHaveAccessibleName(/flat pins, for just this case$/);
  await expect(cell('Default')).toHaveAccessibleName(/theirs, the default$/);
  await page.unroute('**/api/variables');

  // A writer does not change recipes.
  await page.getByRole('combobox', { name: 'What the columns are' }).click();
  await page.getByRole('option', { name: 'A column for each variant' }).click();
  await expect(cell('Dunlin 2, Europe').first()).toHaveAttribute('aria-disabled', 'true');
  await grid.getByRole('button', { name, exact: true }).click();
  await expect(page).toHaveURL(new RegExp(`key=${key}`));
});
