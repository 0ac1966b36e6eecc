import { randomUUID } from 'node:crypto';
import { expect } from '@playwright/test';
import { make, newTopic, save, sheet, visit } from './people.js';
import { testAs } from './server.js';

const test = testAs('ines');

test('What the library says already is offered while one writes, taken by a key, and not offered again after a refusal', async ({
  page,
}) => {
  const name = randomUUID().slice(0, 8);
  const phrase = (text: string) => ({ type: 'phrase', content: [{ type: 'text', text }] });
  const variable = { type: 'variable', default: phrase(`Vane ${name}`), rules: [] };
  await make(page, 'post', '/components', { kind: 'variable', title: `Name ${name}`, body: variable });
  const said = `Keep the rotor ${name} away from children at all times.`;
  const paragraph = { type: 'paragraph', content: [{ type: 'text', text: said }] };
  const snippet = { type: 'fragment', content: [paragraph] };
  await make(page, 'post', '/components', { kind: 'snippet', title: `Rotor ${name}`, body: snippet });
  const key = await newTopic(page, 'Mount the');
  await visit(page, `/edit/${key}`);
  const offer = page.locator('.offer');
  await sheet(page).locator('p').click();
  await page.keyboard.press('End');
  await page.keyboard.type(` Vane ${name}`);
  await expect(offer).toContainText(`The variable Name ${name} says “Vane ${name}”.`);
  await page.keyboard.press('Control+.');
  await expect(sheet(page).locator('p .variable')).toHaveText(`Name ${name}`);
  await expect(offer).toBeHidden();
  await page.keyboard.type(' upright.');
  await page.keyboard.press('Enter');
  await page.keyboard.type(`Keep the rotor ${name} away from kids at all times.`);
  await expect(offer).toContainText(`The snippet Rotor ${name} says nearly the same.`);
  await offer.getByRole('button', { name: 'Put it in' }).click();
  await expect(sheet(page).locator('.seam')).toContainText(said);
  await save(page);

  const other = await newTopic(page, 'Turn the');
  await visit(page, `/edit/${other}`);
  await expect(sheet(page)).toContainText('Turn the');
  await sheet(page).locator('p').click();
  await page.keyboard.press('End');
  await page.keyboard.type(` Vane ${name}`);
  await offer.getByRole('button', { name: 'No' }).click();
  await page.keyboard.press('Enter');
  const line = `The Vane ${name}`;
  // What is asked about less of the line may be given up meanwhile.
  const answered = page.waitForResponse(
    (response) => response.url().endsWith('/api/offers') && (response.request().postData()?.includes(line) ?? false),
  );
  await page.keyboard.type(line);
  await answered;
  expect(await make(page, 'post', '/offers', { line })).toHaveLength(1);
  await expect(offer).toBeHidden();
});
