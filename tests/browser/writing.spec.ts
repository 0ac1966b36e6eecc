import { randomUUID } from 'node:crypto';
import { expect, type Page } from '@playwright/test';
import { findings } from '../support/accessibility.js';
import { clickInto, insert, make, newTopic, nothingMoves, save, selectionKnown, sheet, visit } from './people.js';
import { testAs } from './server.js';

const test = testAs('ines');

const text = (words: string) => ({ type: 'text', text: words });
const paragraph = (words: string) => ({ type: 'paragraph', content: words === '' ? [] : [text(words)] });
const titled = (words: string) => ({ type: 'title', content: [text(words)] });

/** A topic of one's own, opened by a writer. */
async function open(page: Page, ...flow: readonly object[]): Promise<void> {
  const title = `W ${randomUUID().slice(0, 8)}`;
  const body = { type: 'topic', content: [titled(title), ...flow] };
  const { key } = await make(page, 'post', '/components', { kind: 'topic', title, body });
  await visit(page, `/edit/${key}`);
  await expect(sheet(page)).toContainText(title);
}

/** The cursor behind some words. */
async function behind(page: Page, words: string): Promise<void> {
  await clickInto(page, sheet(page).getByText(words, { exact: true }));
  await page.keyboard.press('End');
  await selectionKnown(page);
}

test('A procedure is written by the keyboard alone, from title to warning, and stays as it was written', async ({
  page,
}) => {
  await open(page, paragraph(''));
  await sheet(page).locator('p').click();
  await page.keyboard.type('Before you begin, read "Safety".');
  await page.keyboard.press('Enter');
  await page.keyboard.type('1. Switch it off.');
  await page.keyboard.press('Enter');
  await page.keyboard.type('Wait.');
  await page.keyboard.press('Enter');
  await page.keyboard.press('Tab');
  await page.keyboard.type('Count to ten.');
  for (let times = 0; times < 3; times += 1) await page.keyboard.press('Enter');
  await page.keyboard.type('Done -- at last.');
  await page.keyboard.press('Enter');
  await page.keyboard.type('# Afterwards');
  await page.keyboard.press('Enter');
  await page.keyboard.type('| Part | Count |');
  await page.keyboard.press('Enter');
  await page.keyboard.type('Screw');
  await page.keyboard.press('Tab');
  await page.keyboard.type('4');
  await page.keyboard.press('Tab');
  await page.keyboard.type('Nut');
  await page.keyboard.press('Control+Enter');
  await page.keyboard.type('The end.');
  await save(page);
  await page.reload();
  await expect(sheet(page).locator('p').first()).toHaveText('Before you begin, read “Safety”.');
  await expect(sheet(page).locator('ol ol')).toHaveText('Count to ten.');
  await expect(sheet(page).getByText('Done – at last.')).toBeVisible();
  await expect(sheet(page).locator('section h2')).toHaveText('Afterwards');
  await expect(sheet(page).locator('tr')).toHaveCount(3);
  await expect(sheet(page).locator('tr').last()).toContainText('Nut');
  await expect(sheet(page).locator('section > p')).toHaveText('The end.');
});

test('What is typed right after the key of the insert menu goes into the menu', async ({ page }) => {
  await open(page, paragraph('Start'), paragraph(''));
  await sheet(page).locator('p').last().click();
  await page.keyboard.type('/tip');
  const field = page.getByRole('combobox', { name: 'Find something to insert' });
  await expect(field).toHaveValue('tip');
  await page.keyboard.press('Enter');
  await page.keyboard.type('Mind the step.');
  await expect(sheet(page).locator('aside')).toHaveText('Mind the step.');
});

