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
export function removeValue(values: readonly AxisValue[], key: string): AxisValue[] {
  return values
    .filter((value) => value.key !== key)
    .map((value) => (value.values ? { ...value, values: removeValue(value.values, key) } : value));
}
