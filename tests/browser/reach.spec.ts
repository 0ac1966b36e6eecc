import { expect, type Page } from '@playwright/test';
import { buildVariant, goTo, insert, save, selectionKnown, sheet, visit } from './people.js';
import { testAs } from './server.js';

const test = testAs('tomasz');

const context = (page: Page) => page.getByRole('complementary', { name: 'About the place of the cursor' });

interface Build {
  readonly id: string;
  readonly publicationTitle: string;
  readonly variantTitle: string;
  readonly state: string;
}

const builds = (page: Page) =>
  page.evaluate(async () => ((await (await fetch('/api/builds')).json()) as { items: readonly Build[] }).items);

/** Builds a variant through the interface, waits for the end, and gives the build's id. */
async function build(page: Page, publication: string, variant: string): Promise<string> {
  await visit(page, '/builds');
  const before = new Set((await builds(page)).map((each) => each.id));
  await buildVariant(page, `${publication}: ${variant}`);
  let id = '';
  await expect(async () => {
    const fresh = (await builds(page)).find((each) => !before.has(each.id) && each.variantTitle === variant);
    expect(fresh?.state).toBe('done');
    id = fresh?.id ?? '';
  }).toPass({ timeout: 180_000 });
  return id;
}

test.describe('The reach of a change', () => {
  test('is seen before the save, and what it made stale after it', async ({ page }) => {
    await build(page, 'Observer Handbook', 'Dunlin 2, Europe');
    const freshness = page.locator('al-freshness');
    await expect(freshness).toContainText(/(is|are) (fresh|stale)/);

    await visit(page, '/edit/caution-battery');
    await sheet(page)
      .locator('p')
      .first()
      .click({ position: { x: 60, y: 12 } });
    await page.keyboard.press('Home');
    await page.keyboard.type('At last: ');
    await page.getByRole('tab', { name: 'Reach' }).click();
    await expect(context(page).getByText(/Saving this alters \d+ of \d+ variants/)).toBeVisible();
    await expect(context(page).locator('ins').first()).toContainText('At last');
    await save(page);
    await expect(context(page).getByText(/Nothing is changed/)).toBeVisible();

    await goTo(page, '/builds');
    await expect(freshness.getByText('Dunlin 2, Europe', { exact: true })).toBeVisible();
    await expect(freshness.getByRole('link').first()).toBeVisible();
    await expect(freshness).toContainText('changed from revision 1 to 2');
    await freshness.getByRole('button', { name: 'Build the stale ones' }).click();
    await expect(freshness).toContainText(/is fresh|are fresh/);
  });

  test('a slot fills itself, and shows another snippet on every view', async ({ page }) => {
    await visit(page, '/edit/help');
    await sheet(page).locator('h2, p').first().click();
    await page.keyboard.press('End');
    await insert(page, 'slot', /^Slot /);
    await context(page).getByRole('combobox', { name: 'Collection', exact: true }).click();
    await page.getByRole('option', { name: 'tips' }).click();
    await expect(sheet(page).locator('[data-node=slot]').first()).toContainText('A soft brush');
    await expect(context(page).getByRole('link', { name: 'Tip: dew' })).toBeVisible();
    await save(page);

    const id = await build(page, 'Observer Handbook', 'Dunlin 4, Europe');
    const seen = new Set<string>();
    const reader = await page.context().newPage();
    // In the sandbox of the application nothing remembers what was shown last: it is left to chance there.
    for (let view = 0; view < 60 && seen.size < 3; view += 1) {
      await reader.goto(`/api/deliverables/${id}/html/help.html`);
      const shown = reader.locator('.slot').first().locator('> div:not([hidden])');
      await expect(shown).toHaveCount(1);
      seen.add(await shown.innerText());
    }
    expect(seen.size).toBe(3);
  });

  test('an index marker takes the chosen words, and the index has them', async ({ page }) => {
    await visit(page, '/edit/history');
    const line = sheet(page).getByText('The wheel moves through the hours.');
    await line.dblclick({ position: { x: 220, y: 10 } });
    await selectionKnown(page);
    await insert(page, 'index marker', /^Index marker /);
    const heading = context(page).getByLabel('Heading in the index');
    await expect(heading).not.toHaveValue('');
    await heading.fill('looking back');
    await context(page).getByLabel('Second level').fill('by the hour');
    await save(page);
    await page.reload();
    await expect(sheet(page).locator('.marker').first()).toHaveAttribute('title', 'In the index: looking back');
    const id = await build(page, 'Observer Handbook', 'Dunlin 4, Europe');
    const reader = await page.context().newPage();
    await reader.goto(`/api/deliverables/${id}/html/index-of-terms.html`);
    await expect(reader.getByText('by the hour')).toBeVisible();
  });
});
