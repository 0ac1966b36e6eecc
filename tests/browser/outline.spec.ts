import { randomUUID } from 'node:crypto';
import { expect, type Page } from '@playwright/test';
import { make, visit } from './people.js';
import { testAs } from './server.js';

const test = testAs('tomasz');

/** A publication of one's own with an outline that is only headings; opens it. */
async function outlineOf(page: Page, ...titles: readonly string[]): Promise<string> {
  const title = `Outline ${randomUUID().slice(0, 8)}`;
  const { key } = await make(page, 'post', '/publications', { title });
  const entries = titles.map((each, at) => ({ id: `e${at + 1}`, title: each }));
  await make(page, 'put', `/publications/${key}`, { base: 1, title, values: {}, entries });
  await visit(page, `/publications/${key}`);
  await expect(page.getByRole('treegrid', { name: 'Outline' })).toBeVisible();
  return key;
}

/** The outline as it stands: each title behind one dot for each level. */
async function reads(page: Page): Promise<string> {
  const rows = page.getByRole('treegrid', { name: 'Outline' }).getByRole('row');
  const lines = await rows.evaluateAll((all) =>
    all.flatMap((row) => {
      const title = row.querySelector('.entry-title')?.textContent ?? null;
      return title === null ? [] : ['.'.repeat(Number(row.getAttribute('aria-level')) - 1) + title.trim()];
    }),
  );
  return lines.join(' ');
}

const row = (page: Page, title: string) => page.getByRole('row', { name: new RegExp(`^${title}\\b`) });

