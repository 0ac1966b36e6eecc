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
 * @returns the same tree where it cannot stand there: in itself, in what stands below it, or at what is not there
 */
export function moveValue(
  values: readonly AxisValue[],
  key: string,
  target: string,
  place: 'before' | 'into' | 'after',
): readonly AxisValue[] {
  const moved = findValue(values, key);
  if (!moved || key === target || !findValue(withoutValue(values, key), target)) return values;
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
  const { siblings } = familyOf(values, key);
  const beside = siblings[siblings.findIndex((each) => each.key === key) + step];
  return beside ? moveValue(values, key, beside.key, step < 0 ? 'before' : 'after') : values;
}

/**
 * Where a value stands, as `moveValue` is told of it.
 * @returns undefined where it stands nowhere, or is the only value of the axis
 */
export function placeOf(
  values: readonly AxisValue[],
  key: string,
): { readonly beside: string; readonly place: 'before' | 'into' | 'after' } | undefined {
  const { parent, siblings } = familyOf(values, key);
  const at = siblings.findIndex((each) => each.key === key);
  const [above, below] = [siblings[at - 1], siblings[at + 1]];
  if (above) return { beside: above.key, place: 'after' };
  if (at === 0 && below) return { beside: below.key, place: 'before' };
  return at === 0 && parent !== null ? { beside: parent, place: 'into' } : undefined;
}

interface Family {
  /** Null: they stand at the top. */
  readonly parent: string | null;
  readonly siblings: readonly AxisValue[];
}

/** Those among which a value stands, itself too; none where it is not there. */
function familyOf(values: readonly AxisValue[], key: string, parent: string | null = null): Family {
  if (values.some((value) => value.key === key)) return { parent, siblings: values };
  for (const value of values) {
    const found = familyOf(value.values ?? [], key, value.key);
    if (found.siblings.length > 0) return found;
  }
  return { parent, siblings: [] };
}

/** The value with this key, at any depth. */
export function findValue(values: readonly AxisValue[], key: string): AxisValue | undefined {
  for (const value of values) {
    const found = value.key === key ? value : findValue(value.values ?? [], key);
    if (found) return found;
  }
  return undefined;
}
