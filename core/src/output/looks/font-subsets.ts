/**
 * The parts into which the fonts for screens are cut, with the characters that each has: those of the Fontsource packages
 * (their `unicode.json`). A reader's device loads only those that a page needs.
 */
export const fontSubsets = {
  'latin-ext':
    'U+0100-02BA,U+02BD-02C5,U+02C7-02CC,U+02CE-02D7,U+02DD-02FF,U+0304,U+0308,U+0329,U+1D00-1DBF,U+1E00-1E9F,U+1EF2-1EFF,U+2020,U+20A0-20AB,U+20AD-20C4,U+2113,U+2C60-2C7F,U+A720-A7FF',
  vietnamese:
    'U+0102-0103,U+0110-0111,U+0128-0129,U+0168-0169,U+01A0-01A1,U+01AF-01B0,U+0300-0301,U+0303-0304,U+0308-0309,U+0323,U+0329,U+1EA0-1EF9,U+20AB',
  greek: 'U+0370-0377,U+037A-037F,U+0384-038A,U+038C,U+038E-03A1,U+03A3-03FF',
  cyrillic: 'U+0301,U+0400-045F,U+0490-0491,U+04B0-04B1,U+2116',
  'cyrillic-ext': 'U+0460-052F,U+1C80-1C8A,U+20B4,U+2DE0-2DFF,U+A640-A69F,U+FE2E-FE2F',
} as const;
export type FontSubset = keyof typeof fontSubsets | 'latin';

/** What every text needs; it comes with every deliverable. */
export const latinRange =
  'U+0000-00FF,U+0131,U+0152-0153,U+02BB-02BC,U+02C6,U+02DA,U+02DC,U+0304,U+0308,U+0329,U+2000-206F,U+20AC,U+2122,U+2191,U+2193,U+2212,U+2215,U+FEFF,U+FFFD';

type Range = readonly [first: number, last: number];

function rangesOf(text: string): readonly Range[] {
  return text.split(',').map((range): Range => {
    const [first = '', last = first] = range.slice(2).split('-');
    return [parseInt(first, 16), parseInt(last, 16)];
  });
}

const latin = rangesOf(latinRange);
const others = Object.entries(fontSubsets).map(([name, text]) => ({ name, ranges: rangesOf(text) }));

function isIn(ranges: readonly Range[], point: number): boolean {
  return ranges.some(([first, last]) => point >= first && point <= last);
}

/** The parts that some characters need, and the characters that are in none. */
export function subsetsFor(characters: Iterable<string>): {
  readonly subsets: readonly (keyof typeof fontSubsets)[];
  readonly rest: readonly string[];
} {
  const found = new Set<string>();
  const rest: string[] = [];
  for (const character of characters) {
    const point = character.codePointAt(0) ?? 0;
    if (isIn(latin, point)) continue;
    const subset = others.find(({ ranges }) => isIn(ranges, point));
    if (subset) found.add(subset.name);
    else rest.push(character);
  }
  // The names are those of the table.
  // eslint-disable-next-line @typescript-eslint/no-unsafe-type-assertion
  const names = Object.keys(fontSubsets) as (keyof typeof fontSubsets)[];
  return { subsets: names.filter((name) => found.has(name)), rest: rest.sort() };
}
