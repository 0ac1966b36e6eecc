import { readFileSync } from 'node:fs';
import { expect, type Page } from '@playwright/test';
import { lookThrough, newTopic, save, sheet, visit } from './people.js';
import { testAs } from './server.js';

const test = testAs('ines');

/** Gives the page a file as the clipboard or the file manager would. */
async function hand(page: Page, how: 'paste' | 'drop', name: string, words: string): Promise<void> {
  const bytes = [
    ...readFileSync(new URL('../../demo/src/pictures/display.svg', import.meta.url)),
    ...Buffer.from(words),
  ];
  await sheet(page).evaluate(
    (element, given) => {
      const data = new DataTransfer();
      data.items.add(new File([new Uint8Array(given.bytes)], given.name, { type: 'image/svg+xml' }));
      const { left, top } = (element.querySelector('p') ?? element).getBoundingClientRect();
      const common = { bubbles: true, cancelable: true };
      element.dispatchEvent(
        given.how === 'paste'
          ? new ClipboardEvent('paste', { ...common, clipboardData: data })
          : new DragEvent('drop', { ...common, dataTransfer: data, clientX: left + 2, clientY: top + 4 }),
      );
    },
    { how, name, bytes },
  );
}

test('A picture is pasted and dropped, says what it shows, is made narrower, and gets another file', async ({
  page,
}) => {
  const key = await newTopic(page, 'Words before the picture.');
  await visit(page, `/edit/${key}`);
  await sheet(page).getByText('Words before').click();
  // A file of this test alone: the library keeps each file once.
  const own = `<!-- ${key} -->`;
  await hand(page, 'paste', `Display ${key}.svg`, own);
  const figure = sheet(page).locator('figure');
  await expect(figure.locator('img')).toHaveCount(1);
  const panel = page.locator('al-picture-panel');
  await expect(panel).toContainText(`Display ${key}.svg`);
  await expect(panel).toContainText('None yet: what does it say to people who cannot see it?');
  await panel.getByLabel('Alternative text here').fill('The display of the console.');
  await page.keyboard.press('Tab');
  await expect(figure.locator('img')).toHaveAttribute('alt', 'The display of the console.');
  await panel.getByRole('button', { name: 'Keep it in the library, for all uses' }).click();
  await expect(panel.getByLabel('Alternative text here')).toHaveAttribute('placeholder', 'The display of the console.');
  await panel.getByLabel('Width, in percent of the text').fill('40');
  await page.keyboard.press('Tab');
  await save(page);

  const chooser = page.waitForEvent('filechooser');
  await panel.getByRole('button', { name: 'Replace its file …' }).click();
  const before = await figure.locator('img').getAttribute('src');
  const svg = '<svg xmlns="http://www.w3.org/2000/svg" width="9" height="9"><rect width="9" height="9"/></svg>';
  await (await chooser).setFiles({ name: 'new.svg', mimeType: 'image/svg+xml', buffer: Buffer.from(svg + own) });
  await expect(page.getByText(/shows another file, as revision 3; all that show it follow/)).toBeVisible();
  await expect(figure.locator('img')).not.toHaveAttribute('src', before ?? '');

  // Dropped where one points, and known again by its file.
  await hand(page, 'drop', 'other name.svg', `<!-- again ${key} -->`);
  await expect(sheet(page).locator('figure')).toHaveCount(2);
  await hand(page, 'drop', 'third name.svg', `<!-- again ${key} -->`);
  await expect(sheet(page).locator('figure')).toHaveCount(3);
  await save(page);
  await page.reload();
  await expect(sheet(page).locator('figure')).toHaveCount(3);
  const { items } = (await (await page.request.get('/api/components?kind=image&find=third%20name')).json()) as {
    items: { title: string }[];
  };
  // A word that is nowhere is passed over: what else is called so may be found.
  expect(items.filter(({ title }) => title.includes('third'))).toEqual([]);
});

test('What is no picture is refused with a sentence, and the page stays', async ({ page }) => {
  const key = await newTopic(page, 'Words.');
  await visit(page, `/edit/${key}`);
  await sheet(page).getByText('Words.').click();
  await sheet(page).evaluate((element) => {
    const data = new DataTransfer();
    data.items.add(new File(['%PDF-1.7'], 'plan.pdf', { type: 'application/pdf' }));
    element.dispatchEvent(new DragEvent('drop', { bubbles: true, cancelable: true, dataTransfer: data }));
  });
  await expect(page.getByText('“plan.pdf” is not a PNG, JPEG, GIF, WebP or SVG picture.')).toBeVisible();
  await expect(sheet(page).locator('p')).toHaveText('Words.');
});

test('A picture shows another file in a case, in the editor as in what is built', async ({ page }) => {
  const key = await newTopic(page, 'Words before the picture.');
  const svg = (words: string): { name: string; mimeType: string; buffer: Buffer } => ({
    name: `${words} ${key}.svg`,
    mimeType: 'image/svg+xml',
    buffer: Buffer.from(
      `<svg xmlns="http://www.w3.org/2000/svg" width="40" height="20"><title>${words} ${key}</title></svg>`,
    ),
  });
  await visit(page, `/edit/${key}`);
  await sheet(page).getByText('Words before').click();
  await hand(page, 'paste', `Own ${key}.svg`, `<!-- cases ${key} -->`);
  const image = sheet(page).locator('figure img');
  await expect(image).toHaveCount(1);
  await save(page);
  const before = await image.getAttribute('src');
  await page.locator('al-picture-panel').getByRole('button', { name: 'Files by case' }).click();
  const cases = page.locator('al-image-cases');
  await cases.getByLabel('File for a new case').setInputFiles(svg('Other'));
  await expect(page.getByText('A case does not say yet when it applies.')).toBeVisible();
  await cases.getByRole('group', { name: 'Case 1' }).getByRole('button', { name: 'Dunlin 2' }).click();
  const form = page.locator('al-plain-component-form');
  await form.getByRole('button', { name: 'Save' }).click();
  await expect(page.getByText(/is saved as revision 2/)).toBeVisible();
  await page.keyboard.press('Escape');
  await expect(image).toHaveAttribute('src', before ?? '');
  await lookThrough(page, 'Dunlin 2, Europe');
  await expect(image).not.toHaveAttribute('src', before ?? '');
});
