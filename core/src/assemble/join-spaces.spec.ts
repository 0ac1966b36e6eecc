import fc from 'fast-check';
import { makeText } from '../model/node.js';
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
  return joinSpaces(nodes, gaps, (node, text) => ({ ...node, text }))
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

  it('take brackets with them that hold nothing any more', () => {
    expect(join('Press the key (', '−F1', ') now.')).toBe('Press the key now.');
    expect(join('the mast (', '−a', '), the roof')).toBe('the mast, the roof');
    expect(join('([', '−a', ']) x')).toBe('x');
    expect(join('a (b', '−c', ')')).toBe('a (b)');
  });

  it('take commas with them that separate nothing any more', () => {
    expect(join('rain, ', '−wind', ', sun')).toBe('rain, sun');
    expect(join('rain, ', '−wind', '.')).toBe('rain.');
    expect(join('−rain', ', wind and sun')).toBe('wind and sun');
    expect(join('rain, ', '−wind')).toBe('rain');
    expect(join('rain', '−, wind', ', sun')).toBe('rain, sun');
    expect(join('Needed: ', '−a', ', b')).toBe('Needed:, b');
  });

  it('stay as they were where nothing was removed', () => {
    fc.assert(
      fc.property(fc.array(fc.string()), (texts) => {
        const nodes = texts.map((text) => makeText(text));
        expect(joinSpaces(nodes, [], (node) => node)).toBe(nodes);
      }),
    );
  });

  it('never come from nowhere, and nothing but spaces goes', () => {
    const part = fc.constantFrom('a', ' b', 'c ', ' ', '.', ', d', '(', ' (e) ', '−x');
    fc.assert(
      fc.property(fc.array(part, { maxLength: 8 }), (parts) => {
        const before = parts.filter((each) => !each.startsWith('−')).join('');
        const after = join(...parts);
        const words = (text: string): string => text.replace(/[^a-z]/g, '');
        expect(words(after)).toBe(words(before));
        expect(after.length).toBeLessThanOrEqual(before.length);
      }),
    );
  });
});
