import { mkdirSync, mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import fc from 'fast-check';
import { parse } from 'node-html-parser';
import { flattenPages, formatNames, formatsOf, type NumberedPublication, type StoredVariant } from '@allomorph/core';
import { resolveDesign, type DesignSettings } from '../../core/src/design/resolve.js';
import { shippedDesigns } from '../../core/src/design/shipped.js';
import { buildVariant } from '../../server/src/builds/build-variant.js';
import { Database } from '../../server/src/db/database.js';
import { storeBlobs } from '../../server/src/images/blobs.js';
import { readVariants } from '../../server/src/publications/variants.js';
import { openWorkspace } from '../../server/src/workspace.js';
import { anyDesign } from '../support/any-design.js';
import { anyGround, anyLibrary, sourceFor } from '../support/any-library.js';
import { numberedOf } from '../support/build.js';
import { freshDatabase } from '../support/fresh-database.js';
import { entry, p, publicationOf, recipeOf, sourceOf, topic } from '../support/library-parts.js';
import { packAll, stopTypesetting } from './build-all.js';
import { expectOnPaper, wordsOfSite, WordShare } from './expect-words.js';
import {
  bookmarksOf,
  checkPdf,
  documentFacts,
  faultsOfEpubs,
  faultsOfHtml,
  filesOfEpub,
  fontsOfPdf,
  shareMissing,
  printedByOffice,
  linksOfPdf,
  textOfPdf,
  textOfWord,
  wordsMissing,
  wordsOfMarkup,
} from './read-formats.js';

type FreshDatabase = Awaited<ReturnType<typeof freshDatabase>>;

/** A picture of one point (PNG, second edition). */
const point = Buffer.from(
  'iVBORw0KGgoAAAANSUhEUgAAAAEAAAABCAYAAAAfFcSJAAAADUlEQVR42mNk+M9QDwADhgGAWjR9awAAAABJRU5ErkJggg==',
  'base64',
);

describe('Every format', () => {
  let database: FreshDatabase;
  let db: Database;

  beforeAll(async () => {
    database = await freshDatabase();
    db = new Database(database.url);
    await openWorkspace(db, 'empty');
    // The pictures of random libraries are digits instead of digests.
    const digests = Array.from({ length: 10 }, (_, digit) => String(digit).repeat(64));
    await storeBlobs(
      db,
      digests.map((digest) => ({ digest, bytes: point })),
    );
  });
  afterAll(async () => {
    stopTypesetting();
    await db.close();
    await database.drop();
  });

  it('says what the web site says, of every kind of content in every place and in any design', async () => {
    const samples = fc.sample(fc.tuple(anyLibrary, anyGround, anyDesign), 60);
    const [onPaper, inWord] = [new WordShare(), new WordShare()];
    const folder = mkdtempSync(join(tmpdir(), 'allomorph-formats-'));
    for (const [at, [library, ground, design]] of samples.entries()) {
      const numbered = numberedOf(sourceFor(ground, library), { ...ground.recipe, design });
      const made = await packAll(db, numbered);
      for (const [format, { files }] of Object.entries({ html: made.html, page: made.page })) {
        // A style sheet of one's own that is none cannot be right.
        if (design.web.css.includes('<')) continue;
        mkdirSync(join(folder, String(at), format), { recursive: true });
        for (const { path, bytes } of files)
          if (path.endsWith('.html')) writeFileSync(join(folder, String(at), format, path), bytes ?? '');
      }
      const words = wordsOfSite(made.html.files as never);
      const [page] = made.page.files;
      const single = parse(page?.bytes?.toString() ?? '', { blockTextElements: {} }).querySelector('main');
      expect(single && shareMissing(words, wordsOfMarkup(single))).toBe(0);
      const book = filesOfEpub(made.epub.files[0]?.bytes ?? new Uint8Array());
      const inBook = [...book]
        .filter(([path]) => path.endsWith('.xhtml'))
        .flatMap(([, text]) => wordsOfMarkup(parse(text, { blockTextElements: {} })));
      expect(shareMissing(words, inBook)).toBe(0);
      // A reference to a page reads otherwise where there are pages.
      const [word] = formatsOf(['docx']);
      if (word?.render(numbered).files.some(({ text }) => text.includes('"i":"page"'))) continue;
      const pdf = made.pdf.files[0]?.bytes ?? new Uint8Array();
      // Words that were made by chance may be parted at the end of a line.
      onPaper.add(words, textOfPdf(pdf));
      inWord.add(words, textOfWord(made.docx.files[0]?.bytes ?? new Uint8Array()));
    }
    expect(onPaper.wanted).toBeGreaterThan(400);
    onPaper.expectAll();
    inWord.expectAll();
    expect(faultsOfHtml(folder)).toBe('');
    rmSync(folder, { recursive: true });
  });
});

/** One variant of each book of the demo that has something of its own to show: each more takes a minute. */
function oneOfEach(variants: readonly StoredVariant[]): readonly StoredVariant[] {
  const titles = [
    'observer-handbook/Dunlin 4X, North America',
    'installation-guide/Dunlin 4 family, Australia, mast',
    'service-manual/Dunlin 4X, North America',
    'network-guide/Network, Dunlin 4, Europe',
    'calibration-manual/Calibration in the workshop, North America',
    'schnellstart/Schnellstart, Dunlin 4',
  ];
  return titles.map((wanted) => {
    const found = variants.find(({ publication, title }) => `${publication}/${title}` === wanted);
    if (!found) throw new Error(`The demo has no variant “${wanted}”.`);
    return found;
  });
}

describe('The deliverables of the demo', () => {
  let database: FreshDatabase;
  let db: Database;
  let numbered: readonly NumberedPublication[];
  let made: Awaited<ReturnType<typeof packAll>>[];

  beforeAll(async () => {
    database = await freshDatabase();
    db = new Database(database.url);
    const workspace = await openWorkspace(db, 'demo');
    const found: NumberedPublication[] = [];
    const { readRecipe } = await import('../../server/src/builds/build-variant.js');
    for (const variant of oneOfEach(await readVariants(db, workspace))) {
      const { source, recipe } = await readRecipe(db, workspace, variant, '2026-11-24');
      found.push(numberedOf(source, recipe));
    }
    numbered = found;
    made = [];
    for (const each of numbered) made.push(await packAll(db, each));
  });
  afterAll(async () => {
    stopTypesetting();
    await db.close();
    await database.drop();
  });

  it('are documents that keep the structure of PDF, with our fonts embedded and a bookmark for every heading', () => {
    made.forEach(({ pdf, html }, at) => {
      const bytes = pdf.files[0]?.bytes ?? new Uint8Array();
      expect(checkPdf(bytes)).toContain('No syntax or stream encoding errors found');
      for (const { name, isEmbedded } of fontsOfPdf(bytes)) {
        expect(isEmbedded).withContext(name).toBeTrue();
        expect(name).toMatch(/^[A-Z]{6}\+(SourceSerif4|SourceSans3|JetBrainsMono|STIXTwoMath)-/);
      }
      const headings = html.files.flatMap(({ path, bytes: text }) => {
        if (!path.endsWith('.html') || path === 'index.html') return [];
        const main = parse(text?.toString() ?? '').querySelector('main:not(.generated)');
        return (main?.querySelectorAll('h1, h2, h3, h4, h5, h6') ?? []).map((each) => each.text);
      });
      const bookmarks = bookmarksOf(bytes);
      for (const heading of headings) expect(bookmarks).toContain(heading);
      expect(pdf.problems).toEqual([]);
      expect(flattenPages(numbered[at]?.pages ?? []).length).toBeLessThan(headings.length + 1);
    });
  });

  it('lead every link on paper to the page that it is told by, and to the number that it says', () => {
    let numbers = 0;
    for (const { pdf, html } of made) {
      const { inside, addresses } = linksOfPdf(pdf.files[0]?.bytes ?? new Uint8Array());
      const site = html.files.map(({ bytes }) => bytes?.toString() ?? '').join('');
      // Outside lead only the addresses of the text.
      for (const address of addresses) expect(site).toContain(address.replaceAll('&', '&amp;'));
      for (const { text, told, page, there } of inside) {
        // Footnotes are told by their numbers.
        if (/^(Footnote|Fußnote) \d+/.test(told)) continue;
        expect(told.split(' ').at(-1)).toBe(page);
        const [number] = /\b[\dA-Z]+\.\d+(\.\d+)*\b/.exec(text) ?? [];
        if (number === undefined) continue;
        numbers += 1;
        // What leads to a heading begins with its number; captions have a word before it, and stand below what they tell of.
        if (text.startsWith(number)) expect(there.slice(0, number.length)).withContext(text).toBe(number);
        else expect(there).withContext(text).toContain(number);
      }
    }
    expect(numbers).toBeGreaterThan(50);
  });

  it('draw the same formulas on screens and on paper, sign by sign', () => {
    // A bar over a letter is a sign of its own on screens, and combines with the letter on paper.
    const signs = (text: string): readonly string[] => [
      ...text
        .normalize('NFKC')
        .replace(/[\u02c9\u00af]/g, '\u0304')
        .replace(/\s/g, ''),
    ];
    let compared = 0;
    for (const { html, pdf } of made) {
      const drawn = html.files.flatMap(({ path, bytes }) =>
        path.endsWith('.html')
          ? parse(bytes?.toString() ?? '')
              .querySelectorAll('main math')
              .map(({ text }) => text)
          : [],
      );
      const missing = wordsMissing(signs(drawn.join('')), signs(textOfPdf(pdf.files[0]?.bytes ?? new Uint8Array())));
      expect(missing).toEqual([]);
      compared += drawn.length;
    }
    expect(compared).toBeGreaterThan(4);
  });

  it('say the same words in every format', () => {
    for (const { html, pdf, epub } of made) {
      const words = wordsOfSite(html.files as never);
      expectOnPaper(words, pdf.files[0]?.bytes ?? new Uint8Array());
      const book = [...filesOfEpub(epub.files[0]?.bytes ?? new Uint8Array())]
        .filter(([path]) => path.endsWith('.xhtml'))
        .flatMap(([, text]) => wordsOfMarkup(parse(text)));
      expect(shareMissing(words, book)).toBe(0);
    }
  });

  it('are read by another word processor with the words of the web site', () => {
    let counted = 0;
    for (const { html, docx } of made) {
      const printed = printedByOffice(docx.files[0]?.bytes ?? new Uint8Array());
      expectOnPaper(wordsOfSite(html.files as never), printed);
      // It counts headings and captions itself, and comes to what the site says.
      const text = textOfPdf(printed).replace(/\s+/g, ' ');
      const labels = html.files.flatMap(({ path, bytes }) => {
        const main = path.endsWith('.html')
          ? parse(bytes?.toString() ?? '').querySelector('main:not(.generated)')
          : null;
        return (main?.querySelectorAll('h1, h2, h3, caption, figcaption') ?? [])
          .filter((each) => each.querySelector('.number') && !each.querySelector('sup'))
          .map((each) => each.text.replace(/\s+/g, ' ').trim());
      });
      counted += labels.length;
      for (const label of labels) expect(text).toContain(label);
    }
    expect(counted).toBeGreaterThan(50);
  });

  it('are parts as well, each a document that keeps the standard, and together they say what the whole says', async () => {
    const [whole] = numbered;
    if (!whole) throw new Error('The demo has no variant.');
    for (const parts of ['chapters', 'topics'] as const) {
      const design = { ...whole.design, paper: { ...whole.design.paper, parts } };
      const { pdf, html } = await packAll(db, { ...whole, design });
      const [first, ...others] = pdf.files;
      expect([first?.path, others.length]).toEqual([
        'document.pdf',
        parts === 'topics' ? flattenPages(whole.pages).length : whole.pages.length,
      ]);
      expect(pdf.problems).toEqual([]);
      const share = new WordShare();
      for (const { bytes } of others)
        expect(checkPdf(bytes ?? new Uint8Array())).toContain('No syntax or stream encoding errors found');
      share.add(
        wordsOfSite(html.files as never),
        others.map(({ bytes }) => textOfPdf(bytes ?? new Uint8Array())).join(' '),
      );
      share.expectAll();
    }
  });

  it('are books against which the checker of EPUB 3.3 says nothing', () => {
    const books = made.map(({ epub }) => epub.files[0]?.bytes ?? new Uint8Array());
    expect(faultsOfEpubs(...books)).toBe('');
  });

  it('are single pages that need nothing besides themselves, and whose links all lead somewhere', () => {
    for (const { page } of made) {
      const text = page.files[0]?.bytes?.toString() ?? '';
      const root = parse(text);
      const ids = root.querySelectorAll('[id]').map((each) => each.id);
      expect(new Set(ids).size).toBe(ids.length);
      for (const link of root.querySelectorAll('a[href^="#"]'))
        expect(ids).toContain(decodeURIComponent(link.getAttribute('href')?.slice(1) ?? ''));
      for (const each of root.querySelectorAll('[src], link'))
        expect(each.getAttribute('src')).toMatch(/^data:image\//);
      for (const [, address] of text.slice(0, text.indexOf('</style>')).matchAll(/url\(([^)]*)\)/g))
        expect(address).toMatch(/^data:font\/woff2;base64,/);
    }
  });

  it('come out the same whenever they are made again', async () => {
    const workspace = await openWorkspace(db, 'demo');
    for (const variant of (await readVariants(db, workspace)).slice(0, 2)) {
      const all = {
        ...variant,
        formats: formatNames,
      };
      const build = () => buildVariant(db, workspace, all as never, '2026-11-24', () => undefined);
      const [one, two] = [await build(), await build()];
      expect(one.formats.map(({ failed }) => failed)).toEqual(all.formats.map(() => null));
      expect(two.formats.map(({ digest }) => digest)).toEqual(one.formats.map(({ digest }) => digest));
    }
  });
});

describe('A design', () => {
  it('says the paper, and what a document claims to keep', async () => {
    const database = await freshDatabase();
    const db = new Database(database.url);
    await openWorkspace(db, 'empty');
    const source = sourceOf([topic('t', p('Text')), topic('u', p('More'))]);
    const outline = publicationOf([entry('e', 't'), entry('f', 'u')]);
    const factsOf = async (settings: DesignSettings): Promise<string> => {
      const own = { key: 'own', title: 'Own', from: 'formal', settings };
      const design = resolveDesign('own', [...shippedDesigns, own], 'en');
      const made = await packAll(db, numberedOf(source, recipeOf(outline, { design })));
      expect(made.pdf.problems).toEqual([]);
      return documentFacts(made.pdf.files[0]?.bytes ?? new Uint8Array());
    };
    expect(await factsOf({})).toMatch(/Page size: +595\.276 x 841\.89/);
    const archived = await factsOf({ 'paper.size': 'letter', 'paper.landscape': true, 'paper.standard': 'a-2b' });
    expect(archived).toMatch(/Page size: +792 x 612/);
    expect(archived).toMatch(/<pdfaid:part>2<\/pdfaid:part>/);
    expect(archived).toContain('<pdfaid:conformance>B<');
    stopTypesetting();
    await db.close();
    await database.drop();
  });
});

describe('What authors write', () => {
  const hostile = [
    '#read("/etc/passwd")',
    '$x$ *bold* _low_ `raw`',
    '#panic()',
    '<b>&amp;</b> ]] >',
    '= No heading',
    '\\u{41} // gone',
  ];

  it('is text in every format, whatever it looks like', async () => {
    const database = await freshDatabase();
    const db = new Database(database.url);
    await openWorkspace(db, 'empty');
    const source = sourceOf([topic('t', ...hostile.map((text) => p(text)))]);
    const made = await packAll(db, numberedOf(source, recipeOf(publicationOf([entry('e', 't')]))));
    stopTypesetting();
    const paper = textOfPdf(made.pdf.files[0]?.bytes ?? new Uint8Array());
    const office = textOfWord(made.docx.files[0]?.bytes ?? new Uint8Array());
    for (const text of hostile) {
      expect(paper).toContain(text);
      expect(office).toContain(text);
    }
    await db.close();
    await database.drop();
  });
});
