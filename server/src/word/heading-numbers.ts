import { formatNumber, numerals, type Numeral } from '@allomorph/core';
import { AlignmentType, LevelFormat, LevelSuffix, type ILevelsOptions } from 'docx';

/** Where a heading stands in a list whose numbers the word processor counts. */
export interface CountedNumber {
  readonly reference: string;
  readonly level: number;
}

const formats: Readonly<Record<Exclude<Numeral, 'none'>, (typeof LevelFormat)[keyof typeof LevelFormat]>> = {
  decimal: LevelFormat.DECIMAL,
  'upper-alpha': LevelFormat.UPPER_LETTER,
  'lower-alpha': LevelFormat.LOWER_LETTER,
  'upper-roman': LevelFormat.UPPER_ROMAN,
  'lower-roman': LevelFormat.LOWER_ROMAN,
};
const counting = numerals.filter((each) => each !== 'none');
const mostLevels = 9;

/** Number and words of a heading apart: “Appendix A”, “3.2.1”, “Chapter 3:”. */
const parts = /^(|.*[^\p{L}\p{N}.])(\p{N}+|\p{Lu}+|\p{Ll}+)((?:\.\p{N}+)*)([^\p{L}\p{N}]*)$/u;

interface HeadingList {
  readonly reference: string;
  readonly numeral: Exclude<Numeral, 'none'>;
  readonly start: number;
  /** What stands before and after the numbers, by level. */
  readonly around: { readonly before: string; readonly after: string }[];
  readonly counts: number[];
}

/**
 * Numbers of headings as lists that word processors count themselves (ISO/IEC 29500-1, 17.9), so that they go on when
 * somebody adds a section. What such a list would count otherwise than the publication is not put into one.
 */
export class HeadingNumbers {
  private readonly lists: HeadingList[] = [];

  /** @returns null: the number is to stand as text */
  next(number: string): CountedNumber | null {
    const found = parts.exec(number);
    if (!found) return null;
    const [, before = '', first = '', rest = '', after = ''] = found;
    const deeper = rest.split('.').slice(1).map(Number);
    const level = deeper.length;
    if (level >= mostLevels) return null;
    const around = { before, after };
    const list = [...this.lists].reverse().find((each) => continues(each, first, deeper, around));
    if (list) {
      const next = (list.counts[level] ?? 0) + 1;
      list.counts.length = level;
      list.counts.push(next);
      list.around[level] = around;
      return { reference: list.reference, level };
    }
    return level === 0 ? this.begin(first, around) : null;
  }

  /** How the lists are counted and look. */
  get config(): readonly { readonly reference: string; readonly levels: ILevelsOptions[] }[] {
    return this.lists.map(({ reference, numeral, start, around }) => ({
      reference,
      levels: Array.from({ length: mostLevels }, (_, level): ILevelsOptions => {
        const { before, after } = around[level] ?? { before: '', after: '' };
        const numbers = Array.from({ length: level + 1 }, (_each, at) => `%${at + 1}`).join('.');
        return {
          level,
          format: level === 0 ? formats[numeral] : LevelFormat.DECIMAL,
          text: `${before}${numbers}${after}`,
          start: level === 0 ? start : 1,
          alignment: AlignmentType.LEFT,
          suffix: LevelSuffix.SPACE,
          style: { paragraph: { indent: { left: 0, hanging: 0 } } },
        };
      }),
    }));
  }

  private begin(first: string, around: HeadingList['around'][number]): CountedNumber | null {
    const candidates = counting.flatMap((numeral) => {
      const value = valueOf(first, numeral);
      return value === null ? [] : [{ numeral, value }];
    });
    // “I” begins as a Roman number, “A” as a letter: what begins anew mostly begins with one.
    const chosen = candidates.find(({ value }) => value === 1) ?? candidates[0];
    if (!chosen) return null;
    const { numeral, value: start } = chosen;
    const reference = `headings-${this.lists.length + 1}`;
    this.lists.push({ reference, numeral, start, around: [around], counts: [start] });
    return { reference, level: 0 };
  }
}

/** Whether a list would count this number next. */
function continues(
  { numeral, counts, around }: HeadingList,
  first: string,
  deeper: readonly number[],
  { before, after }: HeadingList['around'][number],
): boolean {
  const level = deeper.length;
  const as = around[level];
  if (as && (as.before !== before || as.after !== after)) return false;
  if (level > counts.length) return false;
  const whole = [valueOf(first, numeral), ...deeper];
  return whole.every((value, at) => value === (at < level ? counts[at] : (counts[at] ?? 0) + 1));
}

/** The value of a number in numerals; null: it is none of them. */
function valueOf(text: string, numeral: Numeral): number | null {
  // Nobody counts chapters beyond.
  for (let value = 1; value <= 200; value += 1) if (formatNumber(value, numeral) === text) return value;
  return numeral === 'decimal' && /^[1-9]\d{0,4}$/.test(text) ? Number(text) : null;
}
