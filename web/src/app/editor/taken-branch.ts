import type { ConditionTest, OpenSelector, OpenState } from '@allomorph/core';

/** The lens as choices are looked at through it. */
interface ChoiceLens {
  readonly selector: ConditionTest;
  /** Where the lens leaves axes open. */
  readonly open?: OpenSelector | null | undefined;
}

/** Which branch of a choice a lens shows, by the conditions of its branches in order; -1: none. */
export function takenBranch(conditions: readonly unknown[], selector: ConditionTest): number {
  return branchStates(conditions, { selector }).indexOf('in');
}

/**
 * What a lens says of the branches of a choice, by their conditions in order: the first that holds is in, and those after it out.
 * Where it is not decided whether one holds, that one and those after it stay open.
 */
export function branchStates(conditions: readonly unknown[], { selector, open }: ChoiceLens): readonly OpenState[] {
  let before: OpenState = 'out';
  return conditions.map((condition): OpenState => {
    const when = typeof condition === 'string' ? condition : null;
    const own: OpenState = open ? open.state(when) : selector.holds(when) ? 'in' : 'out';
    if (before === 'in' || own === 'out') return 'out';
    const state: OpenState = before === 'open' ? 'open' : own;
    before = own === 'in' ? 'in' : 'open';
    return state;
  });
}
