import { expect, test } from '@playwright/test';
import { insert, newTopic, save, sheet, signIn } from './people.js';

test('A recording is put in with its address, poster and transcript, and reads so', async ({ page }) => {
  await signIn(page, 'ines');
  const key = await newTopic(page, 'Before.', 'After.');
  await page.goto(`/edit/${key}`);
  await sheet(page).locator('p').first().click();
  await page.keyboard.press('End');
  await insert(page, 'film', /Video or audio/);
  await page.keyboard.type('The mast is put up by two people.');
  const media = sheet(page).locator('figure[data-node=media]');
  await expect(media).toContainText('no address yet');
  await expect(media.locator('p')).toHaveText('The mast is put up by two people.');

  const address = page.getByLabel('Where it is found');
  await address.fill('javascript:alert(1)');
  await address.press('Enter');
  await expect(page.getByText('“javascript:alert(1)” is no address that can be followed.')).toBeVisible();
  await expect(media).toContainText('no address yet');
  await address.fill('https://film.example/{+mast}/mast.mp4');
  await address.press('Enter');
  await expect(media).toContainText('https://film.example/{+mast}/mast.mp4');
  await page.getByRole('combobox', { name: 'a picture of the library' }).fill('mast');
  await page.getByRole('listbox').getByRole('option').first().click();
  await expect(media.locator('img')).toBeVisible();
  await media.locator('p').click();
  await page.keyboard.press('End');
  await page.keyboard.type('!');
  await expect(media.locator('p')).toHaveText('The mast is put up by two people.!');
  await save(page);
  await page.reload();
  await expect(media.locator('img')).toBeVisible();
  await page.getByRole('tab', { name: 'Reading' }).click();
  const read = page.locator('al-reading-view video');
  await expect(read).toHaveAttribute('src', /^https:\/\/film\.example\/.*\/mast\.mp4$/);
  await expect(page.locator('al-reading-view figcaption')).toContainText('The mast is put up');

  await media.locator('p').click();
  await page.getByRole('tab', { name: 'Applies when' }).click();
  await page.getByRole('radio', { name: 'Audio' }).check();
  await expect(media).toContainText('Audio');
  await expect(media.locator('img')).toHaveCount(0);
});
