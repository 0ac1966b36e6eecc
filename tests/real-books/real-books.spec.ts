import { spawnSync } from 'node:child_process';
import { mkdirSync, mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { dirname, join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { parse } from 'node-html-parser';
import { readDeliverable, readPublished, shareOfTexts, shareOfWords } from '../real-manual/compare.js';
import { importBook, type ImportedBook } from './import-book.js';

const here = dirname(fileURLToPath(import.meta.url));

interface RealBook {
  readonly what: string;
  readonly source: string;
  readonly files: string;
  readonly main: string;
  readonly package: string;
  readonly pages: string;
  /** The least shares of numbered headings: of the published ones that we have, and of ours that were published. */
  readonly headings: readonly [number, number | null];
}

// Published sources, imported as they are shipped: what their own builds generate is not in them. Where a book's own
// processing numbers fewer sections than we do, or calls chapters otherwise, our headings say more than the published.
const books: readonly RealBook[] = [
  {
    what: 'a book of a million words (PostgreSQL’s documentation)',
    source: 'postgresql-15',
    files: 'doc/src/sgml/*',
    main: 'doc/src/sgml/postgres.sgml',
    package: 'postgresql-doc-15',
    pages: 'usr/share/doc/postgresql-doc-15/html',
    headings: [0.99, 0.99],
  },
  {
    what: 'a set of books, put together of files all over a source tree (the manuals of Valgrind)',
    source: 'valgrind',
    files: '*',
    main: 'docs/xml/index.xml',
    package: 'valgrind',
    pages: 'usr/share/doc/valgrind/html',
    headings: [0.99, null],
  },
  {
    what: 'a library reference (Xlib’s)',
    source: 'libx11',
    files: 'specs/libX11/*',
    main: 'specs/libX11/libX11.xml',
    package: 'libx11-doc',
    pages: 'usr/share/doc/libx11-dev/libX11',
    headings: [0.99, null],
  },
];

for (const each of books) {
  describe(`A real book, ${each.what},`, () => {
    let folder: string;
    let book: ImportedBook | null = null;

    beforeAll(() => {
      folder = mkdtempSync(join(tmpdir(), 'allomorph-book-'));
      const { status, stderr } = spawnSync(
        'bash',
        [join(here, 'fetch.sh'), folder, each.source, each.files, each.package, each.pages],
        { encoding: 'utf8' },
      );
      if (status !== 0) {
        if (process.env['CI']) throw new Error(`The book’s packages could not be fetched: ${stderr}`);
        return;
      }
      book = importBook(join(folder, 'source'), each.main);
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
      const [headings, ourHeadings] = each.headings;
      const shares = {
        'published words present': [shareOfWords(published.words, ours.words), 0.99],
        'our words published': [shareOfWords(ours.words, published.words), 0.99],
        'published numbered headings present': [shareOfTexts(published.headings, ours.headings), headings],
        'our numbered headings published': [shareOfTexts(ours.headings, published.headings), ourHeadings ?? 0],
      } as const;
      for (const [what, [{ share, found, of, missing }, wanted]] of Object.entries(shares)) {
        expect(share)
          .withContext(`${what}; missing ${JSON.stringify(missing.slice(0, 10))}`)
          .toBeGreaterThanOrEqual(wanted);
        if (wanted > 0) console.log(`  ${each.source}, ${what}: ${found} of ${of} (${(share * 100).toFixed(2)} %)`);
      }
    });

    it('has no link without words, and none that leads nowhere', () => {
      if (!book) {
        pending('The book’s packages could not be fetched here.');
        return;
      }
      expect(faultyLinks(book)).toEqual([]);
    });
  });
}

function faultyLinks({ files }: ImportedBook): readonly string[] {
  const pages = new Map(
    files.filter(({ path }) => path.endsWith('.html')).map(({ path, text }) => [path, parse(text)]),
  );
  const ids = new Map(
    [...pages].map(([path, page]) => [path, new Set(page.querySelectorAll('[id]').map(({ id }) => id))]),
  );
  return [...pages].flatMap(([path, page]) =>
    page.querySelectorAll('a[href]').flatMap((link): readonly string[] => {
      const href = link.getAttribute('href') ?? '';
      if (link.text.trim() === '' && !link.querySelector('img')) return [`${path}: no words in ${href}`];
      if (/^[a-z]+:/i.test(href)) return [];
      const [file = '', fragment] = href.split('#').map(decodeURIComponent);
      const target = ids.get(file === '' ? path : file);
      return !target || (fragment !== undefined && !target.has(fragment)) ? [`${path} → ${href}`] : [];
    }),
  );
}
