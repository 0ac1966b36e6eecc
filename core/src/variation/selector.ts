import type { Condition } from './condition-syntax.js';
import { valueStates, type Profile } from '../model/profile.js';
import type { Stamp, Vocabulary } from '../model/stamp.js';
import { readCondition } from './stamps.js';

/** Whatever tells whether a condition holds. */
export interface ConditionTest {
  /** @param when null: always */
  holds(when: string | null): boolean;
}

/**
 * Decides conditions under one profile. Each text is parsed and decided once and then remembered.
 * A leaf on an undefined axis, value or stamp does not hold; a text that cannot be parsed does not hold either
 * (both are reported by `undefinedIn` and `checkBody`).
 */
export class Selector implements ConditionTest {
  private readonly decided = new Map<string, boolean>();
  private readonly states: ReadonlyMap<string, ReadonlyMap<string, boolean>>;

  private readonly stamps: readonly Stamp[];

  constructor({ axes, stamps }: Vocabulary, profile: Profile) {
    this.stamps = stamps;
    this.states = new Map(axes.map((axis) => [axis.key, valueStates(axis, profile.axes[axis.key])]));
  }

  /** Every condition that was asked for so far, with the answer. */
  get decisions(): ReadonlyMap<string, boolean> {
    return this.decided;
  }

  /** Whether a condition holds; null means “always”. */
  holds(when: string | null): boolean {
    if (!when) return true;
    let result = this.decided.get(when);
    if (result === undefined) {
      const condition = readCondition(when, this.stamps);
      result = condition !== null && this.decide(condition);
      this.decided.set(when, result);
    }
    return result;
  }

  private decide(condition: Condition): boolean {
    if ('axis' in condition) {
      const states = this.states.get(condition.axis);
      return condition.values.some((value) => states?.get(value) ?? false);
    }
    if ('not' in condition) return !this.decide(condition.not);
    if ('all' in condition) return condition.all.every((each) => this.decide(each));
    return condition.any.some((each) => this.decide(each));
  }
}
