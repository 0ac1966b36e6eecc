import { randomUUID } from 'node:crypto';
import { expect, type Page } from '@playwright/test';
import { elsewhere, goTo, lookThrough, make, newTopic, sheet, signIn, visit } from './people.js';
import { testAs, testOnNewPage } from './server.js';

const test = testAs('tomasz');

test.describe('People', () => {
  test('are invited by a link, set things for themselves, and are let in no more', async ({ page, browser }) => {
    const own = `noor-${randomUUID().slice(0, 8)}`;
    await visit(page, '/people');
    await page.getByRole('button', { name: 'Invite' }).click();
    await page.getByLabel('Name', { exact: true }).fill(own);
    await page.getByRole('button', { name: 'Make the link' }).click();
    const link = await page.getByRole('textbox', { name: 'The link' }).inputValue();

    const theirs = await (await browser.newContext()).newPage();
    await theirs.goto(link);
    await expect(theirs.getByText('You are invited to “Fennick Instruments” as a writer.')).toBeVisible();
    await theirs.getByLabel('Name to sign in with').fill(own);
    await theirs.getByLabel('Password').fill('short');
    await theirs.getByRole('button', { name: 'Come in' }).click();
    await expect(theirs.getByText(/A password has at least ten signs/)).toBeVisible();
    await theirs.getByLabel('Password').fill('four words do well');
    await theirs.getByRole('button', { name: 'Come in' }).click();
    await expect(theirs.getByRole('heading', { name: 'Library', exact: true })).toBeVisible();

    // What they set holds at once, and in other windows.
    await goTo(theirs, '/settings');
    await theirs.getByLabel('Dark').check();
    await theirs.getByLabel('Language of dates and numbers').fill('de');
    await theirs.getByLabel('Show the keys').press('Alt+j');
    await theirs.getByRole('button', { name: 'Save', exact: true }).click();
    await expect(theirs.getByText('Your settings are saved.')).toBeVisible();
    await expect(theirs.locator('html')).toHaveClass(/dark/);
    await theirs.keyboard.press('Alt+j');
    const keys = theirs.getByRole('dialog', { name: 'Keys' });
    await expect(keys).toContainText('Alt J');
    await theirs.keyboard.press('Escape');

    await page.reload();
    const row = page.getByRole('row').filter({ hasText: own });
    await row.getByRole('button', { name: /^Let in no more/ }).click();
    await page.getByRole('alertdialog').getByRole('button', { name: 'Let them in no more' }).click();
    await expect(row).toContainText('may not sign in');
    await theirs.goto('/library');
    await expect(theirs.getByRole('heading', { name: 'Sign in' })).toBeVisible();
    await goTo(page, `/people?tab=record&done=${own}`);
    await expect(page.getByRole('row').filter({ hasText: own }).first()).toBeVisible();
  });
});

