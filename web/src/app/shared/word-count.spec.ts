import { wordCount } from './word-count';

describe('Words', () => {
  // The example of UAX 29, section 4 (“Word Boundaries”, figure 1), counted by hand.
  it('are counted as the language tells them apart', () => {
    expect(wordCount('The quick (“brown”) fox can’t jump 32.3 feet, right?')).toBe(9);
    expect(wordCount('')).toBe(0);
    expect(wordCount('雨が降る', 'ja')).toBeGreaterThan(1);
  });
});
