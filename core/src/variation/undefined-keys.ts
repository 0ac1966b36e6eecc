import { distance } from 'fastest-levenshtein';
import { flattenValues } from '../model/axis.js';
import { wayOfStamp, type Vocabulary } from '../model/stamp.js';
import { parseCondition, type Condition } from './condition-syntax.js';
import { stampAxis } from './stamps.js';

/** A key in a condition that the vocabulary does not define, with the nearest ones that it does. */
export interface UndefinedKey {
  readonly axis: string;
  /** Null when the axis itself is undefined. */
  readonly value: string | null;
  readonly suggestions: readonly string[];
}

/** The axes, values and stamps that a condition names and the vocabulary does not define; of defined stamps, what theirs name. */
export function undefinedIn(when: string, { axes, stamps }: Vocabulary): readonly UndefinedKey[] {
  const parsed = parseCondition(when);
  if (!parsed.ok) return [];
  const found: UndefinedKey[] = [];
  const checkStamp = (key: string): void => {
    const way = wayOfStamp(key, stamps);
    if (way.length === 0) {
      const known = stamps.map((stamp) => stamp.key);
      found.push({ axis: stampAxis, value: key, suggestions: nearest(key, known) });
    }
    for (const { when: standing } of way) found.push(...(standing ? undefinedIn(standing, { axes, stamps: [] }) : []));
  };
  const check = (condition: Condition): void => {
    if ('axis' in condition) {
      if (condition.axis === stampAxis) {
        condition.values.forEach(checkStamp);
        return;
      }
      const axis = axes.find((each) => each.key === condition.axis);
      if (!axis) {
        found.push({
          axis: condition.axis,
          value: null,
          suggestions: nearest(
            condition.axis,
            axes.map((each) => each.key),
          ),
        });
        return;
      }
      const known = flattenValues(axis).map(({ value }) => value.key);
      for (const value of condition.values) {
        if (!known.includes(value)) found.push({ axis: axis.key, value, suggestions: nearest(value, known) });
      }
    } else if ('not' in condition) check(condition.not);
    else ('all' in condition ? condition.all : condition.any).forEach(check);
  };
  check(parsed.condition);
  return found;
}

/** Up to three of the known keys that differ little from a key, nearest first. */
export function nearest(key: string, known: readonly string[]): readonly string[] {
  return known
    .map((each) => ({ each, far: distance(key.toLowerCase(), each.toLowerCase()) }))
    .filter(({ each, far }) => far <= Math.max(2, Math.floor(Math.max(key.length, each.length) / 3)))
    .sort((a, b) => a.far - b.far)
    .slice(0, 3)
    .map(({ each }) => each);
}

/** One sentence that says what is undefined and what may have been meant. */
export function describeUndefined(key: UndefinedKey): string {
  const what =
    key.axis === stampAxis
      ? `The stamp “${key.value ?? ''}”`
      : key.value === null
        ? `The axis “${key.axis}”`
        : `The value “${key.value}” of the axis “${key.axis}”`;
  const hint =
    key.suggestions.length > 0 ? ` Nearest defined: ${key.suggestions.map((each) => `“${each}”`).join(', ')}.` : '';
  return `${what} is not defined.${hint}`;
}
