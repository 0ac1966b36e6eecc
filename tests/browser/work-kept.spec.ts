import { expect, test, type Page } from '@playwright/test';
import { draftWith, newTopic, save, sheet, signIn } from './people.js';

/** Opens a topic of one's own and writes behind its paragraph. */
async function writeIn(page: Page, key: string, words: string): Promise<void> {
  await page.goto(`/edit/${key}`);
  await sheet(page).getByText('Begun.').click();
  await page.keyboard.press('End');
  await page.keyboard.type(words);
  await expect(sheet(page)).toContainText(words);
}

test.describe('What is being written', () => {
  test('is saved after signing in again in place, when the session has ended', async ({ page }) => {
    await signIn(page, 'ines');
    const key = await newTopic(page, 'Begun.');
    await writeIn(page, key, ' And gone on.');
    await page.context().clearCookies();
    await page.getByRole('button', { name: 'Save', exact: true }).click();
    const dialog = page.getByRole('dialog', { name: 'Sign in again' });
    await expect(dialog.getByLabel('Password of ines')).toBeFocused();
    await page.keyboard.type('wrong');
    await page.keyboard.press('Enter');
    await expect(dialog.getByText('The name or the password is wrong.')).toBeVisible();
    await dialog.getByLabel('Password').fill('dunlin-ines');
    await page.keyboard.press('Enter');
    await expect(page.getByText('Saved as revision 2.')).toBeVisible();
    await expect(dialog).toHaveCount(0);
    await page.reload();
    await expect(sheet(page)).toContainText('Begun. And gone on.');
  });

  test('is asked about before signing out, and stays when one stays', async ({ page }) => {
    await signIn(page, 'ines');
    const key = await newTopic(page, 'Begun.');
    await writeIn(page, key, ' Not saved.');
    const signOut = async (): Promise<void> => {
      await page.locator('.rail .person').click();
      await page.getByRole('menuitem', { name: 'Sign out' }).click();
    };
    await signOut();
    await page.getByRole('button', { name: 'Stay' }).click();
    await expect(sheet(page)).toContainText('Begun. Not saved.');
    await save(page);
    await signOut();
    await expect(page.getByRole('heading', { name: 'Sign in' })).toBeVisible();
    await page.goto('/library');
    await expect(page.getByRole('heading', { name: 'Sign in' })).toBeVisible();
  });

  test('is kept for each window by itself, and found again when the window is gone', async ({ page }) => {
    await signIn(page, 'ines');
    const key = await newTopic(page, 'Begun.');
    await writeIn(page, key, ' Here.');
    await draftWith(page, 'Begun. Here.');
    const other = await page.context().newPage();
    await writeIn(other, key, ' There.');
    await draftWith(other, 'Begun. There.');
    await page.reload();
    await expect(sheet(page)).toContainText('Begun. Here.');
    await page.getByRole('button', { name: 'Discard it' }).click();
    await expect(sheet(page)).not.toContainText('Here.');
    await other.close();
    await page.reload();
    await expect(sheet(page)).toContainText('Begun. There.');
  });

  test('keeps the focus in the text with Tab, until Escape is pressed before it', async ({ page }) => {
    await signIn(page, 'ines');
    await writeIn(page, await newTopic(page, 'Begun.'), ' On.');
    await page.keyboard.press('Tab');
    await page.keyboard.type(' Still.');
    await expect(sheet(page)).toContainText('On. Still.');
    await expect(sheet(page)).toBeFocused();
    await page.keyboard.press('Escape');
    await page.keyboard.press('Tab');
    await expect(sheet(page)).not.toBeFocused();
  });

  test('can be saved after blocks were split, copied and pasted', async ({ page }) => {
    await signIn(page, 'ines');
    const key = await newTopic(page, 'Begun.', 'Second.');
    await writeIn(page, key, ' Split here.');
    for (let left = 0; left < 'here.'.length; left += 1) await page.keyboard.press('ArrowLeft');
    await page.keyboard.press('Enter');
    await page.keyboard.press('Control+A');
    await page.keyboard.press('Control+C');
    await page.keyboard.press('ArrowRight');
    await page.keyboard.press('Control+V');
    await expect(sheet(page).getByText('Second.')).toHaveCount(2);
    await save(page);
    await page.reload();
    await expect(sheet(page).getByText('Second.')).toHaveCount(2);
  });
});
