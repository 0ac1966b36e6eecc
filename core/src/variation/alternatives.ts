import { flattenValues } from '../model/axis.js';
import type { Stamp, Vocabulary } from '../model/stamp.js';
import type { Condition } from './condition-syntax.js';
import { readCondition } from './stamps.js';

/**
 * Whether two conditions are alternatives: both name values of one axis, and none of the one is, holds, or stands
 * under one of the other. Only where a profile leaves an axis open are both in.
 * @returns the axis, or null
 */
export function alternativesOn(a: string, b: string, { axes, stamps }: Vocabulary): string | null {
  const [first, second] = [leavesOf(a, stamps), leavesOf(b, stamps)];
  for (const [key, values] of first) {
    const others = second.get(key);
    const axis = axes.find((each) => each.key === key);
    if (!others || !axis) continue;
    const above = new Map(flattenValues(axis).map(({ value, ancestors }) => [value.key, ancestors]));
    const related = (x: string, y: string): boolean =>
      x === y || (above.get(x)?.includes(y) ?? false) || (above.get(y)?.includes(x) ?? false);
    if (!values.some((x) => others.some((y) => related(x, y)))) return key;
  }
  return null;
}

/** The values that a condition asks for on each axis: those of a leaf, or of the leaves that it all asks for. */
function leavesOf(when: string, stamps: readonly Stamp[]): ReadonlyMap<string, readonly string[]> {
  const leaves = new Map<string, readonly string[]>();
  const add = (condition: Condition): void => {
    if ('axis' in condition) leaves.set(condition.axis, condition.values);
    else if ('all' in condition) condition.all.forEach(add);
  };
  const read = readCondition(when, stamps);
  if (read) add(read);
  return leaves;
}
