import { randomUUID } from 'node:crypto';
import { expect } from '@playwright/test';
import { make, newTopic, visit } from './people.js';
import { testAs } from './server.js';

const test = testAs('ines');

test('Writers put topics into outlines, several at once and new ones, and leave variants to keepers', async ({
  page,
  elsewhere,
}) => {
  const keeper = await elsewhere('tomasz');
  const title = `Leaflet ${randomUUID().slice(0, 8)}`;
  const { key } = await make(keeper, 'post', '/publications', { title });
  const topic = await newTopic(page, 'Text.');
  await visit(page, `/publications/${key}`);
  await expect(page.getByRole('button', { name: 'Delete the publication' })).toHaveCount(0);
  await expect(page.getByRole('button', { name: 'New variant' })).toHaveCount(0);
  const offer = page.locator('al-topic-offer');
  const find = offer.getByLabel('Find a topic to add');
  // Several at once, and one that is not there yet.
  const other = await newTopic(page, 'Other.');
  for (const each of [other, topic]) {
    await find.fill(each);
    await offer.getByRole('checkbox', { name: `Topic ${each}` }).check();
  }
  await offer.getByRole('button', { name: 'Add 2 topics' }).click();
  await find.fill(`Brand new ${title}`);
  await offer.getByRole('button', { name: `New topic “Brand new ${title}”` }).click();
  // It stands in the outline once it is made, which may take longer than a click.
  await expect(page.getByRole('rowheader', { name: `Brand new ${title}` })).toBeVisible();
  await expect(page.getByText('not saved', { exact: true })).toBeVisible();
  await page.getByRole('button', { name: 'Save', exact: true }).click();
  await expect(page.getByText('saved', { exact: true })).toBeVisible();
  await page.reload();
  await expect(page.locator('al-outline-grid')).toContainText(
    new RegExp(`Topic ${other}[^]*Topic ${topic}[^]*Brand new ${title}`),
  );
  // The right is taken and given under People.
  await visit(keeper, '/people');
  await expect(keeper.getByRole('checkbox', { name: 'Writers may change outlines' })).toBeChecked();
});
