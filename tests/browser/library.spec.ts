import { randomUUID } from 'node:crypto';
import type { Component } from '@allomorph/core';
import { expect, type Page } from '@playwright/test';
import { goTo, make, takeBack, visit } from './people.js';
import { testAs } from './server.js';

const test = testAs('tomasz');

const phrase = (...content: readonly object[]): object => ({ type: 'phrase', content });
const text = (words: string): object => ({ type: 'text', text: words });
const paragraph = (...content: readonly object[]): object => ({ type: 'paragraph', content });
const own = (): string => randomUUID().slice(0, 8);

const snippet = (page: Page, title: string): Promise<{ key: string }> =>
  make(page, 'post', '/components', {
    kind: 'snippet',
    title,
    body: { type: 'fragment', content: [paragraph(text(`${title} says this.`))] },
  });
const row = (page: Page, title: string) => page.getByRole('row').filter({ hasText: title });
const tree = (page: Page) => page.getByRole('navigation', { name: 'Collections' });

test.describe('Collections', () => {
  test('take what is dragged onto them, are moved by the keyboard, and that is undone', async ({ page }) => {
    const name = own();
    const { key } = await snippet(page, `Note ${name}`);
    const other = await snippet(page, `Hint ${name}`);
    await make(page, 'post', '/components/acts', {
      keys: [other.key],
      act: { kind: 'collection', collection: `Top ${name} / Inner` },
    });
    await visit(page, `/library?find=${name}`);
    await page.getByRole('button', { name: 'Collections' }).click();
    const top = tree(page)
      .getByRole('button', { name: `Top ${name}`, exact: false })
      .last();
    await row(page, `Note ${name}`).dragTo(top);
    await expect(page.getByText(`1 component is in “Top ${name}” now.`)).toBeVisible();
    await takeBack(page, `1 component is in “Top ${name}” now.`);
    await expect(page.getByText('1 component is as before.')).toBeVisible();
    const collection = async (): Promise<unknown> =>
      ((await (await page.request.get(`/api/components/${key}`)).json()) as Component).labels?.collection ?? null;
    expect(await collection()).toBeNull();
    await takeBack(page, '1 component is as before.');
    await expect.poll(collection).toBe(`Top ${name}`);
    await top.click();
    await expect(row(page, `Note ${name}`)).toBeVisible();
    await expect(row(page, `Hint ${name}`)).toBeVisible();
    await row(page, `Note ${name}`).click();
    await expect(page.getByText(`in the collection Top ${name}`)).toBeVisible();

    await tree(page).getByRole('button', { name: 'Rename or move' }).press('Enter');
    const field = page.getByRole('textbox', { name: 'Name and place' });
    await expect(field).toHaveValue(`Top ${name}`);
    await field.fill(`Shelf ${name} / Old`);
    await page.keyboard.press('Enter');
    await expect(page.getByText(`“Top ${name}” is “Shelf ${name} / Old” now.`)).toBeVisible();
    await expect(page).toHaveURL(new RegExp(`collection=Shelf`));
    await expect(row(page, `Hint ${name}`)).toBeVisible();
    await takeBack(page, `“Top ${name}” is “Shelf ${name} / Old” now.`);
    await expect(page.getByText(`“Shelf ${name} / Old” is “Top ${name}” now.`)).toBeVisible();
    await goTo(page, `/library?collection=Top+${name}`);
    await expect(row(page, `Note ${name}`)).toBeVisible();
  });
});

test.describe('The archive', () => {
  test('takes components out of what is offered, at once undone, and lets them go', async ({ page }) => {
    const name = own();
    const { key } = await snippet(page, `Old ${name}`);
    await visit(page, `/library?find=${name}`);
    await row(page, `Old ${name}`).getByRole('checkbox').check();
    await page.getByRole('button', { name: 'Archive', exact: true }).click();
    await expect(page.getByText('1 component is archived')).toBeVisible();
    await expect(page.getByText('Nothing in the library fits.')).toBeVisible();
    await takeBack(page, '1 component is archived');
    await expect(row(page, `Old ${name}`)).toBeVisible();
    await row(page, `Old ${name}`).getByRole('checkbox').check();
    await page.getByRole('button', { name: 'Archive', exact: true }).click();
    await expect(page.getByText('Nothing in the library fits.')).toBeVisible();
    await goTo(page, `/library?find=${name}&archived=only`);
    await expect(row(page, `Old ${name}`).getByText('archived')).toBeVisible();
    await goTo(page, `/edit/${key}`);
    await page.getByRole('button', { name: 'Take it out of the archive' }).click();
    await expect(page.getByText('This is archived')).toBeHidden();
    await goTo(page, `/library?find=${name}`);
    await expect(row(page, `Old ${name}`)).toBeVisible();
  });
});

test.describe('A key', () => {
  test('is changed with all that refers to it; the old address leads on', async ({ page }) => {
    const name = own();
    const note = await snippet(page, `Keyed ${name}`);
    const user = await make(page, 'post', '/components', {
      kind: 'topic',
      title: `Places ${name}`,
      body: {
        type: 'topic',
        content: [
          { type: 'title', content: [text(`Places ${name}`)] },
          { type: 'placement', attrs: { component: note.key } },
        ],
      },
    });
    await visit(page, `/edit/${note.key}`);
    await page.getByRole('button', { name: note.key, exact: true }).click();
    await expect(page.getByText('1 place refers to it')).toBeVisible();
    const field = page.getByRole('textbox', { name: 'Key', exact: true });
    await field.fill('two words');
    await expect(page.getByRole('alert')).toContainText('A key is made of letters');
    await field.fill(`renamed-${name}`);
    await expect(page.getByRole('button', { name: 'Change the key' })).toBeEnabled();
    await page.keyboard.press('Enter');
    await expect(page).toHaveURL(new RegExp(`/edit/renamed-${name}$`));
    await goTo(page, `/edit/${user.key}`);
    await expect(page.locator('.seam')).toContainText(`Keyed ${name} says this.`);
    await goTo(page, `/edit/${note.key}`);
    await expect(page).toHaveURL(new RegExp(`/edit/renamed-${name}$`));
    await expect(page.getByRole('button', { name: `renamed-${name}` })).toBeVisible();
  });

  test('of a variable is changed where its cases are', async ({ page }) => {
    const name = own();
    const { key } = await make(page, 'post', '/components', {
      kind: 'variable',
      title: `Weight ${name}`,
      body: { type: 'variable', default: phrase(text('3 kg')), rules: [] },
    });
    await visit(page, `/variables?key=${key}`);
    await page.getByRole('button', { name: key, exact: true }).click();
    await page.getByRole('textbox', { name: 'Key', exact: true }).fill(`weight.${name}`);
    await page.getByRole('button', { name: 'Change the key' }).click();
    await expect(page).toHaveURL(new RegExp(`key=weight.${name}`));
    await expect(page.getByRole('textbox', { name: 'Title' })).toHaveValue(`Weight ${name}`);
  });
});
