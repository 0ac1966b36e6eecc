import type { Axis, AxisValue } from '../../../core/src/model/axis.js';
import type { Profile } from '../../../core/src/model/profile.js';

export function isIn(axis: Axis, { axes }: Profile, value: string): boolean {
  const choice = axes[axis.key];
  const way = wayDown(axis, value);
  if (way.length === 0) return false;
  if (!choice) return true;
  for (const key of [...way].reverse()) {
    if (choice.in?.includes(key)) return true;
    if (choice.out?.includes(key)) return false;
  }
  return choice.default === 'in';
}

/** The keys from the outermost value down to one; none where there is no such value. */
export function wayDown(axis: Axis, key: string): readonly string[] {
  const search = (values: readonly AxisValue[]): readonly string[] => {
    for (const value of values) {
      if (value.key === key) return [key];
      const below = search(value.values ?? []);
      if (below.length > 0) return [value.key, ...below];
    }
    return [];
  };
  return search(axis.values);
}

/** A condition in parts. */
export type Condition =
  | { readonly any: readonly Condition[] }
  | { readonly all: readonly Condition[] }
  | { readonly not: Condition }
  | { readonly axis: string; readonly values: readonly string[] };

/** Reads a condition by taking it apart from the outside: at “or”, then at “and”, then at “not” and brackets. */
export function readCondition(text: string): Condition | null {
  const signs = text.match(/"(?:\\.|[^"\\])*"|[(),]|[^\s(),"]+/g) ?? [];
  return taken(signs);
}

function taken(signs: readonly string[]): Condition | null {
  for (const [word, join] of [
    ['or', (any: readonly Condition[]): Condition => ({ any })],
    ['and', (all: readonly Condition[]): Condition => ({ all })],
  ] as const) {
    const parts = splitAt(signs, word);
    if (parts.length === 1) continue;
    const read = parts.map(taken);
    return read.every((part) => part !== null) ? join(read) : null;
  }
  if (signs[0] === 'not') {
    const inner = taken(signs.slice(1));
    return inner && { not: inner };
  }
  if (signs[0] === '(' && signs.at(-1) === ')') return taken(signs.slice(1, -1));
  const [axis, is, ...list] = signs;
  if (axis === undefined || is !== 'is' || list.length % 2 === 0) return null;
  if (list.some((sign, at) => (sign === ',') !== (at % 2 === 1))) return null;
  return { axis: plainKey(axis), values: list.filter((_, at) => at % 2 === 0).map(plainKey) };
}

/** The parts between a word that stands in no brackets. */
function splitAt(signs: readonly string[], word: string): readonly (readonly string[])[] {
  const parts: string[][] = [[]];
  let depth = 0;
  for (const sign of signs) {
    if (sign === '(') depth += 1;
    if (sign === ')') depth -= 1;
    if (sign === word && depth === 0) parts.push([]);
    else parts.at(-1)?.push(sign);
  }
  return parts;
}

const plainKey = (sign: string): string => (sign.startsWith('"') ? sign.slice(1, -1).replace(/\\(.)/g, '$1') : sign);

export function leavesOf(condition: Condition): { axis: string; values: readonly string[] }[] {
  if ('axis' in condition) return [condition];
  return 'all' in condition ? condition.all.flatMap(leavesOf) : [];
}
