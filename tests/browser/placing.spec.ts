import { randomUUID } from 'node:crypto';
import { expect, type Page } from '@playwright/test';
import { make, newTopic, save, sheet, visit } from './people.js';
import { testAs } from './server.js';

const test = testAs('tomasz');

async function snippet(page: Page): Promise<string> {
  const title = `Note ${randomUUID().slice(0, 8)}`;
  const content = [{ type: 'paragraph', content: [{ type: 'text', text: `${title} says this.` }] }];
  await make(page, 'post', '/components', { kind: 'snippet', title, body: { type: 'fragment', content } });
  return title;
}

/** What of the library beside the page has a title. */
async function beside(page: Page, title: string) {
  await page.getByRole('tab', { name: 'Library' }).click();
  await page.getByRole('searchbox', { name: 'Find in the library' }).fill(title);
  return page.getByRole('list', { name: 'Components of the library' }).getByRole('button').filter({ hasText: title });
}

test.describe('The library beside the page', () => {
  test('is dragged from; how it is placed is chosen then', async ({ page }) => {
    const title = await snippet(page);
    await visit(page, `/edit/${await newTopic(page, 'First words.', 'Last words.')}`);
    const row = await beside(page, title);
    await row.dragTo(sheet(page).getByText('First words.'), { targetPosition: { x: 4, y: 16 } });
    const menu = page.getByRole('menu', { name: `How to place “${title}”` });
    await expect(menu.getByRole('menuitem')).toHaveCount(3);
    await menu.getByRole('menuitem', { name: 'Hold it at revision 1' }).click();
    const seam = sheet(page).locator('.seam');
    await expect(seam).toContainText(`${title} says this.`);
    await expect(seam).toContainText('held at revision 1');
    await save(page);
    await page.getByRole('button', { name: 'Undo: Hold it at revision 1' }).click();
    await expect(seam).toHaveCount(0);
    await expect(page.getByRole('status').filter({ hasText: 'Undone: Hold it at revision 1' })).toBeVisible();
    await page.getByRole('button', { name: 'Redo: Hold it at revision 1' }).click();
    await expect(seam).toHaveCount(1);
  });

  test('is chosen from by the keyboard; what is copied is own text', async ({ page }) => {
    const title = await snippet(page);
    await visit(page, `/edit/${await newTopic(page, 'First words.', 'Last words.')}`);
    await sheet(page).getByText('First words.').click();
    const row = await beside(page, title);
    await row.press('Enter');
    const menu = page.getByRole('menu', { name: `How to place “${title}”` });
    await expect(menu.getByRole('menuitem').first()).toBeFocused();
    await page.keyboard.press('Escape');
    await expect(menu).toHaveCount(0);
    await expect(sheet(page)).toBeFocused();
    await row.press('Enter');
    await expect(menu.getByRole('menuitem').first()).toBeFocused();
    await page.keyboard.press('ArrowUp');
    await page.keyboard.press('Enter');
    await expect(sheet(page)).toContainText(/First words\..*Note \w+ says this\..*Last words\./s);
    await expect(sheet(page).locator('.seam')).toHaveCount(0);
    await save(page);
    await page.reload();
    await expect(sheet(page)).toContainText(`${title} says this.`);
  });
});
