import { mkdirSync, mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { dirname, join } from 'node:path';
import { pathToFileURL } from 'node:url';
import { chromium, type Browser } from '@playwright/test';
import { othersText } from '@allomorph/core';
import { buildVariant } from '../../server/src/builds/build-variant.js';
import { bytesOf } from '../../server/src/builds/deliverable-file.js';
import { Database } from '../../server/src/db/database.js';
import { readVariants } from '../../server/src/publications/variants.js';
import { openWorkspace } from '../../server/src/workspace.js';
import { findings } from '../support/accessibility.js';
import { chromiumOptions } from '../support/chromium.js';
import { freshDatabase } from '../support/fresh-database.js';
import { faultsOfHtml } from './read-formats.js';

describe('A web site, opened from its folder', () => {
  let browser: Browser;
  let folder: string;
  let pages: readonly string[];

  beforeAll(async () => {
    folder = mkdtempSync(join(tmpdir(), 'allomorph-site-'));
    const database = await freshDatabase();
    const db = new Database(database.url);
    const workspace = await openWorkspace(db, 'demo');
    const variant = (await readVariants(db, workspace)).find(({ title }) => title === 'Dunlin 4X, North America');
    if (!variant) throw new Error('The demo has no such variant.');
    const all = { ...variant, formats: ['html', 'page'] as const };
    const built = await buildVariant(
      db,
      workspace,
      { ...all, formats: [...all.formats] },
      '2026-11-24',
      () => undefined,
    );
    const found: string[] = [];
    for (const { format, files } of built.formats) {
      for (const file of files) {
        const path = join(folder, format, file.path);
        mkdirSync(dirname(path), { recursive: true });
        writeFileSync(path, await bytesOf(db, file));
        if (path.endsWith('.html')) found.push(path);
      }
    }
    pages = found;
    await db.close();
    await database.drop();
    browser = await chromium.launch(chromiumOptions);
  });
  afterAll(async () => {
    await browser.close();
    rmSync(folder, { recursive: true });
  });

  it('leaves axe nothing to say, in light and dark, wide and narrow, and no page is wider', async () => {
    const context = await browser.newContext();
    const page = await context.newPage();
    const found: string[] = [];
    for (const path of pages) {
      // In the dark only the colours are others, in a narrow window all but the colours.
      for (const [colorScheme, width, looked] of [
        ['light', 1280, 'everything'],
        ['dark', 1280, 'colours'],
        ['light', 390, 'all but colours'],
      ] as const) {
        await page.emulateMedia({ colorScheme });
        await page.setViewportSize({ width, height: 800 });
        if (colorScheme === 'light') await page.goto(pathToFileURL(path).href);
        for (const each of await findings(page, looked)) found.push(`${path}, ${colorScheme}, ${width}: ${each}`);
        const wide = await page.evaluate<number>('document.documentElement.scrollWidth');
        if (wide > width) found.push(`${path} is ${wide} wide`);
      }
    }
    expect(found).toEqual([]);
    expect(pages.length).toBeGreaterThan(18);
    await context.close();
  });

  it('is HTML against which the checker of the standard says nothing', () => {
    expect(faultsOfHtml(folder)).toBe('');
  });

  const opened = async (path: string, more: object = {}) => {
    const context = await browser.newContext({ viewport: { width: 1400, height: 800 }, ...more });
    const page = await context.newPage();
    const complaints: string[] = [];
    page.on('console', (message) => message.type() === 'error' && complaints.push(message.text()));
    page.on('pageerror', (error) => complaints.push(error.message));
    await page.goto(`${pathToFileURL(join(folder, 'html')).href}/${path}`);
    return { page, complaints };
  };

  it('has the whole contents beside every page, with the place of the page open and in view', async () => {
    const { page, complaints } = await opened('readings.html');
    const contents = page.getByRole('navigation', { name: 'Contents' });
    await contents.getByRole('link', { name: '3.1.4. Air pressure' }).waitFor();
    expect(await contents.locator('[aria-current=page]').textContent()).toContain('Reading the values');
    // Every numbered heading of every page can be come to.
    const targets = await contents
      .locator('a')
      .evaluateAll((links) => links.map((link) => (link as never as { href: string }).href));
    const headings = pages
      .filter((path) => path.includes('/html/'))
      .flatMap((path) =>
        [...readFileSync(path, 'utf8').matchAll(/<section id="([^"]+)">\n<h\d><span class="number">/g)].map(
          ([, id]) => `${pathToFileURL(path).href}#${encodeURIComponent(id ?? '')}`,
        ),
      );
    expect(headings.length).toBeGreaterThan(5);
    for (const heading of headings) expect(targets).toContain(heading);
    const care = contents.getByRole('button', { name: 'Below Care' });
    const inside = contents.getByRole('link', { name: '5.2. Changing the battery' });
    expect(await inside.isVisible()).toBeFalse();
    await care.press('Enter');
    expect(await inside.isVisible()).toBeTrue();
    expect(await page.getByRole('navigation', { name: 'Where this page stands' }).textContent()).toContain(
      'Display and readings',
    );
    expect(await page.getByRole('navigation', { name: 'On this page' }).getByRole('link').count()).toBe(4);
    expect(await page.locator('header time').textContent()).toBe('Nov 24, 2026');
    expect(complaints).toEqual([]);
    await page.context().close();
  });

  it('is searched without a server, by the keyboard, and marks what was found', async () => {
    const { page, complaints } = await opened('welcome.html');
    await page.keyboard.press('/');
    await page.keyboard.type('batteries recharged nonsense');
    await page.getByText('Nothing was found.').waitFor();
    await page.getByRole('searchbox').fill('battry');
    // A letter too few is forgiven.
    await page.getByRole('region', { name: 'Found' }).getByRole('link', { name: 'Changing the battery' }).waitFor();
    await page.keyboard.press('ArrowDown');
    await page.keyboard.press('Enter');
    await page.waitForURL('**/care.html?q=battry#battery');
    await page.locator('main mark', { hasText: 'battery' }).first().waitFor();
    expect(await page.locator('main mark').count()).toBeGreaterThan(1);
    expect(complaints).toEqual([]);
    await page.context().close();
  });

  it('opens figures large, by the keyboard, and gives every section an address to copy', async () => {
    const { page } = await opened('display.html');
    const button = page.getByRole('button', { name: /^Enlarge: Temperature and humidity above/ });
    await button.press('Enter');
    await page.getByRole('dialog').getByRole('img').waitFor();
    await page.keyboard.press('Escape');
    expect(await page.getByRole('dialog').count()).toBe(0);
    expect(await button.evaluate((each) => each === each.ownerDocument.activeElement)).toBeTrue();
    await page.goto(`${pathToFileURL(join(folder, 'html')).href}/care.html`);
    const link = page.getByRole('link', { name: /^Link to here: 5.2. Changing the battery/ });
    expect(await link.getAttribute('href')).toBe('#battery');
    await page.context().close();
  });

  it('says what a term means where it is used: by the pointer, the keyboard and a tap, also when one points at what it says', async () => {
    const { page, complaints } = await opened('care.html');
    const term = page.getByRole('button', { name: 'shield', exact: true });
    const meaning = page.getByRole('tooltip');
    const says = 'the white plates that keep sun and rain off the sensors.';
    await term.hover();
    await meaning.getByText(says).waitFor();
    await meaning.hover();
    await page.mouse.move(0, 0);
    await meaning.waitFor({ state: 'hidden' });
    await term.focus();
    await meaning.getByText(says).waitFor();
    const described = await term.getAttribute('aria-describedby');
    expect([described, await meaning.getAttribute('id')]).toEqual(['_bubble', '_bubble']);
    await page.keyboard.press('Escape');
    await meaning.waitFor({ state: 'hidden' });
    // Where it is defined it is no use of it, nor are the words of warnings.
    for (const path of ['glossary_x3f5dcb46d4381c49.html', 'safety.html']) {
      await page.goto(`${pathToFileURL(join(folder, 'html')).href}/${path}`);
      await page.getByRole('searchbox').waitFor();
      expect(await page.locator('.term').count()).toBe(0);
    }
    expect(complaints).toEqual([]);
    await page.context().close();
    const { page: phone } = await opened('care.html', { hasTouch: true, viewport: { width: 390, height: 800 } });
    await phone.getByRole('button', { name: 'shield', exact: true }).tap();
    await phone.getByRole('tooltip').getByText(says).waitFor();
    await phone.context().close();
  });

  it('leads to the same page of variants that lie beside it, and says which do not have it', async () => {
    writeFileSync(
      join(folder, 'html', 'others.js'),
      othersText([
        { title: 'Dunlin 2', language: 'de', folder: '../html/', lacks: ['care.html'] },
        { title: 'Dunlin 4', language: 'en', folder: '../html/', lacks: [] },
      ]),
    );
    const { page, complaints } = await opened('care.html#battery');
    await page.getByText('Other variants').press('Enter');
    const link = (name: string) => page.getByRole('link', { name, exact: true });
    expect(await link('Dunlin 4').getAttribute('href')).toBe('../html/care.html#battery');
    expect(await link('Dunlin 2 (German)').getAttribute('href')).toBe('../html/index.html');
    expect(await page.getByText('without this page').count()).toBe(1);
    await page.keyboard.press('Escape');
    expect(await link('Dunlin 4').isVisible()).toBeFalse();
    expect(complaints).toEqual([]);
    await page.context().close();
    writeFileSync(join(folder, 'html', 'others.js'), othersText([]));
  });

  it('is read as well where scripts do not run', async () => {
    const { page } = await opened('readings.html', { javaScriptEnabled: false });
    const contents = page.getByRole('navigation', { name: 'Contents' });
    expect(await contents.locator('[aria-current=page]').count()).toBe(1);
    expect(await page.getByRole('searchbox').count()).toBe(0);
    expect(await page.getByRole('heading', { level: 1 }).count()).toBe(1);
    await page.getByRole('link', { name: 'Next' }).click();
    expect(page.url()).toContain('history.html');
    await page.context().close();
  });

  it('lets nothing run but its own script, and brings less than 60 kB of script and style', async () => {
    const own = ['site.js', 'style.css'].map((name) => readFileSync(join(folder, 'html', name)).length);
    expect((own[0] ?? 0) + (own[1] ?? 0)).toBeLessThan(60_000);
    const path = join(folder, 'html', 'attacked.html');
    const text = readFileSync(join(folder, 'html', 'care.html'), 'utf8');
    writeFileSync(
      path,
      text.replace('</main>', '<img src="x" onerror="window.ran=1"><script>window.ran=1</script></main>'),
    );
    const { page } = await opened('attacked.html');
    expect(await page.evaluate('window.ran')).toBeUndefined();
    rmSync(path);
    await page.context().close();
  });
});
