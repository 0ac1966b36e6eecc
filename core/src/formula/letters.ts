/**
 * The letters of mathematics: what a letter or digit is in a given variant of writing, after the block “Mathematical
 * Alphanumeric Symbols” of the Unicode standard (U+1D400 to U+1D7FF), with the letters that had stood elsewhere before it.
 */

interface Alphabets {
  readonly upper?: number;
  readonly lower?: number;
  readonly digits?: number;
  /** Letters that are encoded elsewhere. */
  readonly elsewhere?: Readonly<Record<string, string>>;
}

const alphabets: Readonly<Record<string, Alphabets>> = {
  bold: { upper: 0x1d400, lower: 0x1d41a, digits: 0x1d7ce },
  italic: { upper: 0x1d434, lower: 0x1d44e, elsewhere: { h: 'ℎ' } },
  'bold-italic': { upper: 0x1d468, lower: 0x1d482 },
  script: {
    upper: 0x1d49c,
    lower: 0x1d4b6,
    elsewhere: { B: 'ℬ', E: 'ℰ', F: 'ℱ', H: 'ℋ', I: 'ℐ', L: 'ℒ', M: 'ℳ', R: 'ℛ', e: 'ℯ', g: 'ℊ', o: 'ℴ' },
  },
  'bold-script': { upper: 0x1d4d0, lower: 0x1d4ea },
  fraktur: { upper: 0x1d504, lower: 0x1d51e, elsewhere: { C: 'ℭ', H: 'ℌ', I: 'ℑ', R: 'ℜ', Z: 'ℨ' } },
  'bold-fraktur': { upper: 0x1d56c, lower: 0x1d586 },
  'double-struck': {
    upper: 0x1d538,
    lower: 0x1d552,
    digits: 0x1d7d8,
    elsewhere: { C: 'ℂ', H: 'ℍ', N: 'ℕ', P: 'ℙ', Q: 'ℚ', R: 'ℝ', Z: 'ℤ' },
  },
  'sans-serif': { upper: 0x1d5a0, lower: 0x1d5ba, digits: 0x1d7e2 },
  'bold-sans-serif': { upper: 0x1d5d4, lower: 0x1d5ee, digits: 0x1d7ec },
  'sans-serif-italic': { upper: 0x1d608, lower: 0x1d622 },
  'sans-serif-bold-italic': { upper: 0x1d63c, lower: 0x1d656 },
  monospace: { upper: 0x1d670, lower: 0x1d68a, digits: 0x1d7f6 },
};

/** Greek capitals and small letters, in the order of Unicode; the unassigned place of the capitals is the capital theta symbol. */
const greek = {
  capitals: 'ΑΒΓΔΕΖΗΘΙΚΛΜΝΞΟΠΡϴΣΤΥΦΧΨΩ∇',
  small: 'αβγδεζηθικλμνξοπρςστυφχψω∂ϵϑϰϕϱϖ',
  begins: { bold: 0x1d6a8, italic: 0x1d6e2, 'bold-italic': 0x1d71c } as Readonly<Record<string, number>>,
};

/**
 * A text in a variant of mathematical writing (MathML 3, `mathvariant`): `double-struck` makes ℝ of R.
 * @returns the text itself for characters and variants that have no letters of their own
 */
export function mathematicalLetters(text: string, variant: string): string {
  const alphabet = alphabets[variant];
  if (!alphabet) return text;
  return [...text].map((each) => letter(each, variant, alphabet)).join('');
}

function letter(character: string, variant: string, { upper, lower, digits, elsewhere }: Alphabets): string {
  const known = elsewhere?.[character];
  if (known !== undefined) return known;
  const code = character.codePointAt(0) ?? 0;
  const at = (begin: number | undefined, first: number): string =>
    begin === undefined ? character : String.fromCodePoint(begin + code - first);
  if (/[A-Z]/.test(character)) return at(upper, 0x41);
  if (/[a-z]/.test(character)) return at(lower, 0x61);
  if (/[0-9]/.test(character)) return at(digits, 0x30);
  const begins = greek.begins[variant];
  if (begins === undefined) return character;
  const capital = greek.capitals.indexOf(character);
  if (capital >= 0) return String.fromCodePoint(begins + capital);
  const small = greek.small.indexOf(character);
  return small >= 0 ? String.fromCodePoint(begins + greek.capitals.length + small) : character;
}
