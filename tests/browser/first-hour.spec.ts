import { randomUUID } from 'node:crypto';
import { expect } from '@playwright/test';
import { goTo, sheet, visit } from './people.js';
import { testAs } from './server.js';

const test = testAs('tomasz');

test('The first hour leads from what differs to a build, can be left, and makes nothing twice', async ({ page }) => {
  await visit(page, '/library');
  const name = randomUUID().slice(0, 6);
  await page.locator('button', { hasText: 'Tomasz' }).click();
  await page.getByRole('menuitem', { name: 'First hour' }).click();
  await page.getByLabel('Axis').first().fill(`Size ${name}`);
  await page.getByLabel('Its values, a line each').first().fill(`Small ${name}\nLarge ${name}\n  Huge ${name}`);
  await page.getByRole('button', { name: 'Next: What you hand over' }).click();
  await page.getByLabel('Document', { exact: true }).fill(`Guide ${name}`);
  await expect(page.getByRole('heading', { name: '1 variant follows' })).toBeVisible();
  const size = page.getByRole('group', { name: `Size ${name}` });
  await size.getByLabel(/one for each/).check();
  await expect(page.getByRole('heading', { name: '2 variants follow' })).toBeVisible();
  await page.getByLabel('Languages').fill('en, 1!');
  await expect(page.getByRole('alert')).toContainText('“1!” is no language tag');
  await page.getByLabel('Languages').fill('en, de');
  await expect(page.getByRole('heading', { name: '4 variants follow' })).toBeVisible();

  // What was told waits, whoever leaves and comes back.
  await page.getByRole('link', { name: 'Leave for now' }).click();
  await goTo(page, '/first-hour?step=3');
  await page.getByLabel('Title of the first topic').fill(`Welcome ${name}`);
  await page.getByLabel('Its text').fill('This is yours.');
  await page.getByLabel('Further topics, a title a line').fill(`Care ${name}`);
  await page.getByRole('button', { name: 'Next: Make it' }).click();
  await expect(page.getByRole('row', { name: `Huge ${name}, de` })).toBeVisible();
  await page.getByRole('button', { name: 'Make all this' }).click();
  await expect(page.getByRole('status')).toContainText('1 axis, 2 profiles, 2 topics and 4 variants are new.');
  await page.getByRole('button', { name: 'Open the first topic' }).click();
  await expect(sheet(page).locator('p')).toHaveText('This is yours.');

  await goTo(page, '/first-hour?step=4');
  await page.getByRole('button', { name: 'Make all this' }).click();
  await expect(page.getByRole('status')).toContainText('0 axes, 0 profiles, 0 topics and 0 variants are new.');
  await page.getByRole('link', { name: 'See the outlines' }).click();
  await page
    .getByRole('link', { name: `Guide ${name}` })
    .first()
    .click();
  await expect(page.getByText(`Care ${name}`).first()).toBeVisible();
});
