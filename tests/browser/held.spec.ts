import { randomUUID } from 'node:crypto';
import { expect } from '@playwright/test';
import { goTo, make, save, sheet, takeBack, visit } from './people.js';
import { testAs } from './server.js';

const test = testAs('ines');

const text = (words: string) => ({ type: 'text', text: words });
const paragraph = (words: string) => ({ type: 'paragraph', content: [text(words)] });

test('What is held shows beside what it would become, and is brought up to date here, in chosen places, and back', async ({
  page,
}) => {
  const name = randomUUID().slice(0, 8);
  const source = {
    kind: 'snippet',
    title: `Torque ${name}`,
    body: { type: 'fragment', content: [paragraph('Tighten to 5 Nm.')] },
  };
  const { key } = await make(page, 'post', '/components', source);
  const holding = (title: string) => {
    const placement = { type: 'placement', attrs: { component: key, mode: 'held', revision: 1 } };
    const content = [{ type: 'title', content: [text(title)] }, paragraph('First.'), placement];
    return make(page, 'post', '/components', { kind: 'topic', title, body: { type: 'topic', content } });
  };
  const { key: own } = await holding(`Here ${name}`);
  const { key: other } = await holding(`There ${name}`);
  const body = { type: 'fragment', content: [paragraph('Tighten to 6 Nm.'), paragraph('Use the key.')] };
  await make(page, 'put', `/components/${key}`, { base: 1, title: `Torque ${name}`, body });

  await visit(page, `/edit/${own}`);
  await sheet(page).locator('.seam').click();
  const panel = page.locator('al-placement-panel');
  await panel.getByText('What would change').click();
  await expect(panel.locator('al-held-changes .gone')).toHaveText('5');
  await expect(panel.locator('al-held-changes .new')).toHaveText(['6', 'Use the key.']);
  await expect(panel).toContainText('Held at an older revision in 1 other place');
  await panel.getByRole('button', { name: 'Bring up to date in 1 of them' }).click();
  await expect(page.getByText('Brought up to date in 1 component.')).toBeVisible();
  await expect(panel.locator('al-holders-panel li')).toHaveCount(0);
  await takeBack(page, 'Brought up to date in 1 component.');
  await expect(panel.locator('al-holders-panel li')).toHaveText([`There ${name}`]);

  await panel.getByRole('button', { name: 'Bring up to revision 2' }).click();
  await expect(sheet(page).locator('.seam')).toContainText('Tighten to 6 Nm.');
  await save(page);
  // The source itself tells who is behind.
  await goTo(page, `/edit/${key}`);
  await page.getByRole('tab', { name: 'Where used' }).click();
  await expect(page.locator('al-holders-panel li')).toHaveText([`There ${name}`]);
  await page.locator('al-holders-panel').getByRole('button').click();
  await expect(page.getByText('Brought up to date in 1 component.')).toBeVisible();
  await goTo(page, `/edit/${other}`);
  await expect(sheet(page).locator('.seam')).toContainText('Tighten to 6 Nm.');
});
