import { randomUUID } from 'node:crypto';
import { expect } from '@playwright/test';
import { goTo, make, newTopic, sheet, visit } from './people.js';
import { testAs } from './server.js';

const test = testAs('ines');

test('Words are replaced in all of the library after a look at each place, and taken back as one act', async ({
  page,
}) => {
  await visit(page, '/library');
  const word = `tiller${randomUUID().slice(0, 6)}`;
  const [one, two] = [await newTopic(page, `The ${word} and the ${word}.`), await newTopic(page, `No ${word} here.`)];
  await page.getByRole('link', { name: 'Find and replace' }).click();
  await page.getByLabel('Find', { exact: true }).fill(word);
  await expect(page.getByText('3 places', { exact: true })).toBeVisible();
  await page.getByLabel('Replace with').fill('rudder');
  await expect(page.locator('li ins').first()).toHaveText('rudder');
  // By the keyboard alone: one place stays as it is.
  await page.locator('li input').nth(1).focus();
  await page.keyboard.press('Space');
  await expect(page.locator('li ins').nth(1)).toBeHidden();
  await page.getByRole('button', { name: 'Replace 2 places in 2 components' }).click();
  await expect(page.getByText('Replaced 2 places in 2 components.')).toBeVisible();
  await expect(page.getByText('1 place', { exact: true })).toBeVisible();

  await page.getByRole('button', { name: 'Take back' }).click();
  await expect(page.getByText('2 components read as before again.')).toBeVisible();
  await expect(page.getByText('3 places', { exact: true })).toBeVisible();
  await goTo(page, `/edit/${one}`);
  await expect(sheet(page)).toContainText(`The ${word} and the ${word}.`);
  await goTo(page, `/edit/${two}`);
  await expect(sheet(page)).toContainText(`No ${word} here.`);
});

test('A variable finds where its values are spelled out, and comes in their place', async ({ page }) => {
  const name = randomUUID().slice(0, 8);
  const value = { type: 'phrase', content: [{ type: 'text', text: `Model ${name}` }] };
  const variable = { type: 'variable', default: value, rules: [] };
  const { key } = await make(page, 'post', '/components', { kind: 'variable', title: `Name ${name}`, body: variable });
  const topic = await newTopic(page, `Clean the model ${name} with care.`);
  await visit(page, `/variables?key=${key}`);
  await page.getByRole('link', { name: 'typed-in text' }).click();
  await expect(page.getByLabel('Find', { exact: true })).toHaveValue(`Model ${name}`);
  await expect(page.locator('li')).toHaveText(`Clean the model ${name}Name ${name} with care.`);
  await page.getByRole('button', { name: 'Replace 1 place in 1 component' }).click();
  await expect(page.getByText('Replaced 1 place in 1 component.')).toBeVisible();
  await goTo(page, `/edit/${topic}`);
  await expect(sheet(page).locator('p')).toHaveText(`Clean the Name ${name} with care.`);
  await expect(sheet(page).locator('p .variable')).toHaveCount(1);
});
