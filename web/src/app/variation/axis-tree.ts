import type { AxisValue } from '@allomorph/core';

/** The tree with a value added as the last one under a parent; null: at the top. */
export function addValue(values: readonly AxisValue[], parent: string | null, added: AxisValue): AxisValue[] {
  if (parent === null) return [...values, added];
  return values.map((value) => {
    const below = value.values ?? [];
    if (value.key === parent) return { ...value, values: [...below, added] };
    return below.length > 0 ? { ...value, values: addValue(below, parent, added) } : value;
  });
}

/** The tree with one value's title and look changed. */
export function changeValue(
  values: readonly AxisValue[],
  key: string,
  look: Omit<AxisValue, 'key' | 'values'>,
): AxisValue[] {
  return values.map((value) => {
    const own = value.key === key ? { ...value, ...look } : value;
    return own.values ? { ...own, values: changeValue(own.values, key, look) } : own;
  });
}

/** The tree without a value and all below it. */
function withoutValue(values: readonly AxisValue[], key: string): AxisValue[] {
  return values
    .filter((value) => value.key !== key)
    .map((value) => (value.values ? { ...value, values: withoutValue(value.values, key) } : value));
}

/**
 * The tree with a value, and all below it, moved beside or into another one.
 * @returns the same tree where it cannot stand there: in itself, or in what stands below it
 */
export function moveValue(
  values: readonly AxisValue[],
  key: string,
  target: string,
  place: 'before' | 'into' | 'after',
): readonly AxisValue[] {
  const moved = findValue(values, key);
  if (!moved || key === target || findValue(moved.values ?? [], target)) return values;
  const put = (list: readonly AxisValue[]): AxisValue[] =>
    list.flatMap((each) => {
      const below = each.values ? { ...each, values: put(each.values) } : each;
      if (each.key !== target) return below;
      if (place === 'into') return { ...below, values: [...(below.values ?? []), moved] };
      return place === 'before' ? [moved, below] : [below, moved];
    });
  return put(withoutValue(values, key));
}

/** The tree with a value before the one above it, or behind the one below it, among those with the same parent. */
export function stepValue(values: readonly AxisValue[], key: string, step: -1 | 1): readonly AxisValue[] {
  const siblings = siblingsOf(values, key);
  const beside = siblings[siblings.findIndex((each) => each.key === key) + step];
  return beside ? moveValue(values, key, beside.key, step < 0 ? 'before' : 'after') : values;
}

function siblingsOf(values: readonly AxisValue[], key: string): readonly AxisValue[] {
  if (values.some((value) => value.key === key)) return values;
  for (const value of values) {
    const found = siblingsOf(value.values ?? [], key);
    if (found.length > 0) return found;
  }
  return [];
}

function findValue(values: readonly AxisValue[], key: string): AxisValue | undefined {
  for (const value of values) {
    const found = value.key === key ? value : findValue(value.values ?? [], key);
    if (found) return found;
  }
  return undefined;
}
