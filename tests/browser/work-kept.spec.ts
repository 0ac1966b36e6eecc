import { randomUUID } from 'node:crypto';
import { expect, type Page } from '@playwright/test';
import { clickInto, draftWith, goTo, insert, make, newTopic, save, sheet, signIn, visit } from './people.js';
import { testAs, testOnNewPage } from './server.js';

const test = testAs('ines');

/** Opens a topic of one's own and writes behind its paragraph. */
async function writeIn(page: Page, key: string, words: string): Promise<void> {
  await visit(page, `/edit/${key}`);
  await sheet(page).getByText('Begun.').click();
  await page.keyboard.press('End');
  await page.keyboard.type(words);
  await expect(sheet(page)).toContainText(words);
}

test.describe('What is being written', () => {
  testOnNewPage('is saved after signing in again in place, when the session has ended', async ({ page }) => {
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

  testOnNewPage('is asked about before signing out, and stays when one stays', async ({ page }) => {
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

  testOnNewPage('is kept for each window by itself, and found again when the window is gone', async ({ page }) => {
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

  test('is found again at another computer', async ({ page, elsewhere }) => {
    const key = await newTopic(page, 'Begun.');
    await writeIn(page, key, ' On the train.');
    const onServer = async (): Promise<string> => (await page.request.get(`/api/me/drafts?thing=${key}`)).text();
    await expect.poll(onServer).toContain('On the train.');
    const atHome = await elsewhere('ines');
    await visit(atHome, `/edit/${key}`);
    await expect(sheet(atHome)).toContainText('Begun. On the train.');
    await save(atHome);
    await expect.poll(onServer).toBe('[]');
  });

  testOnNewPage('stays when the network is lost, and is saved when it is back', async ({ page }) => {
    await signIn(page, 'ines');
    const key = await newTopic(page, 'Begun.');
    await writeIn(page, key, ' Before.');
    await page.context().setOffline(true);
    await page.keyboard.type(' In the tunnel.');
    await page.getByRole('button', { name: 'Save', exact: true }).click();
    await expect(page.getByText('The server cannot be reached; nothing was saved.')).toBeVisible();
    await expect(sheet(page)).toContainText('Begun. Before. In the tunnel.');
    await page.context().setOffline(false);
    await save(page);
    await page.reload();
    await expect(sheet(page)).toContainText('Begun. Before. In the tunnel.');
  });

  test('keeps the focus in the text with Tab, until Escape is pressed before it', async ({ page }) => {
    await writeIn(page, await newTopic(page, 'Begun.'), ' On.');
    await page.keyboard.press('Tab');
    await page.keyboard.type(' Still.');
    await expect(sheet(page)).toContainText('On. Still.');
    await expect(sheet(page)).toBeFocused();
    await page.keyboard.press('Escape');
    await page.keyboard.press('Tab');
    await expect(sheet(page)).not.toBeFocused();
  });

  test('stands somewhere wherever one clicks beside a variable, and is never lost', async ({ page }) => {
    const { key } = await make(page, 'post', '/components', {
      kind: 'snippet',
      title: `S ${randomUUID().slice(0, 8)}`,
      body: {
        type: 'fragment',
        content: [
          {
            type: 'admonition',
            attrs: { kind: 'caution' },
            content: [
              {
                type: 'paragraph',
                content: [
                  { type: 'text', text: 'Use only batteries of the type ' },
                  { type: 'variable', attrs: { key: 'battery' } },
                  { type: 'text', text: '. Mind the signs.' },
                ],
              },
            ],
          },
        ],
      },
    });
    await visit(page, `/edit/${key}`);
    const name = sheet(page).locator('[data-node=variable]');
    const { x, y, width, height } = (await name.boundingBox()) ?? { x: 0, y: 0, width: 0, height: 0 };
    // Somewhere in the gap between lines the browser puts the caret into the name.
    for (const [at, below] of [1, 2, 2.6, 3, 4].entries()) {
      // Clicks far from each other, so that no two of them are a double click.
      await page.mouse.click(x + (width * (at + 1)) / 6, y + height + below);
      await page.keyboard.type(`(${below})`);
      await expect(sheet(page)).toContainText(`(${below})`);
    }
    await expect(name).toHaveText('Backup battery');
  });

  test('can be saved after blocks were split, copied and pasted', async ({ page }) => {
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

const phrase = (text: string) => ({ type: 'phrase', content: [{ type: 'text', text }] });

test.describe('A variable', () => {
  const newVariable = (page: Page): Promise<{ key: string }> =>
    make(page, 'post', '/components', {
      kind: 'variable',
      title: `V ${randomUUID().slice(0, 8)}`,
      body: { type: 'variable', default: phrase('before'), rules: [] },
    });
  const title = (page: Page) => page.getByLabel('Title', { exact: true });

  test('keeps what is changed while others save, rows are clicked and the page is loaded anew', async ({
    page,
    elsewhere,
  }) => {
    const [own, other] = [await newVariable(page), await newVariable(page)];
    await visit(page, `/variables?key=${own.key}`);
    await title(page).fill('Changed');
    await expect(page.getByText('not saved')).toBeVisible();
    // Somebody else saves another variable: the list is read anew.
    const colleague = await elsewhere('tomasz');
    const theirs = `Theirs ${randomUUID().slice(0, 8)}`;
    await make(colleague, 'put', `/components/${other.key}`, {
      base: 1,
      title: theirs,
      body: { type: 'variable', default: phrase('theirs'), rules: [] },
    });
    await expect(page.getByText(theirs)).toBeVisible();
    await expect(title(page)).toHaveValue('Changed');
    await page.getByText(theirs).click();
    await expect(title(page)).toHaveValue(theirs);
    await goTo(page, `/variables?key=${own.key}`);
    await expect(title(page)).toHaveValue('Changed');
    await expect(page.getByText('This is what you wrote earlier and did not save.')).toBeVisible();
    await page.keyboard.press('Control+S');
    await expect(page.getByText('“Changed” is saved as revision 2.')).toBeVisible();
  });

  test('is put together of what two change, and asks where both changed the same', async ({ page, elsewhere }) => {
    const { key } = await newVariable(page);
    await visit(page, `/variables?key=${key}`);
    await title(page).fill('Mine');
    const colleague = await elsewhere('tomasz');
    const save = (base: number, name: string, value: string): Promise<unknown> =>
      make(colleague, 'put', `/components/${key}`, {
        base,
        title: name,
        body: { type: 'variable', default: phrase(value), rules: [] },
      });
    await save(1, 'Theirs', 'theirs');
    await expect(page.getByText('Somebody saved revision 2 while you change this.')).toBeVisible();
    await page.getByRole('button', { name: 'Save', exact: true }).click();
    await expect(page.getByText('You both changed the title.')).toBeVisible();
    await page.getByRole('button', { name: 'Keep mine' }).click();
    await expect(page.getByText('“Mine” is saved as revision 3.')).toBeVisible();
    await expect(page.getByRole('textbox', { name: 'Default value' })).toHaveText('theirs');
    await title(page).fill('Mine again');
    await save(3, 'Mine', 'theirs, once more');
    await page.getByRole('button', { name: 'Save', exact: true }).click();
    await expect(page.getByText('with what somebody else changed meanwhile')).toBeVisible();
    await expect(page.getByRole('textbox', { name: 'Default value' })).toHaveText('theirs, once more');
  });
});

test.describe('An outline', () => {
  const test = testAs('tomasz');

  test('is kept while it is not saved, and put together with what somebody else changed', async ({
    page,
    elsewhere,
  }) => {
    const topic = await newTopic(page, 'Begun.');
    const { key } = await make(page, 'post', '/publications', { title: `Book ${randomUUID().slice(0, 8)}` });
    const name = page.getByLabel('Title of the publication');
    await visit(page, `/publications/${key}`);
    await name.fill('A title of mine');
    await expect(page.getByText('not saved')).toBeVisible();
    await page.reload();
    await expect(name).toHaveValue('A title of mine');
    const colleague = await elsewhere('tomasz');
    await make(colleague, 'put', `/publications/${key}`, {
      base: 1,
      title: 'Book',
      values: {},
      entries: [{ id: 'e1', topic }],
    });
    await expect(page.getByText('Somebody saved revision 2 while you change this.')).toBeVisible();
    await page.keyboard.press('Control+S');
    await expect(page.getByText('You both changed the title.')).toBeVisible();
    await page.getByRole('button', { name: 'Keep mine' }).click();
    await expect(page.getByText('“A title of mine” is saved as revision 3.')).toBeVisible();
    await expect(page.getByRole('rowheader', { name: `Topic ${topic}` })).toBeVisible();
  });
});

test('What was placed or pasted and not saved is drawn after a reload, whatever the saved page refers to', async ({
  page,
}) => {
  const text = (words: string) => [{ type: 'text', text: words }];
  const snippet = `s-${randomUUID().slice(0, 12)}`;
  const body = { type: 'fragment', content: [{ type: 'paragraph', content: text(`Words of ${snippet}.`) }] };
  await make(page, 'post', '/components', { kind: 'snippet', key: snippet, title: snippet, body });
  const [from, to] = [await newTopic(page, 'Here.'), await newTopic(page, 'There.')];
  await visit(page, `/edit/${from}`);
  await sheet(page).locator('p').click();
  await insert(page, snippet, new RegExp(snippet));
  await expect(sheet(page)).toContainText(`Words of ${snippet}.`);
  await draftWith(page, `"component":"${snippet}"`.replaceAll('"', '\\"'));
  await page.reload();
  await expect(page.getByText('This is what you wrote earlier and did not save.')).toBeVisible();
  await expect(sheet(page)).toContainText(`Words of ${snippet}.`);

  await sheet(page).press('Control+a');
  // The page learns of it a moment later, and copies what it knows to be selected.
  await expect(page.getByText(/^\d+ of \d+ words$/)).toBeVisible();
  await page.keyboard.press('Control+c');
  await page.context().grantPermissions(['clipboard-read']);
  await expect.poll(() => page.evaluate<string>('navigator.clipboard.readText()')).toContain('Here.');
  await page.goto(`/edit/${to}`);
  await clickInto(page, sheet(page).locator('p'));
  await page.keyboard.press('Control+v');
  await expect(sheet(page)).toContainText(`Words of ${snippet}.`);
});
