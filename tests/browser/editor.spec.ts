import { randomUUID } from 'node:crypto';
import { expect } from '@playwright/test';
import { draftWith, goTo, insert, lookThrough, make, save, sheet, visit } from './people.js';
import { testAs } from './server.js';

const test = testAs('ines');

test.describe('The editor', () => {
  test('draws what the lens leaves out as a ghost, or folds it to a line that opens', async ({ page }) => {
    await visit(page, '/edit/readings');
    await lookThrough(page, 'Dunlin 2, Europe');
    const wind = sheet(page).locator('section', { hasText: 'Wind speed is shown' });
    await expect(wind).toHaveClass(/out-ghost/);
    await expect(page.getByText('1 block out')).toBeVisible();
    await page.getByRole('button', { name: 'Fold' }).click();
    await expect(wind).toHaveClass(/out-fold/);
    expect((await wind.boundingBox())?.height).toBeLessThan(30);
    await wind.click();
    await expect(wind).toHaveClass(/out-ghost/);
    await page.getByRole('button', { name: 'Ghost' }).click();
    await page.keyboard.press('Alt+l');
    await expect(wind).not.toHaveClass(/out/);
    await expect(page.getByText('Everything, no lens')).toBeVisible();
  });

  test('counts what is out in placed content as well', async ({ page }) => {
    await visit(page, '/edit/parts');
    await lookThrough(page, 'Dunlin 2, Europe, roof');
    await expect(sheet(page).locator('.seam tr.out-ghost')).toHaveCount(2);
    await expect(page.getByText('2 blocks out')).toBeVisible();
  });

  test('limits selected words, and shows the limit as a line under them', async ({ page }) => {
    await visit(page, '/edit/connect');
    const sentence = sheet(page).getByText('Lay the cable so that it cannot chafe.');
    await sentence.dblclick({ position: { x: 12, y: 10 } });
    const context = page.getByRole('complementary', { name: 'About the place of the cursor' });
    await expect(context.getByRole('radio', { name: 'these words' })).toBeChecked();
    await context.getByLabel('As text').fill('market is australai');
    await expect(context.getByText('Nearest defined: “australia”.')).toBeVisible();
    await context.getByLabel('As text').fill('market is australia');
    await context.getByRole('button', { name: 'Apply' }).click();
    await expect(sheet(page).locator('.inline-limit')).toHaveText('Lay');
    await lookThrough(page, 'Dunlin 2, Europe, roof');
    await expect(sheet(page).locator('.out-inline-ghost')).toHaveText('Lay');
  });

  test('limits a column of a table, which a lens then leaves out', async ({ page }) => {
    await visit(page, '/edit/faults');
    const context = page.getByRole('complementary', { name: 'About the place of the cursor' });
    // The demo limits the last column.
    await expect(sheet(page).locator('.column-limit')).toHaveText(['Te Fi Wo']);
    await sheet(page).getByText('Wind stays at 0').click();
    await context.getByRole('radio', { name: 'column 1' }).click();
    await context.getByLabel('As text').fill('market is australia');
    await context.getByRole('button', { name: 'Apply' }).click();
    await expect(sheet(page).locator('.column-limit')).toHaveText(['AU', 'Te Fi Wo']);
    await save(page);
    await page.reload();
    await lookThrough(page, 'Dunlin 4, Europe');
    await expect(sheet(page).locator('th').nth(0)).toHaveAttribute('title', /Out of this lens.*Australia/);
    await expect(sheet(page).locator('th').nth(1)).not.toHaveAttribute('title', /Out/);
    await expect(sheet(page).locator('th').nth(2)).toHaveAttribute('title', /Out of this lens/);
    await context.getByRole('tab', { name: 'Reading' }).click();
    await expect(context.locator('table tr').first()).toHaveText('What to do');
  });

  test('inserts tables, lists and references, and keeps them', async ({ page }) => {
    await visit(page, '/library');
    await page.getByRole('button', { name: 'New component' }).click();
    await page.getByLabel('Title', { exact: true }).fill('Everything at once');
    await page.getByRole('button', { name: 'Create' }).click();
    await sheet(page).locator('p').first().click();
    await insert(page, 'table', /^Table /);
    await page.keyboard.type('Colours');
    await sheet(page).locator('td').first().click();
    await page.keyboard.type('red');
    await page.getByRole('button', { name: 'Row below' }).click();
    await expect(sheet(page).locator('tr')).toHaveCount(4);
    await page.keyboard.press('Control+End');
    await sheet(page).locator('tr').last().locator('td').last().click();
    await insert(page, 'changing the settings', /Changing the settings cross-reference/);
    await page.getByRole('option', { name: /the whole topic/ }).click();
    await expect(sheet(page).locator('.reference')).toHaveText('Changing the settings');
    await save(page);
    await page.reload();
    await expect(sheet(page).locator('figcaption')).toHaveText('Colours');
    await expect(sheet(page).locator('tr')).toHaveCount(4);
    await expect(sheet(page).locator('.reference')).toHaveText('Changing the settings');
  });

  test('lets a cross-reference read by its number, its title or own words', async ({ page }) => {
    await visit(page, '/edit/history');
    const reference = sheet(page).locator('.reference');
    await reference.click();
    const panel = page.locator('al-reference-panel');
    await expect(panel).toContainText('Leads to Taking readings along');
    await panel.locator('p-select').click();
    await page.getByRole('option', { name: 'Own words' }).click();
    await panel.getByRole('textbox', { name: 'Own words' }).fill('the next page');
    await panel.getByRole('textbox', { name: 'Own words' }).press('Tab');
    await expect(reference).toHaveText('the next page');
    await save(page);
    await page.getByRole('tab', { name: 'Reading' }).click();
    await expect(page.locator('al-reading-view')).toContainText('the next page tells how to take them along');
  });

  test('shows held content with its newer revision, and brings it up to date', async ({ page }) => {
    await visit(page, '/edit/restart-topic');
    const seam = sheet(page).locator('.seam');
    await expect(seam).toContainText('held at revision 1; newest is 2');
    await expect(seam).toContainText('Wait ten seconds');
    await seam.locator('li').first().click();
    await page.getByRole('button', { name: 'Bring up to revision 2' }).click();
    await expect(seam).toContainText('Wait thirty seconds');
    await page.getByRole('button', { name: 'Follow the newest' }).click();
    await expect(seam).toContainText('snippet, live');
  });

  test('draws merged cells merged, and keeps held content as it is while somebody saves its source', async ({
    page,
    elsewhere,
  }) => {
    const line = (text: string) => ({ type: 'paragraph', content: [{ type: 'text', text }] });
    const cell = (text: string, attrs: object = {}) => ({ type: 'table_cell', attrs, content: [line(text)] });
    const row = (...content: object[]) => ({ type: 'table_row', content });
    const snippet = (text: string) => ({ title: 'Source', body: { type: 'fragment', content: [line(text)] } });
    const source = await make(page, 'post', '/components', { kind: 'snippet', ...snippet('As it was held.') });
    const title = `Topic ${randomUUID().slice(0, 8)}`;
    const grid = [
      row(cell('wide', { colspan: 2 }), cell('tall', { rowspan: 2 })),
      row(cell('below one'), cell('below two')),
    ];
    const { key } = await make(page, 'post', '/components', {
      kind: 'topic',
      title,
      body: {
        type: 'topic',
        content: [
          { type: 'title', content: [{ type: 'text', text: title }] },
          { type: 'table', content: [{ type: 'table_grid', content: grid }] },
          { type: 'placement', attrs: { component: source.key, mode: 'held', revision: 1 } },
        ],
      },
    });
    await visit(page, `/edit/${key}`);
    const box = async (text: string) =>
      (await sheet(page).getByRole('cell', { name: text }).boundingBox()) ?? { width: 0, height: 0 };
    const [wide, tall, one, two] = [
      await box('wide'),
      await box('tall'),
      await box('below one'),
      await box('below two'),
    ];
    expect(wide.width).toBeCloseTo(one.width + two.width, -1);
    expect(tall.height).toBeCloseTo(wide.height + one.height, -1);

    const colleague = await elsewhere('tomasz');
    await make(colleague, 'put', `/components/${source.key}`, { base: 1, ...snippet('As it is now.') });
    const seam = sheet(page).locator('.seam');
    await expect(seam).toContainText('held at revision 1; newest is 2');
    await expect(seam).toContainText('As it was held.');
  });

  test('loses nothing when two people write the same topic', async ({ page, elsewhere }) => {
    await visit(page, '/edit/care');
    await sheet(page).getByText('Wipe the sensor head').click();
    await page.keyboard.press('End');
    await page.keyboard.type(' Use rainwater.');

    const other = await elsewhere('tomasz');
    await visit(other, '/edit/care');
    await sheet(other).getByText('Wipe the sensor head').click();
    await other.keyboard.press('End');
    await other.keyboard.type(' Dry it afterwards.');
    await save(other);

    await expect(page.getByText(/Somebody saved revision 2/)).toBeVisible();
    // Labels belong to no revision: saving them does not put the page on the newest one.
    await page.getByRole('tab', { name: 'Where used' }).click();
    await page.getByLabel('Tags').fill('subject: rain');
    await page.getByRole('button', { name: 'Save the labels' }).click();
    await expect(page.getByText(/labels/i).filter({ hasText: 'saved' })).toBeVisible();
    await page.getByRole('button', { name: 'Save', exact: true }).click();
    const versions = page.getByRole('dialog', { name: 'Two versions' });
    await expect(versions).toContainText('Dry it afterwards.');
    await expect(versions).toContainText('Use rainwater.');
    await versions.getByRole('button', { name: 'Save yours on top' }).click();
    await expect(page.getByText('Saved as revision 3.')).toBeVisible();
    await page.getByRole('tab', { name: 'History' }).click();
    await expect(page.locator('.history li')).toHaveCount(3);
  });

  test('keeps what was not saved when the window is closed', async ({ page }) => {
    await visit(page, '/edit/help');
    await sheet(page).locator('h2').first().click();
    await page.keyboard.press('End');
    await page.keyboard.type(' soon');
    await expect(page.getByText('not saved')).toBeVisible();
    await draftWith(page, 'help soon');
    page.on('dialog', (dialog) => void dialog.accept());
    await page.reload();
    await expect(page.getByText('This is what you wrote earlier and did not save.')).toBeVisible();
    await expect(sheet(page).locator('h2').first()).toContainText('help soon');
    await page.getByRole('button', { name: 'Discard it' }).click();
    await expect(sheet(page).locator('h2').first()).toHaveText('When you need help');
  });

  test('forgets what was written when somebody leaves and discards it', async ({ page }) => {
    await visit(page, '/edit/glossary');
    await sheet(page).locator('h2').first().click();
    await page.keyboard.press('End');
    await page.keyboard.type(' and more');
    await draftWith(page, 'Words and more');
    await page.getByRole('link', { name: 'Variables' }).click();
    await page.getByRole('alertdialog').getByRole('button', { name: 'Stay' }).click();
    await expect(sheet(page).locator('h2').first()).toHaveText('Words and more');
    await page.getByRole('link', { name: 'Variables' }).click();
    await page.getByRole('alertdialog').getByRole('button', { name: 'Leave and discard' }).click();
    await expect(page.getByRole('heading', { name: 'Variables', exact: true })).toBeVisible();
    await goTo(page, '/edit/glossary');
    await expect(sheet(page).locator('h2').first()).toHaveText('Words');
    await expect(page.getByText('This is what you wrote earlier')).toHaveCount(0);
  });

  test('refuses to put a snippet inside itself, and says the way', async ({ page }) => {
    await visit(page, '/edit/caution-battery');
    await sheet(page).getByText('Use only batteries').click();
    await insert(page, 'disposal', /^Disposal/);
    await page.getByRole('button', { name: 'Save', exact: true }).click();
    await expect(
      page.getByText(/inside itself: “Caution: backup battery” › “Disposal” › “Caution: backup battery”/),
    ).toBeVisible();
  });

  test('turns own text into a snippet, and a placement into own text', async ({ page }) => {
    await visit(page, '/library');
    await page.getByRole('button', { name: 'New component' }).click();
    await page.getByLabel('Title', { exact: true }).fill('Updating in the field');
    await page.getByRole('button', { name: 'Create' }).click();
    await sheet(page).locator('p').first().click();
    await page.keyboard.type('The update takes ten minutes.');
    await page.getByRole('button', { name: 'Make a snippet of it' }).click();
    await page.getByLabel('Title of the snippet').fill('Duration of the update');
    await page.getByRole('button', { name: 'Make the snippet' }).click();
    const seam = sheet(page).locator('.seam').filter({ hasText: 'Duration of the update' });
    await expect(seam).toContainText('The update takes ten minutes.');
    await save(page);
    await page.reload();
    await seam.getByText('The update takes ten minutes.').click();
    await page.getByRole('button', { name: 'Turn into own text' }).click();
    await expect(seam).toHaveCount(0);
    const copy = sheet(page).locator('[data-node=copied]');
    await expect(copy).toContainText('The update takes ten minutes.');
    await copy.getByText('The update takes').click();
    await page.keyboard.press('End');
    await page.keyboard.type(' Stay near.');
    await save(page);
    await expect(copy).toContainText('Stay near.');
  });

  testAs('mara')('lets reviewers read and change nothing', async ({ page }) => {
    await visit(page, '/edit/care');
    await expect(sheet(page)).toHaveAttribute('contenteditable', 'false');
    await expect(page.getByRole('button', { name: 'Save', exact: true })).toHaveCount(0);
    await expect(page.getByText('You read as a reviewer.')).toBeVisible();
  });
});
