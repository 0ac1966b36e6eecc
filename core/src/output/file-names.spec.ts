import fc from 'fast-check';
import { fileNameFor, imageFileName } from './file-names.js';

const none: ReadonlySet<string> = new Set();
const nameOf = (name: string, taken = none): string => fileNameFor(name, taken);

describe('The file names of pages', () => {
  it('are the topics’ own where they can stand in any file system', () => {
    for (const name of ['mount-mast', 'a', '4-wires', 'x'.repeat(80)]) expect(nameOf(name)).toBe(name);
    expect(nameOf('mount-mast e12')).toBe('mount-mast_e12');
    expect(nameOf('mount-mast e3.e12')).toBe('mount-mast_e3_e12');
  });

  it('are none that a system keeps for itself, whatever their ending (Windows: “Naming Files, Paths, and Namespaces”)', () => {
    for (const name of ['con', 'prn', 'aux', 'nul', 'com1', 'com9', 'lpt1', 'CON', 'Aux', 'conin$'])
      expect(nameOf(name).toLowerCase())
        .withContext(name)
        .not.toMatch(/^(con|prn|aux|nul|com\d|lpt\d|conin\$)$/);
  });

  it('are none that the format uses itself', () => {
    expect(nameOf('index', new Set(['index']))).not.toBe('index');
  });

  it('differ also where capitals, accents and ways to write them count for nothing', () => {
    const alike = [
      ['mount', 'Mount', 'MOUNT'],
      ['groesse', 'größe', 'GRÖSSE'],
      ['cafe', 'caf\u00e9', 'cafe\u0301'],
      ['a-b', 'a.b', 'a_b'],
      [`${'x'.repeat(100)}a`, `${'x'.repeat(100)}b`],
    ];
    const folded = (name: string): string => nameOf(name).normalize('NFKD').toLowerCase();
    for (const names of alike)
      expect(new Set(names.map(folded)).size)
        .withContext(names.join())
        .toBe(names.length);
  });

  it('are different for different names, and made of plain signs', () => {
    const key = fc.stringMatching(/^[\p{L}\p{N}_][\p{L}\p{N}._-]{0,20}$/u);
    fc.assert(
      fc.property(key, key, (a, b) => {
        expect(nameOf(a)).toMatch(/^[a-z0-9_-]+$/);
        if (a !== b) expect(nameOf(a)).not.toBe(nameOf(b));
      }),
    );
  });

  it('of pictures end as their media type says', () => {
    const file = { digest: '0123456789abcdef'.repeat(4), mediaType: 'image/svg+xml', width: null, height: null };
    expect(imageFileName(file)).toBe('images/0123456789abcdef.svg');
    expect(imageFileName({ ...file, mediaType: 'text/html' })).toBe('images/0123456789abcdef.bin');
  });
});