test.describe('The frame', () => {
  testOnNewPage('begins anew where a part is gone, and says that no server is reached', async ({ page, context }) => {
    await signIn(page, 'ines');
    await page.goto('/library');
    const place = (name: string) => page.getByRole('navigation').getByRole('link', { name, exact: true });
    await expect(page.getByRole('heading', { name: 'Library', exact: true })).toBeVisible();
    // What is open was loaded before: only further parts are gone.
    let isGone = true;
    await context.route(/chunk-.*\.js/, async (route) => {
      if (isGone) await route.fulfill({ status: 404, body: '' });
      else await route.continue();
    });
    await context.setOffline(true);
    await place('Variation').click();
    await expect(page.getByText('This place cannot be loaded, as the server is not reached.')).toBeVisible();
    await expect(page.getByRole('heading', { name: 'Library', exact: true })).toBeVisible();
    await context.setOffline(false);
    // Begun anew, the program asks for the parts that there are.
    page.on('request', (request) => {
      if (request.isNavigationRequest()) isGone = false;
    });
    await place('Publications').click();
    await expect(page.getByRole('heading', { name: 'Publications', exact: true })).toBeVisible();
    expect([new URL(page.url()).pathname, isGone]).toEqual(['/publications', false]);
  });

  test('names each tab after what is open, and says so where nothing is', async ({ page }) => {
    await visit(page, '/edit/care');
    await expect(page).toHaveTitle('Care · Editor · Allomorph');
    await goTo(page, '/publications/observer-handbook');
    await expect(page).toHaveTitle('Observer Handbook · Publication · Allomorph');
    await goTo(page, '/nowhere');
    await expect(page.getByRole('heading', { name: 'There is nothing at this address' })).toBeVisible();
  });

  test('keeps in the address what a colleague should see, and goes back to it', async ({ page, elsewhere }) => {
    await visit(page, '/library');
    await page.getByLabel('Find in the library').fill('battery');
    await page.getByRole('row').filter({ hasText: 'Caution: backup battery' }).first().click();
    await lookThrough(page, 'Dunlin 2, observers, Europe');
    await expect(page).toHaveURL(/find=battery/);
    await expect(page).toHaveURL(/chosen=caution-battery/);
    await expect(page).toHaveURL(/lens=profile/);
    const colleague = await elsewhere('mara');
    await visit(colleague, page.url());
    await expect(colleague.getByLabel('Find in the library')).toHaveValue('battery');
    await expect(colleague.getByRole('heading', { name: 'Caution: backup battery', level: 2 })).toBeVisible();
    await expect(colleague.locator('al-lens-strip')).toContainText('Dunlin 2, observers, Europe');
    await page.goBack();
    await expect(page.locator('al-lens-strip')).toContainText('All content is shown.');
    await expect(page.getByRole('heading', { name: 'Caution: backup battery', level: 2 })).toBeVisible();
  });

  testOnNewPage(
    'is open in more windows than a browser makes connections, and all hear others',
    async ({ page, browser }) => {
      await signIn(page, 'ines');
      const key = await newTopic(page, 'Begun.');
      await page.goto('/bin');
      await expect(page.getByRole('heading', { name: 'Bin' })).toBeVisible();
      const windows = await Promise.all(Array.from({ length: 6 }, () => page.context().newPage()));
      for (const each of windows) {
        await each.goto('/bin');
        await expect(each.getByRole('heading', { name: 'Bin' })).toBeVisible();
      }
      const last = await page.context().newPage();
      await last.goto(`/edit/${key}`);
      await expect(sheet(last)).toContainText('Begun.');
      const colleague = await elsewhere(browser, 'tomasz');
      const saveThere = async (base: number): Promise<void> => {
        const text = (words: string) => [{ type: 'text', text: words }];
        const content = [
          { type: 'title', content: text(`Topic ${key}`) },
          { type: 'paragraph', content: text(`Saved on ${base}.`) },
        ];
        await make(colleague, 'put', `/components/${key}`, {
          base,
          title: `Topic ${key}`,
          body: { type: 'topic', content },
        });
      };
      await saveThere(1);
      await expect(last.getByText('Somebody saved revision 2')).toBeVisible();
      // The window that hears for all of them goes.
      await page.close();
      await saveThere(2);
      await expect(last.getByText('Somebody saved revision 3')).toBeVisible();
      // What content is looked at through is heard of as well.
      const title = `Heard ${randomUUID().slice(0, 8)}`;
      const profile = title.toLowerCase().replace(' ', '-');
      await last.locator('al-lens-strip p-select').click();
      await last.getByPlaceholder('Find a variant or profile').fill(title);
      await make(colleague, 'put', `/profiles/${profile}`, { key: profile, title, axes: {}, base: 0 });
      await expect(last.getByRole('option', { name: title, exact: true })).toBeVisible();
    },
  );

  test('brings what was deleted back out of the bin', async ({ page }) => {
    const title = `Short book ${randomUUID().slice(0, 8)}`;
    const { key } = await make(page, 'post', '/publications', { title });
    await visit(page, `/publications/${key}`);
    await page.getByRole('button', { name: 'Delete the publication' }).click();
    await page.getByRole('alertdialog').getByRole('button', { name: 'Delete' }).click();
    await expect(page.getByText(`“${title}” is in the bin.`)).toBeVisible();
    await goTo(page, `/bin?find=${encodeURIComponent(title)}`);
    await page.getByRole('button', { name: `Bring back ${title}` }).click();
    await goTo(page, '/publications');
    await expect(page.getByRole('link', { name: title })).toBeVisible();
  });
});

