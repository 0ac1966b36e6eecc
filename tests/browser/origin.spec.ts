import { expect, type Page } from '@playwright/test';
import { findings } from '../support/accessibility.js';
import { buildVariant, nothingMoves, visit } from './people.js';
import { testAs } from './server.js';

const test = testAs('tomasz');

const detail = (page: Page) => page.getByRole('complementary', { name: 'Where it comes from' });
const shown = (page: Page) => page.frameLocator('iframe').locator('article');

async function openOrigin(page: Page): Promise<void> {
  await visit(page, '/builds?view=all');
  await buildVariant(page, 'Observer Handbook: Dunlin 4, Europe');
  await page.getByRole('link', { name: 'Why is this here?' }).click();
  await expect(shown(page).locator('h1')).toContainText('Welcome');
}

test('A passage of a deliverable tells where it comes from, and leads to its block in the editor', async ({ page }) => {
  await openOrigin(page);
  await expect(detail(page).getByRole('heading', { name: 'This page' })).toBeVisible();
  await shown(page).getByText('The readings of many stations').click();
  await expect(detail(page).getByRole('heading', { name: 'This passage' })).toBeVisible();
  await expect(detail(page).getByText('Audience: Observer')).toBeVisible();
  await expect(page).toHaveURL(/passage=/);
  // A reference leads to its page here, too.
  await shown(page).getByRole('link', { name: '1 For your safety' }).click();
  await detail(page).getByRole('button', { name: '1 For your safety' }).click();
  await expect(shown(page).locator('h1')).toHaveText('1 For your safety');
  // What is placed: from the topic to the snippet, and from there to the editor.
  await shown(page).locator('[data-passage*="--"]').last().click();
  const steps = detail(page).getByRole('listitem');
  await expect(steps.filter({ hasText: 'places' }).first()).toBeVisible();
  await detail(page).getByRole('link').last().click();
  await expect(page).toHaveURL(/\/edit\/|\/variables/);
  await page.goBack();
  await expect(detail(page).getByRole('heading', { name: 'This passage' })).toBeVisible();
});

test('What a variant leaves out is shown where it was written, with what left it out', async ({ page }) => {
  await openOrigin(page);
  await page.getByRole('combobox', { name: 'Page that is shown' }).click();
  await page.getByRole('option', { name: /When something is wrong/ }).click();
  await expect(shown(page).locator('h1')).toHaveText('6 When something is wrong');
  await expect(shown(page).getByText('Code E7')).toHaveCount(0);
  await page.getByText('Show what was left out').click();
  await shown(page).getByText('Sensor board').click();
  await expect(detail(page).getByText('Left out')).toBeVisible();
  await expect(detail(page).getByText('(not met)').or(detail(page).locator('.condition.out')).first()).toBeVisible();
  // The address shows a colleague the same.
  await page.reload();
  await expect(shown(page).locator('[data-passage][aria-current]')).toContainText('Sensor board');
  await expect(detail(page).getByText('Left out')).toBeVisible();
});

test('Passages are gone through and chosen by the keyboard', async ({ page }) => {
  await openOrigin(page);
  const first = shown(page).locator('[data-passage]').first();
  await first.focus();
  await page.keyboard.press('ArrowDown');
  await expect(first).not.toBeFocused();
  await page.keyboard.press('ArrowUp');
  await expect(first).toBeFocused();
  await page.keyboard.press('Enter');
  await expect(first).toHaveAttribute('aria-current', 'true');
  await expect(detail(page).getByRole('heading', { name: 'This passage' })).toBeVisible();
});

test('The place can be used by everybody, in light, dark and a narrow window', async ({ page }) => {
  await openOrigin(page);
  // The page of the deliverable is loaded anew for it.
  const anew = page.waitForEvent('framenavigated', (frame) => frame !== page.mainFrame());
  await page.getByText('Show what was left out').click();
  await anew;
  await expect(shown(page).locator('h1')).toContainText('Welcome');
  for (const [width, scheme] of [
    [1280, 'light'],
    [1280, 'dark'],
    [360, 'light'],
  ] as const) {
    await page.emulateMedia({ colorScheme: scheme });
    await page.setViewportSize({ width, height: 760 });
    await expect.poll(() => page.evaluate<boolean>(nothingMoves)).toBe(true);
    expect(await findings(page), `${scheme} ${width}`).toEqual([]);
    expect(await page.evaluate<number>('document.documentElement.scrollWidth')).toBeLessThanOrEqual(width);
  }
});
