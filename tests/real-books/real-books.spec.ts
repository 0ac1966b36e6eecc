import { spawnSync } from 'node:child_process';
import { mkdirSync, mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { dirname, join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { parse } from 'node-html-parser';
import { readDeliverable, readPublished, shareOfTexts, shareOfWords } from '../real-manual/compare.js';
import { importBook, type ImportedBook } from './import-book.js';

const here = dirname(fileURLToPath(import.meta.url));

// The published source: PostgreSQL’s documentation (Debian’s source package postgresql-15, and the pages of postgresql-doc-15
// of the same version). It is imported as it is shipped: tables that its own build generates are not in it.
describe('A real book of a million words', () => {
  let folder: string;
  let book: ImportedBook | null = null;

  beforeAll(() => {
    folder = mkdtempSync(join(tmpdir(), 'allomorph-book-'));
    const { status, stderr } = spawnSync('bash', [join(here, 'fetch.sh'), folder], { encoding: 'utf8' });
    if (status !== 0) {
      if (process.env['CI']) throw new Error(`The book’s packages could not be fetched: ${stderr}`);
      return;
    }
    book = importBook(join(folder, 'source'), 'postgres.sgml');
    mkdirSync(join(folder, 'built'));
    for (const { path, text } of book.files) writeFileSync(join(folder, 'built', path), text);
  }, 600_000);
  afterAll(() => rmSync(folder, { recursive: true, force: true }));

  it('reads as it was published', () => {
    if (!book) {
      pending('The book’s packages could not be fetched here.');
      return;
    }
    const published = readPublished(join(folder, 'published'));
    const ours = readDeliverable(join(folder, 'built'));
    const shares = {
      'published words present': [shareOfWords(published.words, ours.words), 0.98],
      'our words published': [shareOfWords(ours.words, published.words), 0.99],
      'published numbered headings present': [shareOfTexts(published.headings, ours.headings), 0.99],
      'our numbered headings published': [shareOfTexts(ours.headings, published.headings), 0.99],
    } as const;
    for (const [what, [{ share, found, of, missing }, wanted]] of Object.entries(shares)) {
      expect(share)
        .withContext(`${what}; missing ${JSON.stringify(missing.slice(0, 10))}`)
        .toBeGreaterThanOrEqual(wanted);
      console.log(`  ${what}: ${found} of ${of} (${(share * 100).toFixed(2)} %)`);
    }
  });

  it('has no link without words, and none that leads nowhere', () => {
    if (!book) {
      pending('The book’s packages could not be fetched here.');
      return;
    }
    const pages = new Map(
      book.files.filter(({ path }) => path.endsWith('.html')).map(({ path, text }) => [path, parse(text)]),
    );
    const ids = new Map(
      [...pages].map(([path, page]) => [path, new Set(page.querySelectorAll('[id]').map(({ id }) => id))]),
    );
    const faults: string[] = [];
    for (const [path, page] of pages) {
      for (const link of page.querySelectorAll('a[href]')) {
        const href = link.getAttribute('href') ?? '';
        if (link.text.trim() === '' && !link.querySelector('img')) faults.push(`${path}: no words in ${href}`);
        if (/^[a-z]+:/i.test(href)) continue;
        const [file = '', fragment] = href.split('#').map(decodeURIComponent);
        const target = ids.get(file === '' ? path : file);
        if (!target || (fragment !== undefined && !target.has(fragment))) faults.push(`${path} → ${href}`);
      }
    }
    expect(faults).toEqual([]);
  });
});
