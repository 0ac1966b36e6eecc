import { flattenValues, type Axis } from './axis.js';

/** What a profile says about one axis: a default, and marks on single values. */
export interface AxisChoice {
  readonly default: 'in' | 'out';
  readonly in?: readonly string[];
  readonly out?: readonly string[];
}

/**
 * A named choice over the axes. An axis that the profile does not mention is wholly in: such a profile
 * does not filter by that axis. In a lens, `open` axes are those not chosen yet.
 */
export interface Profile {
  readonly axes: Readonly<Record<string, AxisChoice>>;
}

/**
 * The state of every value of an axis under a choice: that of the nearest mark on the value itself or
 * an ancestor, else the default of the axis.
 * @param choice undefined: all values are in
 * @returns value key to whether it is in
 */
export function valueStates(axis: Axis, choice: AxisChoice | undefined): ReadonlyMap<string, boolean> {
  const marks = new Map<string, boolean>();
  for (const key of choice?.out ?? []) marks.set(key, false);
  for (const key of choice?.in ?? []) marks.set(key, true);
  const states = new Map<string, boolean>();
  for (const { value, ancestors } of flattenValues(axis)) {
    const own = marks.get(value.key);
    const parent = ancestors.at(-1);
    // Parents come first, so the parent's state already is that of its nearest mark.
    const inherited = parent === undefined ? undefined : states.get(parent);
    states.set(value.key, own ?? inherited ?? (choice ? choice.default === 'in' : true));
  }
  return states;
}
