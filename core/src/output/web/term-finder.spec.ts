import { TermFinder } from './term-finder.js';

describe('Terms in a text', () => {
  const found = (terms: readonly string[], text: string, language = 'en') =>
    new TermFinder(terms, language).usesIn(text).map(({ term, from, to }) => `${term} ${text.slice(from, to)}`);

  it('are whole words, whatever their capitals, and the longest one that fits', () => {
    const terms = ['gust', 'gust front', 'wind-chill index'];
    expect(found(terms, 'Gusts differ. A GUST, a gust  front, the Wind chill index.')).toEqual([
      '0 GUST',
      '1 gust  front',
      '2 Wind chill index',
    ]);
  });

  it('do not reach over other signs, and follow the language and the way accents are written', () => {
    expect(found(['gust front'], 'a gust. Front of it')).toEqual([]);
    expect(found(['ısı'], 'ISI', 'tr')).toEqual(['0 ISI']);
    expect(found(['Böe'], 'eine Bo\u0308e')).toEqual(['0 Bo\u0308e']);
  });
});
