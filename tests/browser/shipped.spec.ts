import { expect } from '@playwright/test';
import { buildVariant, goTo, visit } from './people.js';
import { testAs } from './server.js';

const test = testAs('tomasz');

test('What is handed over is marked, found again, compared with now, and built again the same', async ({ page }) => {
  test.slow();
  await visit(page, '/builds?view=all');
  await buildVariant(page, 'Installation Guide: Dunlin 2, Europe, roof');
  const detail = page.getByRole('complementary', { name: 'Chosen build' });
  await detail.getByRole('button', { name: 'Mark as shipped' }).click();
  const dialog = page.getByRole('dialog', { name: 'Mark as shipped' });
  await dialog.getByRole('button', { name: 'Mark as shipped' }).click();
  await expect(dialog.getByRole('alert')).toContainText('A version is needed.');
  await dialog.getByLabel('Version').fill('2.1');
  await dialog.getByLabel('Note').fill('To the fair');
  await dialog.getByRole('button', { name: 'Mark as shipped' }).click();
  await expect(detail.getByText('Shipped as 2.1')).toBeVisible();
  await expect(detail.getByText('To the fair')).toBeVisible();
  await page.getByRole('combobox', { name: 'Shipped or not' }).click();
  await page.getByRole('option', { name: 'Shipped', exact: true }).click();
  await expect(page.locator('tbody .shipped').first()).toHaveText(/2\.1/);
  await detail.getByRole('button', { name: 'Build again from its record' }).click();
  await expect(detail.getByText('It came out the same, byte for byte.')).toBeVisible();
  await detail.getByRole('link', { name: 'an earlier build' }).click();
  await detail.getByRole('link', { name: 'Compare with now' }).click();
  await expect(page.getByText(/as it was built .*, shipped as 2\.1/)).toBeVisible();
  await expect(page.getByText(/say the same throughout/)).toBeVisible();
  await goTo(page, '/builds');
  await expect(page.getByText(/deliverables? takes? .* of it shipped/)).toBeVisible();
});
