import { expect } from '@playwright/test';
import { insert, lookThrough, save, sheet } from './people.js';
import { testOnNewPage as test } from './server.js';

/** The main job from end to end, through the real interface. */
test('a writer’s topic becomes two deliverables that differ where they should', async ({ page }) => {
  await page.goto('/library');
  await page.getByLabel('Name').fill('tomasz');
  await page.getByLabel('Password').fill('dunlin-tomasz');
  await page.getByRole('button', { name: 'Sign in' }).click();

  // A snippet that several topics will share.
  await page.getByRole('button', { name: 'New component' }).click();
  await page.getByRole('button', { name: 'Snippet', exact: true }).click();
  await page.getByLabel('Title', { exact: true }).fill('Tip: morning dew');
  await page.getByRole('button', { name: 'Create' }).click();
  await sheet(page).click();
  await page.keyboard.type('Dew on the shield dries within an hour.');
  await save(page);

  // A topic with text, the snippet, a variable and a limited sentence.
  await page.getByRole('link', { name: 'Library' }).last().click();
  await page.getByRole('button', { name: 'New component' }).click();
  await page.getByLabel('Title', { exact: true }).fill('Reading in the morning');
  await page.getByRole('button', { name: 'Create' }).click();
  await expect(page.getByText('reading-in-the-morning')).toBeVisible();
  await sheet(page).locator('p').first().click();
  await page.keyboard.type('Readings of the ');
  await insert(page, 'product name', /Product name/);
  // The variable is read first; until then the keys go to the menu.
  await expect(page.getByRole('combobox', { name: 'Find something to insert' })).toBeHidden();
  await page.keyboard.type(' are low after a cold night.');
  await page.keyboard.press('Enter');
  await page.keyboard.type('The gust shows as zero while there is ice.');
  await page.keyboard.press('Enter');
  await page.keyboard.press('/');
  await page.getByRole('combobox', { name: 'Find something to insert' }).fill('morning dew');
  await page
    .getByRole('option', { name: /Tip: morning dew/ })
    .first()
    .click();
  await expect(sheet(page).locator('.seam')).toContainText('Dew on the shield dries within an hour.');

  // The sentence about gusts applies to the Dunlin 4 family only.
  await sheet(page).getByText('The gust shows as zero').click();
  const context = page.getByRole('complementary', { name: 'About the place of the cursor' });
  await context.getByRole('button', { name: 'Dunlin 4', exact: true }).click();
  await context.getByRole('button', { name: 'Dunlin 4X' }).click();
  await expect(context.getByLabel('As text')).toHaveValue('product is dunlin-4, dunlin-4x');
  await context.getByRole('button', { name: 'Apply' }).click();
  await expect(page.locator('al-content-editor .strip')).toHaveText(['D4+1']);
  await save(page);

  // Seen through two variants.
  const gust = sheet(page).getByText('The gust shows as zero');
  await lookThrough(page, 'Dunlin 2, Europe');
  await expect(page.getByText('1 block out')).toBeVisible();
  await expect(gust).toHaveClass(/out-ghost/);
  await expect(sheet(page)).toContainText('Readings of the Dunlin 2 are low');
  await lookThrough(page, 'Dunlin 4, Europe');
  await expect(page.getByText('0 blocks out')).toBeVisible();
  await expect(gust).not.toHaveClass(/out/);
  await expect(sheet(page)).toContainText('Readings of the Dunlin 4 are low');

  // Into the outline, and both variants built.
  await page.getByRole('link', { name: 'Publications' }).click();
  await page.getByRole('link', { name: 'Observer Handbook' }).click();
  await page.getByLabel('Find a topic to add').fill('morning');
  await page.getByRole('button', { name: 'Add Reading in the morning' }).click();
  await page.getByRole('button', { name: 'Save', exact: true }).click();
  await expect(page.getByText(/is saved as revision \d+/)).toBeVisible();
  await page.getByRole('button', { name: 'Build all' }).click();
  await expect(page).toHaveURL(/builds/);
  await page.getByRole('button', { name: 'All builds' }).click();
  const row = (title: string) =>
    page.getByRole('row').filter({ hasText: title }).filter({ hasText: 'Observer Handbook' }).first();
  await expect(row('Dunlin 2, Europe')).toContainText('Done');
  await expect(row('Dunlin 4, Europe')).toContainText('Done');

  // What each deliverable says.
  const readDeliverable = async (title: string): Promise<string> => {
    await row(title).click();
    const browse = page.getByRole('link', { name: 'Open Web site' });
    await expect(page.getByRole('heading', { name: title })).toBeVisible();
    const [deliverable] = await Promise.all([page.context().waitForEvent('page'), browse.click()]);
    await deliverable
      .getByRole('link', { name: /Reading in the morning/ })
      .first()
      .click();
    // It is dressed as it will be shipped.
    await expect(deliverable.locator('main h1')).toHaveCSS('font-family', /Own serif/);
    expect(await deliverable.evaluate(`document.fonts.load('16px "Own serif"').then((fonts) => fonts.length)`)).toBe(1);
    const text = (await deliverable.locator('main').innerText()).replace(/\s+/g, ' ');
    await deliverable.close();
    return text;
  };
  const small = await readDeliverable('Dunlin 2, Europe');
  expect(small).toContain('Readings of the Dunlin 2 are low after a cold night.');
  expect(small).toContain('Dew on the shield dries within an hour.');
  expect(small).not.toContain('The gust');
  const large = await readDeliverable('Dunlin 4, Europe');
  expect(large).toContain('Readings of the Dunlin 4 are low after a cold night.');
  expect(large).toContain('The gust shows as zero while there is ice.');

  // Where the snippet is used, and through what.
  await page.getByRole('link', { name: 'Library' }).last().click();
  await page.getByLabel('Find in the library').fill('morning dew');
  await page.getByRole('row').filter({ hasText: 'Tip: morning dew' }).first().click();
  const preview = page.getByRole('complementary', { name: 'Selected component' });
  await expect(preview.locator('.direct')).toHaveText(/Reading in the morning\s*placement/);
  await expect(preview.locator('.further')).toHaveText(
    /Observer Handbook\s*outline entry, through “Reading in the morning”/,
  );
});
