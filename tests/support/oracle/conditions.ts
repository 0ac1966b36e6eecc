import type { Axis, AxisValue } from '../../../core/src/model/axis.js';
import type { Profile } from '../../../core/src/model/profile.js';
import type { Condition } from '../../../core/src/variation/condition-syntax.js';

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

export function leavesOf(condition: Condition): { axis: string; values: readonly string[] }[] {
  if ('axis' in condition) return [condition];
  return 'all' in condition ? condition.all.flatMap(leavesOf) : [];
}
