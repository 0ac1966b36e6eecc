import { expect, type Locator } from '@playwright/test';
import { wave } from '../support/recordings.js';
import { insert, newTopic, save, sheet, visit } from './people.js';
import { testAs } from './server.js';

const test = testAs('ines');

test('A recording is put in with its address, poster and transcript, and reads so', async ({ page }) => {
  const key = await newTopic(page, 'Before.', 'After.');
  await visit(page, `/edit/${key}`);
  await sheet(page).locator('p').first().click();
  await page.keyboard.press('End');
  await insert(page, 'film', /Video or audio/);
  await page.keyboard.type('The mast is put up by two people.');
  const media = sheet(page).locator('figure[data-node=media]');
  await expect(media).toContainText('no file and no address yet');
  await expect(media.locator('p')).toHaveText('The mast is put up by two people.');

  const address = page.getByLabel('Where it is found');
  await address.fill('javascript:alert(1)');
  await address.press('Enter');
  await expect(page.getByText('“javascript:alert(1)” is no address that can be followed.')).toBeVisible();
  await expect(media).toContainText('no file and no address yet');
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

test('A recording is chosen from a file or dropped, played beside the page, and read with it', async ({ page }) => {
  const key = await newTopic(page, 'Before.', 'After.');
  await visit(page, `/edit/${key}`);
  await sheet(page).locator('p').first().click();
  await insert(page, 'film', /Video or audio/);
  await page.keyboard.type('Three short tones.');
  const media = sheet(page).locator('figure[data-node=media]');
  const second = Buffer.from(Uint8Array.from({ length: 8000 }, (_, at) => 127 + Math.round(90 * Math.sin(at / 3))));
  await page
    .getByLabel('File of the recording')
    .setInputFiles({ name: 'words.mp4', mimeType: 'video/mp4', buffer: Buffer.from('no film') });
  await expect(page.getByText('“words.mp4” is not a film or sound that browsers play')).toBeVisible();
  // A large file is on its way for a while, in which one goes on elsewhere.
  let letGo: () => void = () => undefined;
  const held = new Promise<void>((resolve) => (letGo = resolve));
  await page.route('**/api/recordings', async (route) => {
    await held;
    await route.continue();
  });
  await page
    .getByLabel('File of the recording')
    .setInputFiles({ name: 'Alarm “1”.wav', mimeType: 'audio/wav', buffer: Buffer.from(wave(second)) });
  await expect(sheet(page).getByRole('status')).toHaveText('Taking in “Alarm “1”.wav” …');
  await sheet(page).getByText('Before.').click();
  await page.keyboard.press('Home');
  await page.keyboard.type('Well ');
  letGo();
  await expect(media).toContainText('AudioAlarm “1”.wav');
  await expect(sheet(page)).toContainText('Well Before.');
  await media.locator('p').click();
  const lasts = (player: Locator): Promise<number> =>
    player.evaluate((element) => (element as HTMLAudioElement).duration);
  await expect.poll(() => lasts(page.locator('al-media-panel audio'))).toBe(1);
  await save(page);
  await page.reload();
  await page.getByRole('tab', { name: 'Reading' }).click();
  const read = page.locator('al-reading-view audio');
  await read.evaluate((element) => (element as HTMLAudioElement).load());
  await read.evaluate((element) => (element as HTMLAudioElement).play());
  await expect.poll(() => lasts(read)).toBe(1);

  // Dropped from the desk.
  await sheet(page).getByText('After.').click();
  const dropped = await page.evaluateHandle(
    (bytes) => {
      const data = new DataTransfer();
      data.items.add(new File([new Uint8Array(bytes)], 'tone.wav', { type: 'audio/wav' }));
      return data;
    },
    [...wave(second.subarray(0, 400))],
  );
  const box = await sheet(page).getByText('After.').boundingBox();
  await sheet(page).dispatchEvent('drop', {
    dataTransfer: dropped,
    clientX: (box?.x ?? 0) + 5,
    clientY: (box?.y ?? 0) + 5,
  });
  await expect(media).toHaveCount(2);
  await expect(media.nth(1)).toContainText('tone.wav');
  await media.nth(0).locator('p').click();
  await page.getByRole('tab', { name: 'Applies when' }).click();
  await page.getByRole('button', { name: 'Take it away' }).click();
  await expect(media.nth(0)).toContainText('no file and no address yet');
  await save(page);
});