test('What the browser itself does at the edges is what is wanted', async ({ page }) => {
  const placed = { type: 'placement', attrs: { component: 'notice-sun' } };
  await open(page, paragraph('one'), placed, paragraph('two'), { type: 'code_block', content: [text('a\nb')] });
  await behind(page, 'one');
  await page.keyboard.press('Backspace');
  await expect(sheet(page).locator('p').first()).toHaveText('on');
  await page.keyboard.press('Home');
  await page.keyboard.type('(');
  await page.keyboard.press('End');
  await page.keyboard.type(')');
  await expect(sheet(page).locator('p').first()).toHaveText('(on)');
  // Past what is placed and out of it again, and nothing typed is lost.
  await page.keyboard.press('ArrowRight');
  await expect(sheet(page).locator('.ProseMirror-selectednode')).toHaveCount(1);
  await page.keyboard.press('ArrowRight');
  await page.keyboard.type('x');
  await expect(sheet(page).locator(':scope > p').nth(1)).toHaveText('xtwo');
  await page.keyboard.press('Delete');
  await expect(sheet(page).locator(':scope > p').nth(1)).toHaveText('xwo');
  await page.keyboard.press('ArrowDown');
  await page.keyboard.type('c');
  await expect(sheet(page).locator('pre')).toContainText('c');
});

test('What is copied in a browser from another page is pasted as blocks, and what is left out is told', async ({
  page,
}) => {
  await open(page, paragraph(''));
  const other = await page.context().newPage();
  await other.setContent(
    '<h2>Mounting</h2><p>Take the <b>long</b> screws.</p><ol><li>Drill.</li><li>Screw.</li></ol>' +
      '<table><tr><th>Screw</th><th>mm</th></tr><tr><td>A</td><td>4</td></tr></table><h3>After</h3>' +
      '<pre class="language-sh">a\nb</pre><img alt="" src="https://pictures.invalid/x.gif">',
  );
  await other.keyboard.press('Control+A');
  await other.keyboard.press('Control+C');
  await other.close();
  await clickInto(page, sheet(page).locator('p'));
  await page.keyboard.press('Control+V');
  await expect(page.getByText('Left out of what was pasted: a picture.')).toBeVisible();
  await save(page);
  await page.reload();
  const section = sheet(page).locator(':scope > section');
  await expect(section.locator(':scope > h2')).toHaveText('Mounting');
  await expect(section.locator('strong')).toHaveText('long');
  await expect(section.locator('ol > li')).toHaveText(['Drill.', 'Screw.']);
  await expect(section.locator('th')).toHaveText(['Screw', 'mm']);
  await expect(section.locator('section h2')).toHaveText('After');
  await expect(section.locator('section pre')).toContainText('a');
});

test('A block becomes another kind by the list of kinds, and the page says what it is', async ({ page }) => {
  await open(page, paragraph('Hot surface.'), paragraph('Wait.'));
  const kind = page.getByRole('combobox', { name: 'Kind of block' });
  await behind(page, 'Hot surface.');
  await expect(kind).toHaveValue('paragraph');
  await kind.selectOption('Warning');
  await expect(sheet(page).locator('aside')).toHaveText('Hot surface.');
  await expect(kind).toHaveValue('warning');
  await page.keyboard.press('Control+Z');
  await expect(sheet(page).locator('aside')).toHaveCount(0);
  await behind(page, 'Wait.');
  // The page knows where the cursor is when what is typed stands there.
  await page.keyboard.type(' Then go.');
  await expect(sheet(page).getByText('Wait. Then go.', { exact: true })).toBeVisible();
  await kind.selectOption('Steps');
  await save(page);
  await page.reload();
  await expect(sheet(page).locator('ol > li')).toHaveText('Wait. Then go.');
});

