import { isLeftOut, textAttr } from '../model/node.js';
import { wayOfStamp, type Stamp } from '../model/stamp.js';
import { bothConditions, parseCondition, printKey, type Condition } from './condition-syntax.js';

/** The axis that stands for stamps in conditions: no axis of a team has a key that begins with this sign. */
export const stampAxis = '@stamp';

/** The condition that content bears by a stamp: what it comes to is said by the stamps of the vocabulary. */
export function stampCondition(key: string): string {
  return `${stampAxis} is ${printKey(key)}`;
}

interface Conditioned {
  readonly attrs?: Readonly<Record<string, unknown>> | undefined;
}

/**
 * The condition on a node itself: its own and that of its stamp; null where there is none. That of a mark, too: of a
 * condition or of a stamp.
 */
export function conditionOn(of: Conditioned): string | null {
  const when = textAttr(of, 'when') || null;
  const stamp = textAttr(of, 'stamp');
  // What is shown although it is left out stays, whatever its stamp says.
  return stamp === null || stamp === '' || isLeftOut(of) ? when : bothConditions(when, stampCondition(stamp));
}

/** What limits a block, and says what it is. */
export interface Limits {
  readonly when: string | null;
  readonly stamp: string | null;
}

export function limitsOf(of: Conditioned): Limits {
  return { when: textAttr(of, 'when') || null, stamp: textAttr(of, 'stamp') || null };
}

/**
 * What a block bears that is besides to bear what another did: it keeps a stamp of its own, and has the condition of the
 * other's then.
 * @param mayBear whether a block of its kind can bear a stamp
 */
export function bothLimits(own: Limits, other: Limits, mayBear: boolean): Limits {
  const takes = mayBear && own.stamp === null;
  const rest = takes || other.stamp === own.stamp ? other.when : conditionOn({ attrs: { ...other } });
  return { when: bothConditions(own.when, rest), stamp: takes ? other.stamp : own.stamp };
}

/** The condition with each stamp replaced by what it comes to. A stamp that is not defined never holds. */
export function withoutStamps(condition: Condition, stamps: readonly Stamp[]): Condition {
  if ('axis' in condition) {
    if (condition.axis !== stampAxis) return condition;
    const each = condition.values.map((key) => standingCondition(key, stamps));
    return each.length === 1 && each[0] ? each[0] : { any: each };
  }
  if ('not' in condition) return { not: withoutStamps(condition.not, stamps) };
  if ('all' in condition) return { all: condition.all.map((each) => withoutStamps(each, stamps)) };
  return { any: condition.any.map((each) => withoutStamps(each, stamps)) };
}

/** All that a stamp and those that it derives from ask for; `{ all: [] }`, which always holds, where they ask for nothing. */
export function standingCondition(key: string, stamps: readonly Stamp[]): Condition {
  const way = wayOfStamp(key, stamps);
  if (way.length === 0) return never;
  const asked = way.flatMap(({ when }): readonly Condition[] => {
    if (when === null || when === '') return [];
    const parsed = parseCondition(when);
    return [parsed.ok ? parsed.condition : never];
  });
  return asked.length === 1 && asked[0] ? asked[0] : { all: asked };
}

const never: Condition = { any: [] };

/**
 * Reads a condition and puts in for each stamp what it comes to; null where it cannot be read.
 * @param when the text form
 */
export function readCondition(when: string, stamps: readonly Stamp[]): Condition | null {
  const parsed = parseCondition(when);
  if (!parsed.ok) return null;
  return when.includes(stampAxis) ? withoutStamps(parsed.condition, stamps) : parsed.condition;
}
