import { flattenValues, type Axis, type AxisValue } from '../model/axis.js';
import { valueStates, type AxisChoice, type Profile } from '../model/profile.js';
import { parseCondition, printCondition, type Condition } from './condition-syntax.js';
import { simplify } from './simplify.js';

/** A value that the vocabulary gives up: merged into another one of its axis, or retired where there is none. */
export interface GivenUp {
  readonly axis: string;
  readonly value: string;
  /** The value that stands in its place; null: nothing is for it any more. */
  readonly into: string | null;
}

/** What is left of a condition: another one, or that it always or never holds. */
export type LeftOfCondition =
  { readonly kind: 'condition'; readonly when: string } | { readonly kind: 'always' } | { readonly kind: 'never' };

/**
 * A condition without a value that is given up. Where the value is merged, the other one stands for it; where it is
 * retired, it is never in: what is left holds wherever the condition held in a profile that has the value out.
 * @returns the text as it was where it does not name the value, or cannot be read
 */
export function withoutValue(when: string, givenUp: GivenUp): LeftOfCondition {
  const parsed = parseCondition(when);
  if (!parsed.ok) return { kind: 'condition', when };
  const left = rewritten(parsed.condition, givenUp);
  if (left === parsed.condition) return { kind: 'condition', when };
  if (typeof left === 'boolean') return { kind: left ? 'always' : 'never' };
  const simple = simplify(left);
  return simple.kind === 'condition' ? { kind: 'condition', when: printCondition(simple.condition) } : simple;
}

/** The same condition where it does not change; true or false where it always or never holds. */
function rewritten(condition: Condition, givenUp: GivenUp): Condition | boolean {
  if ('axis' in condition) {
    if (condition.axis !== givenUp.axis || !condition.values.includes(givenUp.value)) return condition;
    const values = condition.values.flatMap((value) =>
      value !== givenUp.value ? value : givenUp.into === null ? [] : givenUp.into,
    );
    return values.length > 0 && { ...condition, values: [...new Set(values)] };
  }
  if ('not' in condition) {
    const inner = rewritten(condition.not, givenUp);
    return typeof inner === 'boolean' ? !inner : inner === condition.not ? condition : { not: inner };
  }
  const isAll = 'all' in condition;
  const before = isAll ? condition.all : condition.any;
  const after = before.map((each) => rewritten(each, givenUp));
  if (after.every((each, at) => each === before[at])) return condition;
  // One that decides the whole does so; those that change nothing go.
  if (after.includes(!isAll)) return !isAll;
  const operands = after.filter((each) => typeof each !== 'boolean');
  if (operands.length === 0) return isAll;
  return isAll ? { all: operands } : { any: operands };
}

/**
 * An axis without a value that is given up. The values below it go below the one that it is merged into; where it is
 * retired, or merged into one of them, they stand where it stood.
 */
export function axisWithout(axis: Axis, { value, into }: GivenUp): Axis {
  const placed = flattenValues(axis);
  const gone = placed.find((each) => each.value.key === value)?.value;
  if (!gone) return axis;
  const target = placed.find((each) => each.value.key === into);
  const orphans = gone.values ?? [];
  const movesBelow = target !== undefined && !target.ancestors.includes(value);
  const without = (values: readonly AxisValue[]): readonly AxisValue[] =>
    values.flatMap((each) => {
      if (each.key === value) return movesBelow ? [] : without(orphans);
      const below = without(each.values ?? []);
      const all = movesBelow && each.key === into ? [...below, ...orphans] : below;
      return all.length === 0 && !each.values ? each : { ...each, values: all };
    });
  return { ...axis, values: without(axis.values) };
}

/**
 * A profile for an axis that gives a value up: every other value stays in or out as it was, by a mark of its own where it
 * took its state from what is gone.
 * @param before the axis with the value; @param after without it
 */
export function profileWithout(profile: Profile, before: Axis, after: Axis, { value }: GivenUp): Profile {
  const choice = profile.axes[before.key];
  if (!choice) return profile;
  const without = (keys: readonly string[] | undefined): readonly string[] =>
    (keys ?? []).filter((key) => key !== value);
  const were = valueStates(before, choice);
  let kept: AxisChoice = { default: choice.default, in: without(choice.in), out: without(choice.out) };
  for (const { value: each } of flattenValues(after)) {
    const was = were.get(each.key);
    // Those above come first, so a mark that one of them gets holds for those below as well.
    if (was === undefined || valueStates(after, kept).get(each.key) === was) continue;
    const [into, other] = was ? (['in', 'out'] as const) : (['out', 'in'] as const);
    kept = {
      ...kept,
      [into]: [...(kept[into] ?? []), each.key],
      [other]: (kept[other] ?? []).filter((key) => key !== each.key),
    };
  }
  return { ...profile, axes: { ...profile.axes, [before.key]: kept } };
}
