import { mkdirSync, mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { dirname, join } from 'node:path';
import { pathToFileURL } from 'node:url';
import { AxeBuilder } from '@axe-core/playwright';
import { chromium, type Browser } from '@playwright/test';
import { buildVariant } from '../../server/src/builds/build-variant.js';
import { bytesOf } from '../../server/src/builds/deliverable-file.js';
import { Database } from '../../server/src/db/database.js';
import { readVariants } from '../../server/src/publications/publications.js';
import { openWorkspace } from '../../server/src/workspace.js';
import config from '../browser/playwright.config.js';
import { freshDatabase } from '../support/fresh-database.js';

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
    browser = await chromium.launch(config.use?.launchOptions ?? {});
  }, 120_000);
  afterAll(async () => {
    await browser.close();
    rmSync(folder, { recursive: true });
  });

  for (const { colorScheme, width } of [
    { colorScheme: 'light', width: 1280 },
    { colorScheme: 'dark', width: 1280 },
    { colorScheme: 'light', width: 390 },
  ] as const) {
    it(`leaves axe nothing to say, ${colorScheme}, ${width} pixels wide, and no page is wider`, async () => {
      const context = await browser.newContext({ colorScheme, viewport: { width, height: 800 } });
      const page = await context.newPage();
      const found: string[] = [];
      for (const path of pages) {
        await page.goto(pathToFileURL(path).href);
        const { violations } = await new AxeBuilder({ page }).analyze();
        for (const { id, nodes } of violations) found.push(`${path}: ${id}: ${nodes[0]?.html.slice(0, 200)}`);
        const wide = await page.evaluate<number>('document.documentElement.scrollWidth');
        if (wide > width) found.push(`${path} is ${wide} wide`);
      }
      expect(found).toEqual([]);
      expect(pages.length).toBeGreaterThan(18);
      await context.close();
    }, 300_000);
  }
});
