import { randomUUID } from 'node:crypto';
import { readFile } from 'node:fs/promises';
import { expect, type Page } from '@playwright/test';
import { strFromU8, strToU8, unzipSync, zipSync } from 'fflate';
import { buildVariant, goTo, lookThrough, make, openPlace, sheet, takeBack, visit } from './people.js';
import { testAs } from './server.js';

const test = testAs('tomasz');
const testAsWriter = testAs('ines');

test.describe('The library', () => {
  testAsWriter('finds, filters, and refuses to delete what is used', async ({ page }) => {
    await visit(page, '/library');
    await page.getByLabel('Find in the library').fill('lightning');
    await page.getByRole('row').filter({ hasText: 'Danger: lightning' }).first().click();
    const preview = page.getByRole('complementary', { name: 'Selected component' });
    await expect(preview).toContainText('lightning');
    await preview.getByRole('button', { name: 'Delete' }).click();
    const told = page.getByRole('alertdialog', { name: '“Danger: lightning” is used' });
    await expect(told).toContainText('“For your safety”');
    await expect(told.getByRole('button', { name: 'Delete' })).toHaveCount(0);
    await told.getByRole('button', { name: 'Close' }).last().click();

    await page.getByLabel('Find in the library').fill('');
    await page.getByRole('button', { name: /^Filters/ }).click();
    await page.getByRole('combobox', { name: 'Usage' }).click();
    await page.getByRole('option', { name: 'Unused' }).click();
    await page.getByRole('button', { name: 'Snippets' }).click();
    await page.getByRole('row').filter({ hasText: 'How to reach us (2024)' }).click();
    await expect(preview).toContainText('How to reach us (2024)');
    await preview.getByRole('button', { name: 'Delete' }).click();
    await page.getByRole('alertdialog').getByRole('button', { name: 'Delete' }).click();
    await expect(page.getByRole('row').filter({ hasText: '2024' })).toHaveCount(0);
    await takeBack(page, '“How to reach us (2024)” is in the bin.');
    await expect(page.getByRole('row').filter({ hasText: '2024' })).toHaveCount(1);
  });

  testAsWriter('makes a new component of one', async ({ page }) => {
    await visit(page, '/library?chosen=care');
    const preview = page.getByRole('complementary', { name: 'Selected component' });
    const title = (await preview.getByRole('heading', { level: 2 }).first().textContent())?.trim() ?? '';
    await preview.getByRole('button', { name: 'Duplicate' }).click();
    await expect(page).toHaveURL(/\/edit\//);
    await expect(sheet(page).locator('[data-node=title]').first()).toHaveText(`${title} (copy)`);
  });

  testAsWriter('is reached from anywhere by the find box', async ({ page }) => {
    await openPlace(page, '/library', 'h1');
    await page.keyboard.press('Control+k');
    await page.keyboard.type('torque');
    await page.getByRole('option', { name: /Torque of the bracket bolts/ }).click();
    await expect(page).toHaveURL(/variables\?key=bolt-torque/);
    await expect(page.getByRole('heading', { name: 'Torque of the bracket bolts' })).toBeVisible();
  });
});

test.describe('Variables', () => {
  testAsWriter('are changed case by case', async ({ page }) => {
    await visit(page, '/variables?key=warranty');
    await page.getByRole('button', { name: 'Add a case' }).click();
    const rule = page.locator('.rule').nth(1);
    await rule.getByRole('textbox', { name: 'Value of case 2' }).click();
    await page.keyboard.type('36 months');
    await rule.getByRole('button', { name: 'Australia' }).click();
    await page.getByRole('button', { name: 'Save', exact: true }).click();
    await expect(page.getByText(/“Warranty” is saved as revision \d+/)).toBeVisible();
    await expect(page.getByRole('row').filter({ hasText: 'warranty' })).toContainText('36 months');
    await lookThrough(page, 'Dunlin 4 family, Australia, mast');
    await expect(page.getByRole('row').filter({ hasText: 'warranty' }).locator('.case.used')).toContainText(
      '36 months',
    );
  });
});

test.describe('Variation', () => {
  test('is kept by keepers: axes, values and profiles', async ({ page }) => {
    await visit(page, '/variation');
    await page.getByRole('button', { name: 'New axis' }).click();
    await page.getByLabel('Title').fill('Link');
    await page.getByRole('button', { name: 'Save' }).click();
    await page.getByRole('row').filter({ hasText: 'Link' }).hover();
    await page.getByRole('button', { name: 'Add a value to Link' }).click();
    await page.getByLabel('Title').fill('Cellular');
    await page.getByRole('button', { name: 'Save' }).click();
    const cell = page.getByRole('button', { name: /^Cellular in Dunlin 2, observers, Europe/ });
    await expect(cell).toHaveAccessibleName(/: in, inherited$/);
    await cell.click();
    await expect(cell).toHaveAccessibleName(/: in, own mark$/);
    await cell.click();
    await expect(cell).toHaveAccessibleName(/: out, own mark$/);

    await page.getByRole('button', { name: 'Move Cellular up' }).focus();
    await page.getByRole('button', { name: 'Add a value to Link' }).click();
    await page.getByLabel('Title').fill('Radio');
    await page.getByRole('button', { name: 'Save' }).click();
    const order = (): Promise<string[]> =>
      page.getByRole('rowheader', { name: /^(Ce Cellular|Ra Radio)/ }).allInnerTexts();
    await expect.poll(async () => (await order()).join()).toMatch(/Cellular[^]*Radio/);
    await page
      .getByRole('rowheader', { name: /^Ra Radio/ })
      .dragTo(page.getByRole('rowheader', { name: /^Ce Cellular/ }), {
        targetPosition: { x: 60, y: 2 },
      });
    await expect.poll(async () => (await order()).join()).toMatch(/Radio[^]*Cellular/);
  });

  test('a value is retired, or merged with everything that names it, and that is taken back', async ({ page }) => {
    const axis = `deck-${randomUUID().slice(0, 8)}`;
    const value = (key: string): object => ({ key, title: `${key} of ${axis}`, code: 'X', colour: 0, pattern: 0 });
    await make(page, 'put', `/axes/${axis}`, {
      key: axis,
      title: axis,
      values: [value('teak'), value('oak')],
      base: 0,
    });
    const text = (words: string): object[] => [{ type: 'text', text: words }];
    const { key } = await make(page, 'post', '/components', {
      kind: 'topic',
      title: `Care of ${axis}`,
      body: {
        type: 'topic',
        content: [
          { type: 'title', content: text(`Care of ${axis}`) },
          { type: 'paragraph', attrs: { when: `${axis} is teak` }, content: text('Oil the teak.') },
          { type: 'paragraph', attrs: { when: `${axis} is teak, oak` }, content: text('Sweep it.') },
        ],
      },
    });
    await visit(page, '/variation');
    const teak = page.getByRole('rowheader', { name: `teak of ${axis}` });
    await expect(teak).toContainText('in 1');
    await expect(page.getByRole('rowheader', { name: `oak of ${axis}` })).toContainText('in 1');
    const ask = async (): Promise<void> => {
      await teak.hover();
      await page.getByRole('button', { name: `Retire or merge teak of ${axis}` }).click();
    };
    await ask();
    const dialog = page.getByRole('dialog');
    await expect(dialog).toContainText('2 conditions in 1 place are rewritten:');
    await expect(dialog).toContainText('1 passage is only for it and goes with it: “Oil the teak.”');
    await dialog.getByRole('button', { name: 'Retire' }).click();
    await expect(page.getByText(`Retired “teak of ${axis}” of ${axis}.`)).toBeVisible();
    await expect(teak).toHaveCount(0);
    await goTo(page, `/edit/${key}`);
    await expect(sheet(page)).toContainText('Sweep it.');
    await expect(sheet(page)).not.toContainText('Oil the teak.');

    await goTo(page, '/variation');
    await page.getByRole('listitem').filter({ hasText: axis }).getByRole('button', { name: 'Take back' }).click();
    await expect(page.getByText('Taken back: everything is as it was.')).toBeVisible();
    await expect(teak).toContainText('in 1');

    // By the keyboard alone.
    await teak.getByRole('button', { name: /^Retire or merge/ }).focus();
    await page.keyboard.press('Enter');
    await dialog.getByLabel('What takes its place').focus();
    await page.keyboard.press('ArrowDown');
    await expect(page.getByRole('option', { name: 'nothing: retire it' })).toHaveClass(/p-focus/);
    await page.keyboard.press('ArrowDown');
    await expect(page.getByRole('option', { name: /merge it$/ })).toHaveClass(/p-focus/);
    await page.keyboard.press('Enter');
    await expect(dialog).toContainText('Merged: each condition');
    await expect(dialog).not.toContainText('only for it');
    // A list that is closing gives the focus back to its field.
    await expect(page.getByRole('listbox')).toHaveCount(0);
    await dialog.getByRole('button', { name: 'Merge' }).press('Enter');
    await expect(
      page.getByText(`Merged “teak of ${axis}” of ${axis} into “oak of ${axis}”.`, { exact: true }),
    ).toBeVisible();
    await goTo(page, `/edit/${key}`);
    await expect(sheet(page)).toContainText('Oil the teak.');
  });
});

test('The vocabulary is saved as files of an open standard, and files of other teams are taken over', async ({
  page,
}) => {
  await visit(page, '/variation');
  const saved = page.waitForEvent('download');
  await page.getByRole('button', { name: 'Download as files' }).click();
  const zip = await readFile(await (await saved).path());
  const files = unzipSync(zip);
  expect(strFromU8(files['vocabulary.ditamap'] ?? new Uint8Array())).toContain('<attributedef name="product"/>');
  expect(Object.keys(files).filter((name) => name.endsWith('.ditaval')).length).toBeGreaterThan(3);

  const load = (...given: readonly { readonly name: string; readonly text: string | Buffer }[]) =>
    page
      .getByLabel('Files of a vocabulary')
      .setInputFiles(given.map(({ name, text }) => ({ name, mimeType: 'text/xml', buffer: Buffer.from(text) })));
  const dialog = page.getByRole('dialog', { name: 'Load a vocabulary' });
  await load({ name: 'all.zip', text: zip });
  await expect(dialog).toContainText('All that the files say is here already.');
  await dialog.getByRole('button', { name: 'Cancel' }).click();

  const scheme = `<subjectScheme><subjectdef keys="finish" navtitle="Finish"><subjectdef keys="enamel" navtitle="Enamel"/>
    <subjectdef keys="bare" navtitle="Bare metal"/></subjectdef></subjectScheme>`;
  const ditaval = `<val><prop att="finish" action="exclude"/><prop att="finish" val="enamel" action="include"/>
    <prop att="mounting" val="mast" action="flag"/></val>`;
  await load({ name: 'finish.ditamap', text: scheme }, { name: 'Enamelled on masts.ditaval', text: ditaval });
  await expect(dialog).toContainText('Finish: a new axis with 2 values');
  await expect(dialog).toContainText('Enamelled on masts: a new profile');
  await expect(dialog).toContainText('flagging of mounting mast is not kept');
  await dialog.getByRole('button', { name: 'Take it over' }).click();
  await expect(dialog).toBeHidden();
  await expect(page.getByRole('button', { name: /^Bare metal in Enamelled on masts/ })).toHaveAccessibleName(
    /: out, inherited$/,
  );
  await expect(page.getByRole('button', { name: /^Enamel in Enamelled on masts/ })).toHaveAccessibleName(
    /: in, own mark$/,
  );

  await load({ name: 'broken.ditaval', text: '<val><prop></val>' });
  await expect(page.getByText(/The XML is not well formed/)).toBeVisible();
});

test.describe('A publication', () => {
  const order = async (page: Page): Promise<string[]> => page.locator('.entry-title').allInnerTexts();

  test('has an outline that is ordered by dragging and by keys', async ({ page }) => {
    await visit(page, '/publications/installation-guide');
    const node = (title: string) =>
      page.locator('al-outline-grid .row').filter({ has: page.getByText(title, { exact: true }) });
    await expect(node('Choosing the place')).toBeVisible();
    await expect
      .poll(async () => (await order(page)).slice(0, 3))
      .toEqual(['For your safety', 'What is in the box', 'Choosing the place']);

    // Dropped on another entry it goes below that one.
    await node('Handing over').dragTo(node('Checklist for installers'));
    await expect(node('Handing over')).toHaveAttribute('aria-level', '2');
    await expect(page.getByText('not saved')).toBeVisible();

    await node('Choosing the place').click();
    await page.keyboard.press('Alt+ArrowUp');
    await expect
      .poll(async () => (await order(page)).slice(0, 3))
      .toEqual(['For your safety', 'Choosing the place', 'What is in the box']);

    await page.getByRole('complementary').getByRole('button', { name: 'Dunlin 2', exact: true }).click();
    const cells = node('Choosing the place').locator('.cell');
    await expect(cells.nth(0)).toHaveText(/^in/);
    await expect(cells.nth(1)).toHaveText('out');
    await page.getByRole('button', { name: 'Save', exact: true }).click();
    await expect(page.getByText(/“Installation Guide” is saved as revision \d+/)).toBeVisible();
    await page.reload();
    await expect(node('Choosing the place').locator('.lane')).toHaveText('D2');
    await expect
      .poll(async () => (await order(page)).slice(0, 3))
      .toEqual(['For your safety', 'Choosing the place', 'What is in the box']);
  });

  test('shows how much of each entry a variant has, and which conditions do nothing', async ({ page }) => {
    await visit(page, '/publications/observer-handbook');
    const cells = page.locator('al-outline-grid .row').filter({ hasText: 'Reading the values' }).locator('.cell');
    await expect(cells.nth(0)).toHaveText(/^in, \d+ of \d+ blocks$/);
    await expect(cells.nth(1)).toHaveText('in');
    const finding = page
      .locator('.findings li')
      .filter({ hasText: 'No variant of this publication lets this through.' })
      .first();
    await finding.getByRole('link').click();
    await expect(page).toHaveURL(/\/edit\//);
  });

  test('is imported from a ZIP, with a report of what was not known', async ({ page }) => {
    await visit(page, '/publications');
    await page.getByRole('button', { name: 'Import a manual' }).click();
    const xml =
      '<book><title>Old</title><chapter id="c"><title>C</title><para os="linux">x</para><weather>y</weather></chapter></book>';
    await page.getByLabel('ZIP file').setInputFiles({
      name: 'old.zip',
      mimeType: 'application/zip',
      buffer: Buffer.from(zipSync({ 'old.xml': strToU8(xml) })),
    });
    await page.getByLabel('Title of the publication').fill('Old manual');
    await page.getByRole('button', { name: 'Import', exact: true }).click();
    await expect(page.getByText('<weather> is not known here; its text was kept.')).toBeVisible();
    await page.getByRole('link', { name: 'Open the publication' }).click();
    await expect(page.locator('.entry-title')).toHaveText(['C']);

    await goTo(page, '/publications');
    await page.getByRole('button', { name: 'Import a manual' }).click();
    await page
      .getByLabel('ZIP file')
      .setInputFiles({ name: 'bad.zip', mimeType: 'application/zip', buffer: Buffer.from('no zip') });
    await page.getByLabel('Title of the publication').fill('Bad');
    await page.getByRole('button', { name: 'Import', exact: true }).click();
    await expect(page.getByText('The file is not a ZIP archive that can be read.')).toBeVisible();
  });
});

test.describe('Builds', () => {
  test('show their problems with the way to the place to mend them', async ({ page }) => {
    await visit(page, '/builds');
    await buildVariant(page, /Service Manual: Dunlin 4X/);
    const detail = page.getByRole('complementary', { name: 'Chosen build' });
    await expect(detail).toContainText('The variant stops at errors, and the build has some.');
    await detail.getByRole('listitem').filter({ hasText: 'austraila' }).getByRole('link', { name: 'Go there' }).click();
    await expect(page).toHaveURL(/edit\/checklist\?block=/);
    await expect(sheet(page).locator('.ProseMirror-selectednode')).toContainText('licensed electrician');
  });
});

test.describe('Compare', () => {
  testAs('mara')('shows what reads differently in two variants, and leads to the source', async ({ page }) => {
    await visit(page, '/compare');
    const choose = async (which: string, option: string): Promise<void> => {
      await expect(page.getByRole('listbox')).toHaveCount(0);
      await page
        .locator('.choice p-select')
        .nth(which === 'First' ? 0 : 1)
        .click();
      await page.getByRole('option', { name: option, exact: true }).first().click();
    };
    await choose('First', 'Dunlin 2, Europe');
    await choose('Second', 'Dunlin 4, Europe');
    const welcome = page.locator('.entry').filter({ hasText: 'Welcome to your' });
    await expect(welcome.locator('del').first()).toHaveText('2');
    await expect(welcome.locator('ins').first()).toHaveText('4');
    const readings = page.locator('.entry').filter({ hasText: 'Reading the values' });
    await expect(readings.locator('ins').filter({ hasText: 'Wind speed is shown' })).toBeVisible();
    await readings.locator('.passage').filter({ hasText: 'Wind speed is shown' }).getByRole('link').click();
    await expect(page).toHaveURL(/edit\/readings\?block=/);
  });
});

test.describe('Every place', () => {
  // With what shows once everything is read.
  const places = [
    ['/library', 'tbody tr:nth-child(2)'],
    ['/edit/mount-mast', 'text=Put the bracket around'],
    ['/variables?key=mains', 'text=120 V, 60 Hz'],
    ['/variation', 'text=North America'],
    ['/publications', 'text=Observer Handbook'],
    ['/publications/observer-handbook?entry=e7', 'text=Own title'],
    ['/design?part=heads', 'al-setting-row'],
    ['/builds', 'al-build-board tbody'],
    ['/compare', '.choice p-select'],
  ] as const;
  test('has no errors in the console and asks nothing of other servers', async ({ page }) => {
    const complaints: string[] = [];
    page.on('console', (message) => {
      if (message.type() === 'error') complaints.push(message.text());
    });
    page.on('pageerror', (error) => complaints.push(error.message));
    page.on('request', (request) => {
      const { hostname, protocol } = new URL(request.url());
      if (protocol.startsWith('http') && hostname !== '127.0.0.1') complaints.push(request.url());
    });
    await page.goto('/bin');
    for (const [place, shows] of places) await openPlace(page, place, shows);
    expect(complaints).toEqual([]);
  });
});

test('The form of a variant fits a narrow window, and keeps one more format', async ({ page }) => {
  await visit(page, '/publications/service-manual');
  await page.locator('.variant').getByRole('button', { name: 'Change' }).first().click();
  const dialog = page.getByRole('dialog', { name: 'Variant' });
  await dialog.getByLabel('Word').click();
  await page.setViewportSize({ width: 360, height: 740 });
  const inWindow = async (): Promise<boolean> => {
    const box = await dialog.boundingBox();
    return box !== null && box.x >= 0 && box.x + box.width <= 360;
  };
  await expect.poll(inWindow).toBe(true);
  await expect(dialog.getByLabel('Title', { exact: true })).toBeInViewport({ ratio: 1 });
  await dialog.getByRole('button', { name: 'Save' }).click();
  await expect(dialog).toBeHidden();
  await page.setViewportSize({ width: 1280, height: 800 });
  await page.locator('.variant').getByRole('button', { name: 'Build', exact: true }).first().click();
  await expect(page.getByText('Markdown, Word')).toBeVisible();
});

test('A deliverable shows its pictures and its own fonts when it is browsed', async ({ page }) => {
  await visit(page, '/publications/installation-guide');
  await page
    .locator('.variant')
    .filter({ hasText: 'Australia' })
    .getByRole('button', { name: 'Build', exact: true })
    .click();
  const browse = page.getByRole('link', { name: 'Open Web site' });
  await expect(browse).toBeVisible();
  const [deliverable] = await Promise.all([page.context().waitForEvent('page'), browse.click()]);
  await deliverable
    .getByRole('link', { name: /Mounting on a mast/ })
    .first()
    .click();
  const picture = deliverable.getByRole('img', { name: /Two clamps/ });
  await expect(picture).toBeVisible();
  expect(await picture.evaluate((image) => (image as unknown as { naturalWidth: number }).naturalWidth)).toBe(420);
  expect(await deliverable.evaluate(`document.fonts.load('16px "Own serif"').then((fonts) => fonts.length)`)).toBe(1);
});
