import { expect } from '@playwright/test';
import { goTo, lookThrough, make, save, sheet, visit } from './people.js';
import { testAs } from './server.js';

const test = testAs('tomasz');

test('A topic is limited as a whole, and is out of every outline and placement that it stands in', async ({ page }) => {
  const paragraph = (text: string) => ({ type: 'paragraph', content: [{ type: 'text', text }] });
  const body = (title: string, ...flow: unknown[]) => ({
    type: 'topic',
    content: [{ type: 'title', content: [{ type: 'text', text: title }] }, ...flow],
  });
  const name = `Roof safety ${Date.now()}`;
  const limited = await make(page, 'post', '/components', {
    kind: 'topic',
    title: name,
    body: body(name, paragraph('Wear a harness.')),
  });
  const placing = await make(page, 'post', '/components', {
    kind: 'topic',
    title: `Before ${name}`,
    body: body(`Before ${name}`, paragraph('Begin.'), { type: 'placement', attrs: { component: limited.key } }),
  });

  // In the title the whole topic is what a condition goes on.
  await visit(page, `/edit/${limited.key}`);
  await sheet(page).getByText(name).click();
  const panel = page.locator('al-applies-when');
  await expect(panel.getByRole('radio', { name: 'the whole topic' })).toBeChecked();
  await panel.getByLabel('As text').fill('audience is installer');
  await panel.getByRole('button', { name: 'Apply' }).click();
  await expect(panel).toContainText('the whole topic applies only to Audience: Installer');
  await save(page);

  await lookThrough(page, 'Dunlin 2, observers, Europe');
  await expect(sheet(page)).toHaveAttribute('data-out', /applies only to Audience: Installer/);
  const lens = new URL(page.url()).searchParams.get('lens');
  await visit(page, `/edit/${placing.key}?lens=${lens}`);
  await expect(sheet(page).locator('.seam .out').filter({ hasText: 'Wear a harness.' })).toBeVisible();
  await visit(page, `/library?chosen=${limited.key}&lens=${lens}`);
  await expect(page.getByText(/It is not in Dunlin 2, observers, Europe/)).toBeVisible();
  await lookThrough(page, null);

  const entries = [{ id: 'e1', topic: limited.key }];
  const book = await make(page, 'post', '/publications', { title: `Book of ${name}` });
  await make(page, 'put', `/publications/${book.key}`, { base: 1, title: `Book of ${name}`, values: {}, entries });
  await goTo(page, `/publications/${book.key}?entry=e1`);
  await expect(page.getByText('Besides, the topic itself applies only to Audience: Installer')).toBeVisible();
});
