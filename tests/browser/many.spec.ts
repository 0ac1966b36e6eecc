import { randomUUID } from 'node:crypto';
import { expect } from '@playwright/test';
import { findings } from '../support/accessibility.js';
import { goTo, make, takeBack, visit } from './people.js';
import { testAs } from './server.js';

const test = testAs('ines');

test('Many components are tagged, limited and deleted at once, by the mouse and by the keyboard', async ({ page }) => {
  const name = `many${randomUUID().slice(0, 6)}`;
  const text = (words: string) => ({ type: 'text', text: words });
  const paragraph = (...content: readonly object[]) => ({ type: 'paragraph', content });
  const snippet = (title: string) =>
    make(page, 'post', '/components', {
      kind: 'snippet',
      title: `${title} ${name}`,
      body: { type: 'fragment', content: [paragraph(text(title))] },
    });
  const { key } = await snippet('First');
  await snippet('Second');
  await snippet('Third');
  const placing = { type: 'placement', attrs: { component: key } };
  const title = { type: 'title', content: [text(`Outside ${name}`)] };
  const body = { type: 'topic', content: [title, placing] };
  await make(page, 'post', '/components', { kind: 'topic', title: `Outside ${name}`, body });

  await visit(page, `/library?find=${name}&kind=snippet`);
  await expect(page.locator('.total')).toHaveText('3');
  const box = (of: string) => page.getByRole('checkbox', { name: `Choose ${of} ${name}` });
  await box('First').focus();
  await page.keyboard.press('Space');
  await box('Third').click({ modifiers: ['Shift'] });
  const bar = page.getByRole('toolbar', { name: 'With what is chosen' });
  await expect(bar).toContainText('3 chosen');

  await bar.getByRole('button', { name: 'Tag' }).click();
  const dialog = page.getByRole('dialog');
  // A dialog that has just opened takes the focus to its first field.
  await expect(dialog.getByLabel('Tag', { exact: true })).toBeFocused();
  await dialog.getByLabel('Tag', { exact: true }).fill('batch');
  await dialog.getByLabel('Value').fill(name);
  expect(await findings(page, 'everything', '.p-dialog')).toEqual([]);
  await dialog.getByRole('button', { name: 'Tag them' }).click();
  await expect(dialog).toBeHidden();
  // Taken back as one act, and that as well.
  const tagged = async (): Promise<number> =>
    ((await (await page.request.get(`/api/components?tag=batch%3D${name}`)).json()) as { total: number }).total;
  await expect(page.getByText(`Tagged with batch ${name}: 3 components.`)).toBeVisible();
  await takeBack(page, `Tagged with batch ${name}`);
  await expect(page.getByText('3 components are as before.')).toBeVisible();
  await expect.poll(tagged).toBe(0);
  await takeBack(page, '3 components are as before.');
  await expect.poll(tagged).toBe(3);
  await bar.getByRole('button', { name: 'Limit' }).click();
  await dialog.getByRole('button', { name: 'Roof' }).click();
  await dialog.getByRole('button', { name: 'Limit them' }).click();
  await expect(dialog).toBeHidden();
  await expect(page.locator('al-library tbody tr').first()).toContainText('Ro');

  await goTo(page, `/library?tag=${encodeURIComponent(`batch=${name}`)}`);
  await expect(page.locator('.total')).toHaveText('3');
  await box('First').click();
  await bar.getByRole('button', { name: 'Choose all 3' }).click();
  await bar.getByRole('button', { name: 'Delete' }).click();
  await dialog.getByRole('button', { name: 'Delete them' }).click();
  await expect(dialog).toContainText(`“First ${name}” is used in “Outside ${name}”`);
  await page.keyboard.press('Escape');
  await expect(page.locator('.total')).toHaveText('1');
  await expect(bar).toContainText('1 chosen');
});

test('A new topic begins with a template of the team', async ({ page }) => {
  const name = randomUUID().slice(0, 6);
  const text = (words: string) => ({ type: 'text', text: words });
  const body = {
    type: 'topic',
    content: [
      { type: 'title', content: [text(`A task ${name}`)] },
      { type: 'paragraph', content: [text('What this is for.')] },
      { type: 'steps', content: [{ type: 'step', content: [{ type: 'paragraph', content: [text('Do this.')] }] }] },
    ],
  };
  const labels = { collection: null, tags: { template: ['yes'] } };
  await make(page, 'post', '/components', { kind: 'topic', title: `A task ${name}`, body, labels });
  await visit(page, '/library');
  await page.getByRole('button', { name: 'New component' }).click();
  const dialog = page.getByRole('dialog', { name: 'New component' });
  await dialog.getByLabel('Title', { exact: true }).fill(`Rinsing ${name}`);
  await dialog.getByRole('combobox', { name: 'Begin with' }).click();
  await page.getByRole('option', { name: `A task ${name}` }).click();
  await dialog.getByRole('button', { name: 'Create' }).click();
  const sheet = page.getByRole('textbox', { name: /^Content of/ });
  await expect(sheet).toContainText(`Rinsing ${name}`);
  await expect(sheet.locator('ol')).toHaveText('Do this.');
});