test('The structure of a page is walked, folded and changed, by the mouse and by the keyboard', async ({ page }) => {
  const section = (title: string, ...flow: readonly object[]) => ({
    type: 'section',
    content: [titled(title), ...flow],
  });
  await open(page, paragraph('Start'), section('One', paragraph('first')), section('Two', paragraph('second')));
  await page.getByRole('tab', { name: 'Structure' }).click();
  const tree = page.getByRole('tree', { name: 'Structure of the page' });
  const row = (name: RegExp) => tree.getByRole('treeitem', { name });
  await row(/section Two/).click();
  await expect(row(/section Two/)).toHaveAttribute('aria-selected', 'true');
  await tree.focus();
  await page.keyboard.press('Shift+Alt+ArrowUp');
  await expect(sheet(page).locator('section h2')).toHaveText(['Two', 'One']);
  await page.keyboard.press('ArrowLeft');
  await expect(row(/section Two/)).toHaveAttribute('aria-expanded', 'false');
  await expect(row(/paragraph second/)).toHaveCount(0);
  await row(/paragraph Start/).dragTo(row(/section One/));
  await expect(sheet(page).locator('section').last()).toContainText('Start');
  await sheet(page).getByText('Start').click();
  await page.keyboard.press('Control+Z');
  await expect(sheet(page).locator(':scope > p')).toHaveText('Start');
  await expect.poll(() => page.evaluate<boolean>(nothingMoves)).toBe(true);
  expect(await findings(page)).toEqual([]);
});

test('Words are found and replaced on the page, by the keyboard, and one undo takes it back', async ({ page }) => {
  await open(page, paragraph('The mast and the Mast.'), paragraph('Masts stand.'));
  await behind(page, 'Masts stand.');
  await page.keyboard.press('Control+F');
  const bar = page.getByRole('search', { name: 'Find on this page' });
  // What is typed right away goes there, and not into the page.
  await page.keyboard.type('mast');
  await expect(bar.getByRole('textbox', { name: 'Find on this page' })).toHaveValue('mast');
  await expect(bar.getByText('3 places')).toBeVisible();
  await bar.getByLabel('Whole words').check();
  await expect(bar.getByText('2 places')).toBeVisible();
  await bar.getByRole('textbox', { name: 'Find on this page' }).press('Enter');
  await expect(bar.getByText('1 of 2')).toBeVisible();
  await bar.getByRole('textbox', { name: 'Replace by' }).fill('pole');
  await bar.getByRole('button', { name: 'Replace all' }).click();
  await expect(sheet(page)).toContainText('The pole and the pole.');
  await expect.poll(() => page.evaluate<boolean>(nothingMoves)).toBe(true);
  expect(await findings(page)).toEqual([]);
  await page.keyboard.press('Escape');
  await expect(bar).toHaveCount(0);
  await expect(sheet(page)).toBeFocused();
  await page.keyboard.press('Control+Z');
  await expect(sheet(page)).toContainText('The mast and the Mast.');
});

test('What is placed on a page is one list, from which it is brought up to date, gone to and taken away', async ({
  page,
}) => {
  const name = `S ${randomUUID().slice(0, 8)}`;
  const fragment = (words: string) => ({ type: 'fragment', content: [paragraph(words)] });
  const { key } = await make(page, 'post', '/components', {
    kind: 'snippet',
    title: name,
    body: fragment('Old words.'),
  });
  await make(page, 'put', `/components/${key}`, { base: 1, title: name, body: fragment('New words.') });
  const held = { type: 'placement', attrs: { component: key, mode: 'held', revision: 1 } };
  const value = {
    type: 'paragraph',
    content: [text('Use '), { type: 'variable', attrs: { key: 'battery' } }, text('.')],
  };
  await open(page, held, paragraph('Between.'), value);
  await page.getByRole('tab', { name: 'Placed here' }).click();
  const list = page.getByRole('list', { name: 'What is placed here' });
  await expect(list.getByRole('listitem')).toHaveCount(2);
  await expect(list).toContainText('held at revision 1, newest 2');
  await page.getByRole('searchbox', { name: 'Find among what is placed here' }).fill('battery');
  await expect(list.getByRole('listitem')).toHaveCount(1);
  await page.getByRole('searchbox', { name: 'Find among what is placed here' }).fill('');
  await list.getByRole('button', { name: `Bring up to date: ${name}` }).click();
  await expect(sheet(page)).toContainText('New words.');
  await expect(list).toContainText('held at revision 2');
  await list.getByTitle('Go to the place').last().click();
  await expect(sheet(page).locator('.ProseMirror-selectednode')).toHaveText('Backup battery');
  await list.getByRole('button', { name: `Turn into own text: ${name}` }).click();
  // It is a copy now, which still says of what.
  await expect(sheet(page).locator('[data-node=copied]')).toHaveText('New words.');
  await expect(list).toContainText('copied at revision 2');
  await list.getByRole('button', { name: `Remove: ${name}` }).click();
  await list.getByRole('button', { name: 'Remove: Backup battery' }).click();
  await expect(list.getByRole('listitem')).toHaveCount(0);
  await expect(page.getByText('This page takes nothing from elsewhere.')).toBeVisible();
  await expect.poll(() => page.evaluate<boolean>(nothingMoves)).toBe(true);
  expect(await findings(page)).toEqual([]);
  await save(page);
});

