/** Languages whose words stand without spaces between them (Unicode, UAX 29, section 4). */
const unspaced: ReadonlySet<string> = new Set(['zh', 'ja', 'th', 'lo', 'km', 'my']);

const wordSigns = /[\p{L}\p{M}\p{N}]+(?:[-_.][\p{L}\p{M}\p{N}]+)*/gu;
/** The same where all signs are of ASCII, which most texts of most sites are, and which is found several times as fast. */
const asciiWords = /[a-z0-9]+(?:[-_.][a-z0-9]+)*/g;
// eslint-disable-next-line no-control-regex -- these are all signs of ASCII
const onlyAscii = /^[\u0000-\u007f]*$/;
/** The accents of Latin, Greek and Cyrillic; in other scripts marks tell letters apart. */
const accents = /[\u0300-\u036f]/g;
const insideName = /[-_.]/;

/**
 * The words of a text as they are looked for: without accents and capitals, names with signs inside whole and in parts.
 * Whoever makes an index and whoever looks in it must use this very function.
 */
export function searchWords(text: string, language: string): string[] {
  const isAscii = onlyAscii.test(text);
  const plain = isAscii
    ? text.toLowerCase()
    : text.normalize('NFKD').replace(accents, '').normalize('NFKC').toLowerCase();
  if (unspaced.has(language.toLowerCase().split('-')[0] ?? '')) {
    const segments = new Intl.Segmenter(language, { granularity: 'word' }).segment(plain);
    return [...segments].flatMap(({ segment, isWordLike }) => (isWordLike ? [segment] : []));
  }
  const words: string[] = [];
  for (const word of plain.match(isAscii ? asciiWords : wordSigns) ?? []) {
    words.push(word);
    if (insideName.test(word)) words.push(...word.split(insideName));
  }
  return words;
}