test.describe('By the keyboard alone', () => {
  const focused = (page: Page): Promise<string> =>
    page.evaluate<string>(
      `document.activeElement?.getAttribute('aria-label') ?? document.activeElement?.textContent?.trim() ?? ''`,
    );

  testOnNewPage('the content is reached past the rail, and focus comes back from a dialog', async ({ page }) => {
    await signIn(page, 'tomasz');
    await page.goto('/builds');
    await expect(page.getByRole('heading', { name: 'Builds' })).toBeVisible();
    await page.keyboard.press('Tab');
    expect(await focused(page)).toBe('To the content');
    await page.keyboard.press('Enter');
    for (const next of ['Board', 'All builds', 'Build variants']) {
      await page.keyboard.press('Tab');
      expect(await focused(page)).toBe(next);
    }
    await page.keyboard.press('Enter');
    await expect(page.getByRole('dialog', { name: 'Build variants' })).toBeVisible();
    await page.keyboard.press('Escape');
    await expect(page.getByRole('dialog')).toHaveCount(0);
    expect(await focused(page)).toBe('Build variants');
  });

  test('an outline is ordered, folded and saved', async ({ page }) => {
    const topics = [await newTopic(page, 'a'), await newTopic(page, 'b'), await newTopic(page, 'c')];
    const { key } = await make(page, 'post', '/publications', { title: `Keys ${randomUUID().slice(0, 8)}` });
    const entries = topics.map((topic, at) => ({ id: `e${at}`, topic }));
    await make(page, 'put', `/publications/${key}`, { base: 1, title: 'By keys', values: {}, entries });
    await visit(page, `/publications/${key}`);
    const grid = page.getByRole('treegrid', { name: 'Outline' });
    const row = (at: number) => grid.getByRole('row').filter({ hasText: `Topic ${topics[at]}` });
    await expect(row(2)).toBeVisible();
    await grid.focus();
    await page.keyboard.press('End');
    await expect(row(2)).toHaveAttribute('aria-selected', 'true');
    // Again and again, without going back to it.
    await page.keyboard.press('Alt+ArrowUp');
    await page.keyboard.press('>');
    await expect(row(2)).toHaveAttribute('aria-level', '2');
    await page.keyboard.press('ArrowUp');
    await page.keyboard.press('ArrowLeft');
    await expect(row(2)).toHaveCount(0);
    await page.keyboard.press('ArrowRight');
    await expect(row(2)).toBeVisible();
    await page.keyboard.press('Control+s');
    await expect(page.getByText('“By keys” is saved as revision 3.')).toBeVisible();
  });
});

test.describe('In a narrow window', () => {
  test.use({ viewport: { width: 360, height: 740 } });

  test('what stands beside the content is a drawer, which gives the focus back', async ({ page }) => {
    await visit(page, '/edit/care');
    const drawer = page.getByRole('dialog', { name: 'About the place of the cursor' });
    await expect(drawer).toBeHidden();
    await page.getByRole('button', { name: 'Panel' }).click();
    await expect(drawer).toBeVisible();
    await drawer.getByRole('tab', { name: 'Where used' }).click();
    await expect(drawer.locator('.direct a').first()).toBeVisible();
    await page.keyboard.press('Escape');
    await expect(drawer).toBeHidden();
    await expect(page.getByRole('button', { name: 'Panel' }).locator('button, :scope')).toBeFocused();
  });

  test('the lens is a chip that opens', async ({ page }) => {
    await visit(page, '/edit/care');
    await page.locator('al-lens-chip button').click();
    await page.locator('.p-popover p-select').click();
    await page.getByRole('option', { name: 'Dunlin 2, observers, Europe' }).first().click();
    await expect(page.locator('al-lens-chip')).toContainText('Dunlin 2, observers');
  });
});

