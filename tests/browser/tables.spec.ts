import { randomUUID } from 'node:crypto';
import { expect, type Locator, type Page } from '@playwright/test';
import { lookThrough, make, save, sheet, visit } from './people.js';
import { testAs } from './server.js';

const test = testAs('ines');

/** A topic of one's own with a table of three rows and columns; opens it. */
async function openTable(page: Page): Promise<Locator> {
  const key = `table-${randomUUID().slice(0, 12)}`;
  const text = (words: string) => [{ type: 'text', text: words }];
  const cell = (words: string) => ({ type: 'table_cell', content: [{ type: 'paragraph', content: text(words) }] });
  const rows = ['1', '2', '3'].map((row) => ({
    type: 'table_row',
    content: ['a', 'b', 'c'].map((column) => cell(column + row)),
  }));
  await make(page, 'post', '/components', {
    kind: 'topic',
    title: `Table ${key}`,
    key,
    body: {
      type: 'topic',
      content: [
        { type: 'title', content: text(`Table ${key}`) },
        { type: 'table', content: [{ type: 'table_grid', content: rows }] },
      ],
    },
  });
  await visit(page, `/edit/${key}`);
  const table = sheet(page).locator('table');
  await expect(table).toBeVisible();
  return table;
}

const reads = async (table: Locator): Promise<string> => (await table.locator('td').allInnerTexts()).join(' ');

/** Drags the grip of the row or column of a cell to the far edge of that of another one. */
async function drag(page: Page, side: 'row' | 'column', from: Locator, to: Locator): Promise<void> {
  await from.hover();
  const grip = page.locator(`.table-grip[data-side=${side}]`);
  await expect(grip).toBeVisible();
  const [box, end] = [await grip.boundingBox(), await to.boundingBox()];
  if (!box || !end) throw new Error('Nothing to drag.');
  await page.mouse.move(box.x + box.width / 2, box.y + box.height / 2);
  await page.mouse.down();
  const [x, y] = side === 'row' ? [end.x + 10, end.y + end.height - 2] : [end.x + end.width - 2, end.y + 10];
  await page.mouse.move(x - 2, y - 2, { steps: 4 });
  await page.mouse.move(x, y);
  await expect(page.locator('.table-drop')).toBeVisible();
  await page.mouse.up();
}

test('Rows and columns of a table are dragged by their grips, or moved by keys', async ({ page }) => {
  const table = await openTable(page);
  const cell = (text: string): Locator => table.getByRole('cell', { name: text, exact: true });
  await drag(page, 'row', cell('b1'), cell('b2'));
  await expect.poll(() => reads(table)).toBe('a2 b2 c2 a1 b1 c1 a3 b3 c3');
  await drag(page, 'column', cell('a1'), cell('c1'));
  await expect.poll(() => reads(table)).toBe('b2 c2 a2 b1 c1 a1 b3 c3 a3');
  await page.keyboard.press('Control+z');
  await page.keyboard.press('Control+z');
  await expect.poll(() => reads(table)).toBe('a1 b1 c1 a2 b2 c2 a3 b3 c3');
  await cell('b2').click();
  await page.getByRole('button', { name: 'Move the column to the left' }).press('Enter');
  await page.getByRole('button', { name: 'Move the row down' }).press('Enter');
  await expect.poll(() => reads(table)).toBe('b1 a1 c1 b3 a3 c3 b2 a2 c2');
  await save(page);
});

test('A single cell is limited and leaves its place empty', async ({ page }) => {
  const table = await openTable(page);
  await table.getByRole('cell', { name: 'b2', exact: true }).click();
  await page.getByRole('radio', { name: 'this cell' }).click();
  await expect(page.getByText('A condition here leaves it empty elsewhere.')).toBeVisible();
  await page.getByLabel('As text').fill('product is dunlin-2');
  await page.getByRole('button', { name: 'Apply', exact: true }).click();
  await save(page);
  await page.getByRole('tab', { name: 'Reading' }).click();
  const read = page.locator('al-reading-view table');
  await lookThrough(page, 'Dunlin 4, Europe');
  await expect.poll(() => reads(read)).toBe('a1 b1 c1 a2  c2 a3 b3 c3');
  await lookThrough(page, 'Dunlin 2, Europe');
  await expect.poll(() => reads(read)).toBe('a1 b1 c1 a2 b2 c2 a3 b3 c3');
});

test('A table has lines of its own, and those of the design again', async ({ page }) => {
  const table = await openTable(page);
  await table.locator('td').first().click();
  const bar = page.getByRole('toolbar', { name: 'Table' });
  const none = bar.getByRole('button', { name: 'No lines' });
  await none.click();
  await expect(none).toHaveAttribute('aria-pressed', 'true');
  await save(page);
  await page.reload();
  const cell = table.locator('td').first();
  await expect(cell).toHaveCSS('border-bottom-style', 'dotted');
  await cell.click();
  await bar.getByRole('button', { name: 'Lines as the design draws them' }).click();
  await expect(cell).toHaveCSS('border-bottom-style', 'solid');
  await page.getByRole('button', { name: 'Undo: Lines as the design draws them' }).click();
  await expect(none).toHaveAttribute('aria-pressed', 'true');
});
