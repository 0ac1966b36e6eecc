/** Numerals of a numbering scheme. */
export const numerals = ['decimal', 'upper-alpha', 'lower-alpha', 'upper-roman', 'lower-roman', 'none'] as const;
export type Numeral = (typeof numerals)[number];

/** A number in a numeral system; the empty string for `none`. */
export function formatNumber(value: number, numeral: Numeral): string {
  switch (numeral) {
    case 'decimal':
      return String(value);
    case 'upper-alpha':
      return letters(value).toUpperCase();
    case 'lower-alpha':
      return letters(value);
    case 'upper-roman':
      return roman(value).toUpperCase();
    case 'lower-roman':
      return roman(value);
    case 'none':
      return '';
  }
}

/** a, b, ..., z, aa, ab, ... (bijective base 26). */
function letters(value: number): string {
  let text = '';
  for (let rest = value; rest > 0; rest = Math.floor((rest - 1) / 26)) {
    text = String.fromCharCode(97 + ((rest - 1) % 26)) + text;
  }
  return text;
}

function roman(value: number): string {
  const steps: readonly (readonly [number, string])[] = [
    [1000, 'm'],
    [900, 'cm'],
    [500, 'd'],
    [400, 'cd'],
    [100, 'c'],
    [90, 'xc'],
    [50, 'l'],
    [40, 'xl'],
    [10, 'x'],
    [9, 'ix'],
    [5, 'v'],
    [4, 'iv'],
    [1, 'i'],
  ];
  let rest = value;
  let text = '';
  for (const [size, sign] of steps) {
    while (rest >= size) {
      text += sign;
      rest -= size;
    }
  }
  return text;
}