test('The lens is a free pick of values, which stands in the address', async ({ page }) => {
  await visit(page, '/edit/readings');
  await lookThrough(page, 'Dunlin 2, observers, Europe');
  const strip = page.getByRole('region', { name: 'Lens' });
  await expect(page.getByRole('listbox')).toHaveCount(0);
  await strip.locator('p-select').click();
  await page.getByRole('option', { name: 'Pick values yourself' }).click();
  // It begins with what was looked through.
  await expect(
    page.getByText('Wind', { exact: true }).locator('xpath=ancestor::*[contains(@class, "out")]'),
  ).toHaveCount(1);
  await strip.locator('p-multiselect').first().click();
  await page.getByRole('option', { name: 'Dunlin 4X', exact: true }).click();
  await page.keyboard.press('Escape');
  await expect(page).toHaveURL(/lens=pick:.*product(=|%3D)dunlin-2(,|%2C)dunlin-4x/);
  await expect(
    page.getByText('Wind', { exact: true }).locator('xpath=ancestor::*[contains(@class, "out")]'),
  ).toHaveCount(0);
  await page.reload();
  await expect(strip.getByRole('combobox', { name: 'Product' })).toHaveCount(1);
  await expect(strip).toContainText('Dunlin 2, Dunlin 4X');
  await page.keyboard.press('Alt+l');
  await expect(strip).toContainText('All content is shown.');
});

test('A lens that leaves axes open says what hangs on them, on the page and in the outline', async ({ page }) => {
  const name = randomUUID().slice(0, 8);
  const limited = (when: string, words: string): object => ({
    type: 'paragraph',
    attrs: { when },
    content: [{ type: 'text', text: words }],
  });
  const title = { type: 'title', content: [{ type: 'text', text: `Open ${name}` }] };
  const content = [
    title,
    limited('product is dunlin-2', 'By product.'),
    limited('product is dunlin-4', 'Not for it.'),
    limited('market is europe', 'By market.'),
    limited('not market is europe', 'By no market.'),
  ];
  const { key } = await make(page, 'post', '/components', {
    kind: 'topic',
    title: `Open ${name}`,
    body: { type: 'topic', content },
  });
  await visit(page, `/edit/${key}?lens=pick:product=dunlin-2`);
  const strip = page.getByRole('region', { name: 'Lens' });
  await expect(strip).toContainText('1 block out');
  await expect(strip).toContainText('2 open');
  const line = (words: string) => sheet(page).getByText(words, { exact: true });
  await expect(line('By product.')).not.toHaveClass(/open|out/);
  await expect(line('Not for it.')).toHaveClass(/out/);
  await expect(line('By market.')).toHaveClass(/open/);
  await expect(line('By no market.')).toHaveClass(/open/);
  // Picking a value decides it.
  await strip.getByRole('combobox', { name: 'Market' }).press('Enter');
  await page.getByRole('option', { name: 'Europe', exact: true }).click();
  await page.keyboard.press('Escape');
  await expect(strip).toContainText('2 blocks out');
  await expect(line('By market.')).not.toHaveClass(/open/);

  const book = await make(page, 'post', '/publications', { title: `Open ${name}` });
  const entries = [
    { id: 'e1', title: 'Always' },
    { id: 'e2', title: 'Somewhere', when: 'market is europe' },
  ];
  await make(page, 'put', `/publications/${book.key}`, { base: 1, title: `Open ${name}`, values: {}, entries });
  await goTo(page, `/publications/${book.key}?lens=pick:product=dunlin-2`);
  const rows = page.getByRole('treegrid', { name: 'Outline' }).getByRole('row');
  await expect(rows.filter({ hasText: 'Somewhere' }).getByText('open', { exact: true })).toBeVisible();
  await expect(rows.filter({ hasText: 'Always' }).getByText('open', { exact: true })).toHaveCount(0);
});
