import fc from 'fast-check';
import { makeText } from '../content/node.js';
import { joinSpaces } from './join-spaces.js';

/** Joins texts of which those marked with `−` were removed. */
function join(...texts: readonly string[]): string {
  const nodes = texts.filter((text) => !text.startsWith('−')).map((text) => makeText(text));
  const gaps: number[] = [];
  let kept = 0;
  for (const text of texts) {
    if (text.startsWith('−')) gaps.push(kept);
    else kept += 1;
  }
  return joinSpaces(nodes, gaps)
    .map((node) => node.text)
    .join('');
}

describe('Spaces around what was removed', () => {
  it('are one between words', () => {
    expect(join('one ', '−two', ' three')).toBe('one three');
    expect(join('one', '−two', ' three')).toBe('one three');
    expect(join('one ', '−two', 'three')).toBe('one three');
    expect(join('one ', '−two', '−three', ' four')).toBe('one four');
  });

  it('are none before closing and after opening punctuation', () => {
    for (const sign of ['.', ',', ';', ':', '!', '?', ')', ']', '”', '’', '»'])
      expect(join('one ', '−two', sign)).toBe(`one${sign}`);
    for (const sign of ['(', '[', '“', '«']) expect(join(sign, '−two', ' three')).toBe(`${sign}three`);
  });

  it('are none at the edges of the container', () => {
    expect(join('−one', ' two')).toBe('two');
    expect(join('one ', '−two')).toBe('one');
    expect(join('−one', ' two ', '−three')).toBe('two');
    expect(join(' ', '−two', ' ')).toBe('');
  });

  it('stay as they were where nothing was removed', () => {
    fc.assert(
      fc.property(fc.array(fc.string()), (texts) => {
        const nodes = texts.map((text) => makeText(text));
        expect(joinSpaces(nodes, [])).toBe(nodes);
      }),
    );
  });

  it('never come from nowhere, and nothing but spaces goes', () => {
    const part = fc.constantFrom('a', ' b', 'c ', ' ', '.', ', d', '(', ' (e) ', '−x');
    fc.assert(
      fc.property(fc.array(part, { maxLength: 8 }), (parts) => {
        const before = parts.filter((each) => !each.startsWith('−')).join('');
        const after = join(...parts);
        expect(after.replaceAll(' ', '')).toBe(before.replaceAll(' ', ''));
        expect(after.length).toBeLessThanOrEqual(before.length);
      }),
    );
  });
});
