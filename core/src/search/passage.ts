/** What was looked for, in the forms in which a library may have it; all are search words. */
export interface WantedWords {
  /** Words that are it: as it was typed, of the same stem, with it inside, or near it where it is nowhere. */
  readonly words: readonly string[];
  /** Beginnings of words that are it. */
  readonly beginnings: readonly string[];
}

/** A part of a text: the positions of its first character and of the one after its last. */
export type Span = readonly [from: number, to: number];

export interface Passage {
  readonly text: string;
  /** What was found in it. */
  readonly marks: readonly Span[];
}

const onlyAscii = /^[ -~]*$/;
const accents = /([a-zα-ω])[\u0300-\u036f]+/g;

/** A word as it is looked for: small letters, without accents in Latin and Greek (in other scripts they tell letters apart). */
export function searchWord(word: string): string {
  // Most words of most libraries: they have no other form.
  if (onlyAscii.test(word)) return word.toLowerCase();
  return word.toLowerCase().normalize('NFKD').replace(accents, '$1').normalize('NFKC');
}

/** Where a text has what was looked for: the spans of whole words, in their order. */
export function marksIn(text: string, wanted: WantedWords): readonly Span[] {
  const words = new Set(wanted.words);
  const marks: Span[] = [];
  for (const match of text.matchAll(/[\p{L}\p{M}\p{N}]+/gu)) {
    const word = searchWord(match[0]);
    if (words.has(word) || wanted.beginnings.some((beginning) => word.startsWith(beginning)))
      marks.push([match.index, match.index + match[0].length]);
  }
  return marks;
}

/**
 * The part of a text that shows best what was looked for: the one with most of the marks that stand together, from the beginning of
 * a sentence where one is near.
 * @param length of the part, in UTF-16 code units
 */
export function passageWith(text: string, wanted: WantedWords, length: number): Passage {
  const marks = marksIn(text, wanted);
  const first = marks[densest(marks, length)]?.[0] ?? 0;
  const from = first < length * 0.7 ? 0 : beginningBefore(text, first, length * 0.4);
  const to = text.length - from <= length ? text.length : lastSpace(text, from, from + length);
  const [before, after] = [from > 0 ? '… ' : '', to < text.length ? ' …' : ''];
  const shift = before.length - from;
  return {
    text: `${before}${text.slice(from, to)}${after}`,
    marks: marks.filter((mark) => mark[0] >= from && mark[1] <= to).map(([a, b]) => [a + shift, b + shift]),
  };
}

/** The mark that has most others behind it in the length of a passage. */
function densest(marks: readonly Span[], length: number): number {
  let best = 0;
  let most = 0;
  for (let at = 0, end = 0; at < marks.length; at += 1) {
    const reach = (marks[at]?.[0] ?? 0) + length * 0.7;
    while (end < marks.length && (marks[end]?.[1] ?? 0) <= reach) end += 1;
    if (end - at > most) [best, most] = [at, end - at];
  }
  return best;
}

function beginningBefore(text: string, at: number, reach: number): number {
  const least = Math.max(0, Math.floor(at - reach));
  const before = text.slice(least, at);
  const sentence = before.search(/[.!?:\n]\s+(?=[^.!?:\n]*$)/);
  if (sentence !== -1) return least + sentence + (/[.!?:\n]\s+/.exec(before.slice(sentence))?.[0].length ?? 0);
  const space = before.search(/\s/);
  return space === -1 ? at : least + space + 1;
}

function lastSpace(text: string, from: number, to: number): number {
  const space = text.lastIndexOf(' ', to);
  return space > from + (to - from) / 2 ? space : to;
}