test('A table is changed by its bar: header column, order, alignment, caption, and away', async ({ page }) => {
  const cell = (words: string) => ({ type: 'table_cell', content: [paragraph(words)] });
  const row = (...words: string[]) => ({ type: 'table_row', content: words.map(cell) });
  const grid = { type: 'table_grid', content: [row('10', 'ten'), row('9', 'nine')] };
  await open(page, paragraph('Before.'), { type: 'table', content: [grid] });
  const bar = page.getByRole('toolbar', { name: 'Table' });
  await expect(bar).toHaveCount(0);
  await sheet(page).getByText('10', { exact: true }).click();
  await bar.getByRole('button', { name: 'Sort the rows by this column', exact: true }).click();
  await expect(sheet(page).locator('td')).toHaveText(['9', 'nine', '10', 'ten']);
  await bar.getByRole('button', { name: 'Header column' }).click();
  await expect(sheet(page).locator('th')).toHaveText(['9', '10']);
  await sheet(page).getByText('ten', { exact: true }).click();
  await bar.getByRole('button', { name: 'Text at the right' }).click();
  await expect(bar.getByRole('button', { name: 'Text at the right' })).toHaveAttribute('aria-pressed', 'true');
  await expect(sheet(page).locator('td', { hasText: 'ten' })).toHaveCSS('text-align', 'right');
  await bar.getByRole('button', { name: 'Caption of the table' }).click();
  await page.keyboard.type('Numbers');
  await save(page);
  await page.reload();
  await expect(sheet(page).locator('figcaption')).toHaveText('Numbers');
  await sheet(page).getByText('nine', { exact: true }).click();
  await bar.getByRole('button', { name: 'Delete the table' }).click();
  await expect(sheet(page).locator('table')).toHaveCount(0);
});

test('The columns of a table get their widths by dragging an edge, and by the keyboard', async ({ page }) => {
  const cell = (words: string, colspan = 1) => ({
    type: 'table_cell',
    attrs: { colspan },
    content: [paragraph(words)],
  });
  const row = (...cells: object[]) => ({ type: 'table_row', content: cells });
  const grid = {
    type: 'table_grid',
    content: [row(cell('one'), cell('two'), cell('three')), row(cell('four', 2), cell('five'))],
  };
  await open(page, { type: 'table', content: [grid] });
  const one = sheet(page).getByRole('cell', { name: 'one' });
  const two = sheet(page).getByRole('cell', { name: 'two' });
  const [before, table] = [await one.boundingBox(), await sheet(page).locator('table').boundingBox()];
  const y = (before?.y ?? 0) + 8;
  const edge = (before?.x ?? 0) + (before?.width ?? 0);
  await page.mouse.move(edge - 30, y);
  await page.mouse.move(edge - 2, y);
  await expect(page.locator('.column-edge')).toBeVisible();
  await page.mouse.down();
  await page.mouse.move(edge + 20, y, { steps: 4 });
  await page.mouse.up();
  const share = async (of: typeof one) => {
    const [width, all] = [await of.boundingBox(), await sheet(page).locator('table').boundingBox()];
    return (100 * (width?.width ?? 0)) / (all?.width ?? 1);
  };
  await expect(sheet(page).locator('table')).toHaveClass(/has-widths/);
  const wide = await share(one);
  expect(Math.abs(wide - (100 * ((before?.width ?? 0) + 20)) / (table?.width ?? 1))).toBeLessThan(2);
  await two.click();
  await page.getByRole('toolbar', { name: 'Table' }).getByRole('button', { name: 'Column narrower' }).focus();
  await page.keyboard.press('Enter');
  const narrow = await share(two);
  expect(Math.abs((await share(one)) - wide)).toBeLessThan(1);
  await save(page);
  await page.reload();
  await expect(sheet(page).locator('table')).toHaveClass(/has-widths/);
  expect(Math.abs((await share(two)) - narrow)).toBeLessThan(1);
  await two.click();
  await page.getByRole('button', { name: 'Columns as wide as what they hold' }).click();
  await expect(sheet(page).locator('table')).not.toHaveClass(/has-widths/);
});

