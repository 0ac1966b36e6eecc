import { expect } from '@playwright/test';
import { visit } from './people.js';
import { testAs } from './server.js';

const test = testAs('mara');

test('The library is searched with mistakes and other forms of words, narrowed, and the search is kept under a name', async ({
  page,
}) => {
  await visit(page, '/library');
  await page.getByLabel('Find in the library').fill('voltge mains');
  await expect(page.getByText('Nothing says “voltge”. What is found says voltage.')).toBeVisible();
  const first = page.getByRole('row').nth(1);
  await expect(first.locator('mark')).toHaveText(['mains', 'voltage']);
  await page.getByRole('button', { name: 'Topics', exact: true }).click();
  await expect(page.getByRole('row').filter({ hasText: 'Warning: mains voltage' }).first()).toBeVisible();
  await expect(page).toHaveURL(/kind=topic/);

  // By the keyboard alone: kept under a name, taken away, and shown again.
  await page.getByRole('button', { name: 'Saved searches' }).press('Enter');
  await page.getByLabel('Name of this search').fill('Mains in topics');
  await page.keyboard.press('Enter');
  const kept = page.getByRole('button', { name: 'Mains in topics', exact: true });
  await expect(kept).toHaveAttribute('aria-current', 'true');
  await page.keyboard.press('Escape');
  await page.getByRole('button', { name: /^Filters/ }).press('Enter');
  await page.getByRole('button', { name: 'Show everything' }).press('Enter');
  await expect(page).not.toHaveURL(/find=/);
  await expect(page.getByLabel('Find in the library')).toHaveValue('');
  await page.reload();
  await page.getByRole('button', { name: 'Saved searches' }).press('Enter');
  await kept.press('Enter');
  await expect(page).toHaveURL(/find=voltge\+mains|find=voltge%20mains/);
  await expect(page.getByText('What is found says voltage.')).toBeVisible();

  await page.getByRole('button', { name: 'Saved searches' }).press('Enter');
  await page.getByRole('button', { name: 'Delete the search Mains in topics' }).press('Enter');
  await expect(kept).toHaveCount(0);
});

test('The library is narrowed to what is limited to a value', async ({ page }) => {
  await visit(page, '/library?value=audience%3Dinstaller');
  await expect(page.getByRole('row').nth(1)).toBeVisible();
  const narrowed = Number(await page.locator('.total').textContent());
  await page.getByRole('combobox', { name: 'Limited to' }).click();
  await page.getByRole('option', { name: 'Limited or not' }).click();
  await expect(page).not.toHaveURL(/value=/);
  await expect(async () =>
    expect(Number(await page.locator('.total').textContent())).toBeGreaterThan(narrowed),
  ).toPass();
});
