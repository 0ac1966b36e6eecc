import { randomUUID } from 'node:crypto';
import { expect } from '@playwright/test';
import { lookThrough, make, save, sheet, visit } from './people.js';
import { testAs } from './server.js';

const test = testAs('ines');

const text = (words: string) => ({ type: 'text', text: words });
const titled = (words: string) => ({ type: 'title', content: [text(words)] });
const paragraph = (words: string) => ({ type: 'paragraph', content: words === '' ? [] : [text(words)] });

test('Cross-references and variables are put in by typing a sign, led elsewhere and followed', async ({ page }) => {
  const name = randomUUID().slice(0, 8);
  const section = { type: 'section', content: [titled(`Rinsing ${name}`), paragraph('With water.')] };
  const other = { type: 'topic', content: [titled(`Care ${name}`), section] };
  await make(page, 'post', '/components', { kind: 'topic', title: `Care ${name}`, body: other });
  const value = { type: 'phrase', content: [text('a soft brush')] };
  const variable = { type: 'variable', default: value, rules: [] };
  await make(page, 'post', '/components', { kind: 'variable', title: `Tool ${name}`, body: variable });
  const body = { type: 'topic', content: [titled(`Use ${name}`), paragraph('')] };
  const { key } = await make(page, 'post', '/components', { kind: 'topic', title: `Use ${name}`, body });
  await visit(page, `/edit/${key}`);

  await sheet(page).locator('p').click();
  await page.keyboard.type('Take {');
  await page.keyboard.type(`tool ${name}`);
  const marked = page.locator('al-insert-menu button.marked');
  await expect(marked).toContainText(`Tool ${name}`);
  await expect(page.locator('al-insert-preview')).toContainText(`Tool ${name}`);
  await page.keyboard.press('Enter');
  await expect(sheet(page).locator('p .variable')).toHaveText(`Tool ${name}`);
  // Words in a row, as one writes; what is in no component yet can be referred to as well.
  await page.keyboard.type(' and see @');
  await page.keyboard.type(`rinsing ${name}`);
  await expect(marked).toContainText(`section in “Care ${name}”`);
  await page.keyboard.press('Enter');
  await expect(sheet(page).locator('p .reference')).toHaveText(`Rinsing ${name}`);
  await page.keyboard.type('; at a@b.example @ 5 V, { literally.');
  await page.keyboard.press('Alt+Enter');
  await page.keyboard.type('Here');
  await page.keyboard.press('Enter');
  await page.keyboard.type('As in (@');
  await page.keyboard.type('here');
  await expect(marked).toContainText('section on this page');
  await page.keyboard.press('Enter');
  await page.keyboard.type(').');
  await expect(sheet(page).locator('section p')).toHaveText('As in (Here).');
  await save(page);
  await page.reload();
  await expect(sheet(page).locator('p').first()).toHaveText(
    `Take Tool ${name} and see Rinsing ${name}; at a@b.example @ 5 V, { literally.`,
  );
  await expect(sheet(page).locator('section p')).toHaveText('As in (Here).');

  const panel = page.locator('al-reference-panel');
  await sheet(page).locator('section p .reference').click();
  await expect(panel).toContainText('look through one to see it');
  await sheet(page).locator('section p .reference').click();
  await expect(panel).toContainText('Leads to Here');
  // What is clicked again stays selected, for the browser as well, which would go to the top of the page otherwise.
  await expect.poll(() => page.evaluate<string>('getSelection().anchorNode?.textContent ?? ""')).toBe('As in (');
  await panel.getByRole('button', { name: 'Lead elsewhere' }).click();
  // Whoever types fast does not wait for the list.
  await page.keyboard.type(`care ${name}`);
  await page.keyboard.press('Enter');
  await expect(sheet(page).locator('section p')).toHaveText(`As in (Care ${name}).`);
  await save(page);
  await sheet(page).locator('p .reference').first().click();
  await panel.getByRole('button', { name: 'Go there' }).click();
  await expect(sheet(page)).toContainText(`Care ${name}`);
  await expect(sheet(page).locator('section')).toHaveClass(/ProseMirror-selectednode/);
});

test('What a cross-reference reads is told through the variant that is looked through', async ({ page }) => {
  await visit(page, '/edit/alarms');
  await lookThrough(page, 'Dunlin 2, Europe');
  await sheet(page).locator('.reference').first().click();
  const panel = page.locator('al-reference-panel');
  await expect(panel).toContainText(/In Dunlin 2, Europe it reads\s+“[\d.]+ Changing the settings”\./);
  await panel.getByRole('combobox', { name: 'Reads as' }).click();
  await expect(page.getByRole('option', { name: 'Title: Changing the settings' })).toBeVisible();
  await page.getByRole('option', { name: /^Number: [\d.]+$/ }).click();
  await expect(panel).toContainText(/it reads\s+“[\d.]+”\./);
});