test.describe('Several entries of an outline', () => {
  test('are picked and moved by the keyboard, and undone', async ({ page }) => {
    await outlineOf(page, 'Alpha', 'Bravo', 'Charlie', 'Delta');
    await page.getByRole('treegrid', { name: 'Outline' }).focus();
    for (const key of ['Home', 'ArrowDown', 'Shift+ArrowDown']) await page.keyboard.press(key);
    await expect(page.getByText('2 entries picked')).toBeVisible();
    await page.keyboard.press('>');
    await expect.poll(() => reads(page)).toBe('Alpha .Bravo .Charlie Delta');
    await page.keyboard.press('<');
    await expect.poll(() => reads(page)).toBe('Alpha Bravo Charlie Delta');
    await page.keyboard.press('Alt+ArrowDown');
    await expect.poll(() => reads(page)).toBe('Alpha Delta Bravo Charlie');
    await expect(page.getByRole('button', { name: 'Undo: Move 2 entries' })).toBeVisible();
    await page.keyboard.press('Control+z');
    await page.keyboard.press('Control+z');
    await expect.poll(() => reads(page)).toBe('Alpha .Bravo .Charlie Delta');
    await page.keyboard.press('Control+y');
    await expect.poll(() => reads(page)).toBe('Alpha Bravo Charlie Delta');
    await page.keyboard.press('Delete');
    await expect.poll(() => reads(page)).toBe('Alpha Delta');
    await page.keyboard.press('Control+z');
    await page.keyboard.press('Control+s');
    await expect(page.getByText(/is saved as revision 3/)).toBeVisible();
    // What was saved can still be undone.
    await page.keyboard.press('Control+a');
    await expect(page.getByText('4 entries picked')).toBeVisible();
  });

  test('are cut, copied and pasted, and lines of text become headings', async ({ page, context }) => {
    await context.grantPermissions(['clipboard-read', 'clipboard-write']);
    await outlineOf(page, 'Alpha', 'Bravo', 'Charlie');
    await row(page, 'Alpha').click();
    await row(page, 'Charlie').click({ modifiers: ['Control'] });
    await page.keyboard.press('Control+x');
    await expect.poll(() => reads(page)).toBe('Bravo');
    await row(page, 'Bravo').click();
    await page.keyboard.press('Control+v');
    await expect.poll(() => reads(page)).toBe('Bravo Alpha Charlie');
    await page.keyboard.press('Control+c');
    expect(await page.evaluate(() => navigator.clipboard.readText())).toBe('Alpha\nCharlie');
    await page.evaluate(() => navigator.clipboard.writeText('Echo\n  Foxtrot\nGolf'));
    await page.keyboard.press('Control+v');
    await expect.poll(() => reads(page)).toBe('Bravo Alpha Charlie Echo .Foxtrot Golf');
    await page.keyboard.press('Control+s');
    await expect(page.getByText(/is saved as revision 3/)).toBeVisible();
  });

  test('are dragged together; a topic is dragged in from the list; a heading is typed', async ({ page }) => {
    const key = await outlineOf(page, 'Alpha', 'Bravo', 'Charlie');
    await row(page, 'Alpha').click();
    await row(page, 'Bravo').click({ modifiers: ['Shift'] });
    const height = (await row(page, 'Charlie').boundingBox())?.height ?? 0;
    await row(page, 'Alpha').dragTo(row(page, 'Charlie'), {
      sourcePosition: { x: 60, y: 8 },
      targetPosition: { x: 60, y: height - 2 },
    });
    await expect.poll(() => reads(page)).toBe('Charlie Alpha Bravo');
    await page.getByRole('button', { name: 'Close the entry' }).click();
    const find = page.getByRole('searchbox', { name: 'Find a topic to add' });
    await find.fill('Delta');
    await page.getByRole('button', { name: 'Heading “Delta”' }).click();
    await expect.poll(() => reads(page)).toBe('Charlie Alpha Bravo Delta');
    await expect(page.getByLabel('Heading', { exact: true })).toHaveValue('Delta');
    await page.getByRole('button', { name: 'Close the entry' }).click();
    await find.fill('For your safety');
    const offer = page.getByRole('listitem').filter({ hasText: 'For your safety' }).first();
    // The list is another one a moment after what is looked for was typed.
    await expect(
      page.getByRole('complementary', { name: 'Topics to add' }).getByRole('listitem').first(),
    ).toContainText('For your safety');
    await offer.dragTo(row(page, 'Alpha'), { targetPosition: { x: 60, y: height / 2 } });
    await expect.poll(() => reads(page)).toBe('Charlie Alpha .For your safety Bravo Delta');
    await page.getByRole('button', { name: 'Save', exact: true }).click();
    await expect(page.getByText(/is saved as revision 3/)).toBeVisible();
    await visit(page, `/publications/${key}`);
    await expect.poll(() => reads(page)).toBe('Charlie Alpha .For your safety Bravo Delta');
  });

  test('may be an outside address, typed or of the library', async ({ page }) => {
    const key = await outlineOf(page, 'Alpha');
    const find = page.getByRole('searchbox', { name: 'Find a topic to add' });
    const place = `stations.example/${randomUUID().slice(0, 8)}`;
    await find.fill(`https://${place}`);
    await page.getByRole('button', { name: `Outside address “https://${place}”` }).click();
    await expect.poll(() => reads(page)).toBe(`Alpha ${place}`);
    await page.getByLabel('Own title').fill('Register');
    await page.getByRole('button', { name: 'Close the entry' }).click();
    // The link is of the library now, and may stand a second time.
    await find.fill(place);
    await page.getByRole('button', { name: `Add ${place}` }).click();
    await page.keyboard.press('Control+s');
    await expect(page.getByText(/is saved as revision 3/)).toBeVisible();
    await visit(page, `/publications/${key}`);
    await expect.poll(() => reads(page)).toBe(`Alpha Register ${place}`);
    await row(page, 'Register').click();
    await page.getByRole('link', { name: 'Open the link' }).click();
    await expect(page.getByRole('heading', { name: place })).toBeVisible();
  });

  test('stand beside other outlines over the same publication, each with variants of its own', async ({ page }) => {
    await outlineOf(page, 'Alpha', 'Bravo', 'Charlie');
    const title = await page.getByLabel('Title of the publication').inputValue();
    const outlines = page.getByRole('navigation', { name: 'Outlines over this publication' });
    await outlines.getByRole('button', { name: 'Another outline' }).click();
    await expect(page.getByText(`Another outline over “${title}”`)).toBeVisible();
    await expect.poll(() => reads(page)).toBe('Alpha Bravo Charlie');
    await page.getByLabel('Name of the outline').fill(`${title}, on paper`);
    await row(page, 'Bravo').click();
    await page.keyboard.press('Delete');
    await page.keyboard.press('Control+s');
    await expect(page.getByText(/is saved as revision 2/)).toBeVisible();
    await expect(outlines.getByRole('link', { name: `${title}, on paper` })).toHaveAttribute('aria-current', 'page');
    await outlines.getByRole('link', { name: title, exact: true }).click();
    await expect.poll(() => reads(page)).toBe('Alpha Bravo Charlie');
    await outlines.getByRole('link', { name: `${title}, on paper` }).click();
    await expect.poll(() => reads(page)).toBe('Alpha Charlie');
  });
});
