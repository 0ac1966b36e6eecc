import fc from 'fast-check';
import { distance } from 'fastest-levenshtein';
import { isSlipOf, slips } from './near-words.js';
import { marksIn, passageWith, searchWord } from './passage.js';

const wanted = (words: string[], beginnings: string[] = []) => ({ words, beginnings });

describe('Slips of the fingers', () => {
  it('are letters left out, doubled, wrong, or in the wrong order, more of them in longer words', () => {
    expect(isSlipOf('vavle', 'valve')).toBeTrue();
    expect(isSlipOf('instlal', 'install')).toBeTrue();
    expect(isSlipOf('thermomter', 'thermometer')).toBeTrue();
    expect(isSlipOf('termomter', 'thermometer')).toBeTrue();
    expect(isSlipOf('cat', 'car')).toBeFalse();
    expect(isSlipOf('valve', 'solve')).toBeFalse();
  });

  // An outside library counts the same, but for letters that changed places.
  it('are counted as Levenshtein counts, at most one less for each two letters that changed places', () => {
    const word = fc.string({ unit: fc.constantFrom('a', 'b', 'c'), maxLength: 9 });
    fc.assert(
      fc.property(word, word, (a, b) => {
        const [ours, theirs] = [slips(a, b), distance(a, b)];
        return ours <= theirs && theirs <= 2 * ours && (ours === theirs || a.length > 1);
      }),
    );
    expect([slips('ab', 'ba'), slips('abcd', 'badc'), slips('ca', 'abc'), slips('', 'abc')]).toEqual([1, 2, 3, 3]);
  });
});

describe('Passages', () => {
  it('are marked by whole words, without regard to capitals and accents', () => {
    expect(marksIn('Das Gerät, GERAT und Geräte', wanted(['gerat']))).toEqual([
      [4, 9],
      [11, 16],
    ]);
    expect(marksIn('Valves and bivalves', wanted([], ['valv']))).toEqual([[0, 6]]);
    expect(searchWord('Ψυκτικό Йод ﬁn')).toBe('ψυκτικο йод fin');
  });

  it('show where most of the words stand together, from the beginning of their sentence', () => {
    const text = `${'Nothing here at all. '.repeat(30)}A lone pump. ${'Nothing here at all. '.repeat(30)}The pump drains the valve. End.`;
    const passage = passageWith(text, wanted(['pump', 'valve', 'drains']), 60);
    expect(passage.text).toContain('The pump drains the valve.');
    expect(passage.marks.map(([from, to]) => passage.text.slice(from, to))).toEqual(['pump', 'drains', 'valve']);
  });

  it('never lose a mark they show, and never reach far over their length', () => {
    const text = fc.array(fc.constantFrom('pump', 'and', 'oil.', 'x'.repeat(30), '\n', 'ö'), { maxLength: 80 });
    fc.assert(
      fc.property(text, fc.integer({ min: 20, max: 90 }), (words, length) => {
        const passage = passageWith(words.join(' '), wanted(['pump']), length);
        expect(passage.text.length).toBeLessThanOrEqual(length + 4);
        const cut = (span: readonly [number, number]) => passage.text.slice(...span);
        expect(passage.marks.every((mark) => cut(mark) === 'pump')).toBeTrue();
        if (words.includes('pump')) expect(passage.marks.length).toBeGreaterThan(0);
      }),
    );
  });
});
