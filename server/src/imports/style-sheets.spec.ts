import { mkdirSync, mkdtempSync, rmSync, symlinkSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { dirname, join } from 'node:path';
import { belowInArchive, belowInFolder, styleSheetsFor } from './style-sheets.js';

describe('The style sheets of a book', () => {
  const paths = [
    'doc/book/main.xml',
    'doc/book/parts/a.xml',
    'doc/lib/print.xsl',
    'doc/lib/pages/web.XSL',
    'doc/old.dsl',
    'other/their.xsl',
  ];
  let folder: string;

  beforeAll(() => {
    folder = mkdtempSync(join(tmpdir(), 'allomorph-sheets-'));
    for (const path of paths) {
      mkdirSync(dirname(join(folder, path)), { recursive: true });
      writeFileSync(join(folder, path), '');
    }
    symlinkSync(folder, join(folder, 'doc/book/round'));
  });
  afterAll(() => rmSync(folder, { recursive: true, force: true }));

  it('are those below the nearest folder around it that has any', () => {
    const archive = belowInArchive(new Map(paths.map((path) => [path, null])));
    for (const below of [archive, belowInFolder(folder)]) {
      expect(styleSheetsFor('doc/book/main.xml', below)).toEqual([
        'doc/lib/pages/web.XSL',
        'doc/lib/print.xsl',
        'doc/old.dsl',
      ]);
      expect(styleSheetsFor('other/main.xml', below)).toEqual(['other/their.xsl']);
    }
    expect(styleSheetsFor('main.xml', archive)).toContain('other/their.xsl');
    expect(styleSheetsFor('main.xml', () => [])).toEqual([]);
  });
});
