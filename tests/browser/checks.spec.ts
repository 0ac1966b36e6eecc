import { expect } from '@playwright/test';
import { randomUUID } from 'node:crypto';
import { goTo, newTopic, save, sheet, visit } from './people.js';
import { testAs } from './server.js';

const test = testAs('tomasz');

test('A save tells what the team wants to be told, and a finding is gone to and mended', async ({ page }) => {
  const word = `zz${randomUUID().slice(0, 6)}`;
  await visit(page, '/checks');
  const avoid = page.getByLabel(/^A line each/);
  await avoid.fill(`${await avoid.inputValue()}\n${word} = sign in`);
  await page.getByRole('button', { name: 'Save', exact: true }).click();
  await expect(page.getByText('The checks are saved.')).toBeVisible();

  const key = await newTopic(page, `First ${word} here.`, 'Then go on.');
  await goTo(page, `/edit/${key}`);
  await sheet(page).locator('p').last().click();
  await page.keyboard.press('End');
  await page.keyboard.type(' Well.');
  await page.getByRole('button', { name: 'Save', exact: true }).click();
  await expect(page.getByText('1 thing to look at under Checks.')).toBeVisible();
  await page.getByRole('tab', { name: 'Checks' }).click();
  const panel = page.locator('al-checks-panel');
  await expect(panel.locator('li')).toHaveText(new RegExp(`“${word}” is not wanted: rather “sign in”`));
  await panel.getByRole('button', { name: 'Go there' }).click();
  await expect(sheet(page).locator('p').first()).toHaveClass(/ProseMirror-selectednode/);
  await panel.getByRole('button', { name: 'Write “sign in”' }).click();
  await expect(sheet(page).locator('p').first()).toHaveText('First sign in here.');
  await expect(panel).toContainText('find nothing on this page');
  await save(page);

  // Switched off with a reason, it is told no more; without one the save is refused and nothing is lost.
  await goTo(page, '/checks');
  const steps = page.getByRole('checkbox', { name: 'Steps without an act' });
  await steps.uncheck();
  await page.getByRole('button', { name: 'Save', exact: true }).click();
  await expect(page.getByText('Say why this is switched off.')).toBeVisible();
  await page.getByLabel('Why it is switched off').fill('Our steps tell of results, too.');
  await page.getByRole('button', { name: 'Save', exact: true }).click();
  await expect(page.getByText('The checks are saved.')).toBeVisible();
  await page.reload();
  await expect(page.getByLabel('Why it is switched off')).toHaveValue('Our steps tell of results, too.');
  await steps.check();
  await page.getByRole('button', { name: 'Save', exact: true }).click();
  await expect(page.getByText('The checks are saved.')).toBeVisible();
});