test('A choice is made of blocks, gets a branch, has its branches ordered, and is taken apart again', async ({
  page,
}) => {
  await open(page, paragraph('For some.'), paragraph('For others.'));
  await behind(page, 'For some.');
  await page.keyboard.press('Home');
  await page.keyboard.press('Shift+ArrowDown');
  await page.keyboard.press('Shift+End');
  // The editor knows of the selection.
  await expect(page.getByText(/^4 of \d+ words$/)).toBeVisible();
  await insert(page, 'choice', 'Choice');
  const branches = sheet(page).locator('[data-node=branch]');
  await expect(branches).toHaveCount(2);
  await expect(branches.first().locator('p')).toHaveText(['For some.', 'For others.']);
  const bar = page.getByRole('toolbar', { name: 'Choice' });
  await sheet(page).getByText('For others.').click();
  await bar.getByRole('button', { name: 'Another branch' }).click();
  await expect(branches).toHaveCount(3);
  await page.keyboard.type('For a third.');
  await bar.getByRole('button', { name: 'Move the branch up' }).click();
  await expect(branches.first()).toHaveText('For a third.');
  await expect(bar.getByRole('button', { name: 'Move the branch up' })).toBeDisabled();
  // No branch has a condition yet: the later ones would be let in anywhere.
  await expect(bar.getByRole('button', { name: /Take the choice apart/ })).toBeDisabled();
  const panel = page.locator('al-applies-when');
  for (const [words, value] of [
    ['For a third.', 'Europe'],
    ['For some.', 'Australia'],
  ] as const) {
    await sheet(page).getByText(words).click();
    await panel.getByRole('radio', { name: 'branch' }).click();
    await panel.getByRole('button', { name: value, exact: true }).click();
    await panel.getByRole('button', { name: 'Apply' }).click();
  }
  await branches.last().click();
  await bar.getByRole('button', { name: 'Delete the branch' }).click();
  await expect(branches).toHaveCount(2);
  await save(page);
  await sheet(page).getByText('For some.').click();
  await bar.getByRole('button', { name: /Take the choice apart/ }).click();
  await expect(branches).toHaveCount(0);
  await expect(sheet(page).locator(':scope > p')).toHaveText(['For a third.', 'For some.', 'For others.']);
  await expect(sheet(page).locator(':scope > p').nth(1)).toHaveAttribute(
    'data-when',
    '"market is australia and not market is europe"',
  );
});

