import { spawnSync } from 'node:child_process';
import { mkdirSync, mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { dirname, join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { formatNames, profilesFileSchema, type FormatName } from '@allomorph/core';
import { parse } from 'node-html-parser';
import { buildVariant, type Deliverable } from '../../server/src/builds/build-variant.js';
import { bytesOf, type DeliverableFile } from '../../server/src/builds/deliverable-file.js';
import { Database } from '../../server/src/db/database.js';
import { importPublication } from '../../server/src/imports/import-publication.js';
import { readVariants } from '../../server/src/publications/variants.js';
import { openWorkspace } from '../../server/src/workspace.js';
import { expectOnPaper, expectWords, wordsOfSite } from '../formats/expect-words.js';
import {
  bookmarksOf,
  faultsOfEpubs,
  filesOfEpub,
  textOfWord,
  wordsMissing,
  wordsOf,
  wordsOfMarkup,
} from '../formats/read-formats.js';
import { freshDatabase } from '../support/fresh-database.js';
import { readDeliverable, readPublished, shareOfTexts, shareOfWords, type ShareOfEqual } from './compare.js';
import { bookFile, prepareSource } from './prepare.js';

const filesOf = (deliverable: Deliverable, format: FormatName): readonly DeliverableFile[] =>
  deliverable.formats.find((each) => each.format === format)?.files ?? [];

const here = dirname(fileURLToPath(import.meta.url));
const architectures = ['amd64', 'arm64', 'i386'] as const;

// The published source: Debian’s installation guide (package installation-guide, source and built packages),
// one DocBook source with profiling attributes, published by its own tools as one manual per architecture.
describe('A real manual with many variants', () => {
  let folder: string;
  let db: Database;
  let database: Awaited<ReturnType<typeof freshDatabase>>;
  const deliverables = new Map<string, Deliverable>();

  const fetched = (): boolean => {
    const { status, stderr } = spawnSync('bash', [join(here, 'fetch.sh'), folder, ...architectures], {
      encoding: 'utf8',
    });
    if (status === 0) return true;
    if (process.env['CI']) throw new Error(`The manual’s packages could not be fetched: ${stderr}`);
    return false;
  };

  beforeAll(async () => {
    folder = mkdtempSync(join(tmpdir(), 'allomorph-manual-'));
    if (!fetched()) return;
    prepareSource(folder);
    database = await freshDatabase();
    db = new Database(database.url);
    const workspace = await openWorkspace(db, 'empty');
    const profiles = profilesFileSchema.parse(JSON.parse(readFileSync(join(here, 'profiles.json'), 'utf8')));
    const source = { main: bookFile, from: { folder: join(folder, 'source') } };
    const { publication } = await importPublication(db, { workspace, person: null }, source, 'Real manual', profiles);
    for (const variant of await readVariants(db, workspace, publication)) {
      const deliverable = await db.snapshot((client) =>
        buildVariant(client, workspace, { ...variant, formats: [...formatNames] }, '2026-11-24', () => undefined),
      );
      deliverables.set(variant.title, deliverable);
      for (const file of filesOf(deliverable, 'html')) {
        const path = join(folder, 'built', variant.title, file.path);
        mkdirSync(dirname(path), { recursive: true });
        writeFileSync(path, await bytesOf(db, file));
      }
    }
  });

  afterAll(async () => {
    rmSync(folder, { recursive: true, force: true });
    await db?.close();
    await database?.drop();
  });

  for (const architecture of architectures) {
    it(`reads for ${architecture} as it was published`, () => {
      if (!deliverables.has(architecture)) {
        pending('The manual’s packages could not be fetched here.');
        return;
      }
      const published = readPublished(join(folder, 'published', architecture, 'en'));
      const ours = readDeliverable(join(folder, 'built', architecture));
      const atLeast = (what: string, { share, found, of, missing }: ShareOfEqual, wanted: number): void => {
        expect(share)
          .withContext(`${what}; missing ${JSON.stringify(missing.slice(0, 10))}`)
          .toBeGreaterThanOrEqual(wanted);
        console.log(`  ${architecture}: ${what} ${found} of ${of} (${(share * 100).toFixed(2)} %)`);
      };
      expect(published.words.size).toBeGreaterThan(3000);
      atLeast('published words present', shareOfWords(published.words, ours.words), 0.999);
      atLeast('our words published', shareOfWords(ours.words, published.words), 0.999);
      atLeast('numbered headings', shareOfTexts(published.headings, ours.headings), 0.99);
      atLeast('reference texts', shareOfTexts(published.references, ours.references), 0.97);
    });
  }

  it('reads the same in every format', () => {
    for (const [title, deliverable] of deliverables) {
      expect(deliverable.formats.map(({ format, failed }) => [format, failed]))
        .withContext(title)
        .toEqual(formatNames.map((name) => [name, null]));
      const words = wordsOfSite(filesOf(deliverable, 'html'));
      const bytesIn = (format: FormatName): Buffer => filesOf(deliverable, format)[0]?.bytes ?? Buffer.alloc(0);
      expectOnPaper(words, bytesIn('pdf'));
      expectWords(words, textOfWord(bytesIn('docx')));
      const book = [...filesOfEpub(bytesIn('epub'))].filter(([path]) => path.endsWith('.xhtml'));
      const inBook = book.flatMap(([, text]) => wordsOfMarkup(parse(text, { blockTextElements: {} })));
      expect(wordsMissing(words, inBook)).toEqual([]);
      // Every heading is a bookmark.
      const headings = filesOf(deliverable, 'html').flatMap(({ bytes }) => {
        const main = parse(bytes?.toString() ?? '').querySelector('main:not(.generated)');
        return (main?.querySelectorAll('h1, h2, h3, h4, h5, h6') ?? []).map((each) => wordsOf(each.text).join(' '));
      });
      const bookmarks = new Set(bookmarksOf(bytesIn('pdf')).map((each) => wordsOf(each).join(' ')));
      expect(headings.filter((heading) => heading !== '' && !bookmarks.has(heading))).toEqual([]);
      console.log(`  ${title}: ${words.length} words in every format, ${bookmarks.size} bookmarks`);
    }
    if (deliverables.size === 0) pending('The manual’s packages could not be fetched here.');
  });

  it('is a book against which the checker of EPUB 3.3 says nothing', () => {
    const books = [...deliverables.values()].map((each) => filesOf(each, 'epub')[0]?.bytes ?? new Uint8Array());
    expect(faultsOfEpubs(...books)).toBe('');
    if (deliverables.size === 0) pending('The manual’s packages could not be fetched here.');
  });

  it('builds without errors', () => {
    for (const [title, { problems }] of deliverables) {
      expect(problems.filter((problem) => problem.severity === 'error'))
        .withContext(title)
        .toEqual([]);
    }
    if (deliverables.size === 0) pending('The manual’s packages could not be fetched here.');
  });
});
