import { HeadingNumbers } from './heading-numbers.js';

/** What a word processor counts for a run of headings; null: the number stands as text. */
function counted(numbers: readonly string[]): readonly (string | null)[] {
  const made = new HeadingNumbers();
  const places = numbers.map((number) => made.next(number));
  const counts = new Map<string, number[]>();
  return places.map((place) => {
    if (!place) return null;
    const levels = made.config.find(({ reference }) => reference === place.reference)?.levels ?? [];
    const all = counts.get(place.reference) ?? [];
    const { start = 1 } = levels[place.level] ?? { start: 1 };
    // A deeper level begins anew below every other number above it (ISO/IEC 29500-1, 17.9.10).
    const own = all.slice(0, place.level + 1);
    own[place.level] = own[place.level] === undefined ? start : (own[place.level] ?? 0) + 1;
    counts.set(place.reference, own);
    return (levels[place.level]?.text ?? '').replace(/%(\d)/g, (_, at: string) => {
      const value = own[Number(at) - 1] ?? 0;
      const format = levels[Number(at) - 1]?.format;
      if (format === 'upperLetter') return String.fromCharCode(64 + value);
      if (format === 'upperRoman') return ['', 'I', 'II', 'III', 'IV'][value] ?? '?';
      return String(value);
    });
  });
}

describe('Numbers of headings in a word processor', () => {
  it('are counted as the publication counts them', () => {
    const runs = [
      ['1', '1.1', '1.1.1', '1.2', '2', '2.1', '3', '3.1', '3.1.1', '3.2'],
      ['Part I', '1', '1.1', 'Part II', '2', '3', '3.1', 'Appendix A', 'A.1', 'A.2', 'Appendix B', 'B.1'],
      ['Chapter 1', '1.1', 'Chapter 2', '2.1'],
      // Chapters that begin anew in each part.
      ['I', '1', '2', '2.1', 'II', '1', '1.1', '2'],
      ['5', '5.1', '6'],
    ];
    for (const run of runs) expect(counted(run)).withContext(run.join()).toEqual(run);
  });

  it('stand as text where no list would count them so', () => {
    expect(counted(['1', '1.3', '1.1', '3.1', '1.a.2'])).toEqual(['1', null, '1.1', null, null]);
  });
});
