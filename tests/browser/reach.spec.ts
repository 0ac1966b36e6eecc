import { expect, test, type Page } from '@playwright/test';
import { insert, save, sheet, signIn } from './people.js';

const context = (page: Page) => page.getByRole('complementary', { name: 'About the place of the cursor' });

async function build(page: Page, title: string): Promise<void> {
  await page.goto('/builds');
  await page.getByRole('button', { name: 'Build variants' }).click();
  await page.locator('p-multiselect').click();
  await page.getByRole('option', { name: title }).click();
  await page.keyboard.press('Escape');
  await page.getByRole('button', { name: 'Build', exact: true }).click();
  await expect(page.getByRole('row', { name: new RegExp(title.split(': ')[1] ?? title) }).first()).toContainText(
    'done',
    {
      timeout: 90_000,
    },
  );
}

test.describe('The reach of a change', () => {
  test('is seen before the save, and what it made stale after it', async ({ page }) => {
    await signIn(page, 'tomasz');
    await build(page, 'Observer Handbook: Dunlin 2, Europe');
    const freshness = page.locator('al-freshness');
    await expect(freshness).toContainText(/(is|are) (fresh|stale)/);

    await page.goto('/edit/caution-battery');
    await sheet(page)
      .locator('p')
      .first()
      .click({ position: { x: 60, y: 12 } });
    await page.keyboard.press('Home');
    await page.keyboard.type('At last: ');
    await page.getByRole('tab', { name: 'Reach' }).click();
    await expect(context(page).getByText(/Saving this alters \d of 6 variants/)).toBeVisible();
    await expect(context(page).locator('ins').first()).toContainText('At last');
    await save(page);
    await expect(context(page).getByText(/Nothing is changed/)).toBeVisible();

    await page.goto('/builds');
    await expect(freshness.getByText('Dunlin 2, Europe', { exact: true })).toBeVisible();
    await expect(freshness.getByRole('link').first()).toBeVisible();
    await expect(freshness).toContainText('changed from revision 1 to 2');
    await freshness.getByRole('button', { name: 'Build the stale ones' }).click();
    await expect(freshness).toContainText(/is fresh|are fresh/, { timeout: 90_000 });
  });

  test('a slot fills itself, and shows another snippet on every view', async ({ page }) => {
    await signIn(page, 'tomasz');
    await page.goto('/edit/help');
    await sheet(page).locator('h2, p').first().click();
    await page.keyboard.press('End');
    await insert(page, 'slot', /^Slot$/);
    await context(page).getByRole('combobox', { name: 'Collection', exact: true }).click();
    await page.getByRole('option', { name: 'tips' }).click();
    await expect(sheet(page).locator('[data-node=slot]')).toContainText('A soft brush');
    await expect(context(page).getByRole('link', { name: 'Tip: dew' })).toBeVisible();
    await save(page);

    await build(page, 'Observer Handbook: Dunlin 4, Europe');
    const id = await page.evaluate(async () => {
      const builds = (await (await fetch('/api/builds')).json()) as { id: string; variantTitle: string }[];
      return builds.find((each) => each.variantTitle === 'Dunlin 4, Europe')?.id;
    });
    const seen = new Set<string>();
    for (let view = 0; view < 3; view += 1) {
      await page.goto(`/api/deliverables/${id ?? ''}/help.html`);
      await expect(page.locator('.slot > div:not([hidden])')).toHaveCount(1);
      seen.add(await page.locator('.slot > div:not([hidden])').innerText());
    }
    expect(seen.size).toBe(3);
  });

  test('an index marker takes the chosen words, and the index has them', async ({ page }) => {
    await signIn(page, 'tomasz');
    await page.goto('/edit/history');
    const line = sheet(page).getByText('The wheel moves through the hours.');
    await line.dblclick({ position: { x: 220, y: 10 } });
    await insert(page, 'index marker', /^Index marker$/);
    const heading = context(page).getByLabel('Heading in the index');
    await expect(heading).not.toHaveValue('');
    await heading.fill('looking back');
    await context(page).getByLabel('Second level').fill('by the hour');
    await save(page);
    await page.reload();
    await expect(sheet(page).locator('.marker').first()).toHaveAttribute('title', 'In the index: looking back');
    await build(page, 'Observer Handbook: Dunlin 4, Europe');
    const id = await page.evaluate(async () => {
      const builds = (await (await fetch('/api/builds')).json()) as { id: string }[];
      return builds[0]?.id;
    });
    await page.goto(`/api/deliverables/${id ?? ''}/index-of-terms.html`);
    await expect(page.getByText('by the hour')).toBeVisible();
  });
});