test('A new table has the size that is pointed at, or typed behind its name', async ({ page }) => {
  const key = await newTopic(page, 'First.');
  await visit(page, `/edit/${key}`);
  await sheet(page).locator('p').click();
  await expect(page.locator('.foot')).toContainText('paragraph');
  await page.keyboard.press('Control+Space');
  await page.keyboard.type('table');
  await page.getByRole('button', { name: '2 rows, 5 columns' }).click();
  await expect(sheet(page).locator('table tr')).toHaveCount(2);
  await expect(sheet(page).locator('table th')).toHaveCount(5);
  await sheet(page).locator('p', { hasText: 'First.' }).click();
  await expect(page.locator('.foot')).toContainText('paragraph');
  await page.keyboard.press('Control+Space');
  await page.keyboard.type('table 4 x 3');
  await expect(page.locator('al-insert-menu button.marked')).toContainText('4 rows, 3 columns');
  await page.keyboard.press('Enter');
  await expect(sheet(page).locator('table').first().locator('tr')).toHaveCount(4);
  await expect(sheet(page).locator('table').first().locator('th')).toHaveCount(3);
  await save(page);
});

test('A page says in which language it is written, for the browser’s spelling', async ({ page }) => {
  const key = await newTopic(page, 'Guten Tag.');
  await visit(page, `/edit/${key}`);
  await expect(sheet(page)).toHaveAttribute('lang', 'en');
  const field = page.getByRole('combobox', { name: 'Spelling' });
  await field.fill('not a language');
  await field.press('Enter');
  await expect(field).toHaveValue('en');
  await field.fill('de-at');
  await field.press('Enter');
  await expect(sheet(page)).toHaveAttribute('lang', 'de-AT');
  await page.reload();
  await expect(sheet(page)).toHaveAttribute('lang', 'de-AT');
});

test('What is written first after a page was opened is read as soon as the writer pauses', async ({ page }) => {
  await open(page, paragraph('One'));
  await page.getByRole('tab', { name: 'Reading' }).click();
  await expect(page.locator('al-reading-view')).toContainText('One');
  await behind(page, 'One');
  await page.keyboard.insertText(' two three');
  await expect(page.locator('al-reading-view')).toContainText('One two three');
});

test('What is read and counted is of the page that is open, and as it is after saving', async ({ page }) => {
  const other = await newTopic(page, 'Words of the other page. '.repeat(8).trim());
  await open(page, paragraph('One'));
  await page.getByRole('tab', { name: 'Reading' }).click();
  const count = page.locator('.foot .count');
  const before = parseInt((await count.textContent()) ?? '', 10);
  await behind(page, 'One');
  await page.keyboard.insertText(' two three');
  await expect(count).toHaveText(`${before + 2} words`);
  await save(page);
  await expect(count).toHaveText(`${before + 2} words`);
  await page.getByRole('combobox', { name: 'Find anything' }).fill(other);
  await page.getByRole('option', { name: new RegExp(other) }).click();
  await expect(sheet(page)).toContainText('Words of the other page.');
  // Forty, and those of its title.
  await expect(count).toHaveText(/^4\d words$/);
  await page.getByRole('tab', { name: 'Reading' }).click();
  await expect(page.locator('al-reading-view')).toContainText('Words of the other page.');
});

test('An older revision is brought back over what is not saved, and undo takes that back', async ({ page }) => {
  await open(page, paragraph('First words.'));
  await behind(page, 'First words.');
  await page.keyboard.insertText(' Second words.');
  await save(page);
  await behind(page, 'First words. Second words.');
  await page.keyboard.insertText(' Not saved.');
  await expect(sheet(page)).toContainText('First words. Second words. Not saved.');
  await page.getByRole('tab', { name: 'History' }).click();
  await page.locator('.history li', { hasText: 'Revision 1' }).getByRole('button', { name: 'Bring back' }).click();
  await expect(sheet(page).locator('p')).toHaveText('First words.');
  await expect(sheet(page)).toBeFocused();
  await page.keyboard.press('Control+z');
  await expect(sheet(page).locator('p')).toHaveText('First words. Second words. Not saved.');
  await expect(page.locator('.undone')).toContainText('Bring back revision 1');
  await page.keyboard.press('Control+y');
  await save(page);
  await page.reload();
  await expect(sheet(page).locator('p')).toHaveText('First words.');
});
