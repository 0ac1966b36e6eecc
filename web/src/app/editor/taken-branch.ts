import {
  branchesOf,
  makeNode,
  threeAnswers,
  truth,
  type Algebra,
  type ConditionTest,
  type OpenSelector,
  type OpenState,
} from '@allomorph/core';

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
 * What a lens says of the branches of a choice, by their conditions in order. Where it is not decided whether one holds, that one and
 * those after it stay open.
 */
export function branchStates(conditions: readonly unknown[], { selector, open }: ChoiceLens): readonly OpenState[] {
  const branches = conditions.map((when) => makeNode('branch', { when }));
  const statesBy = <S>(algebra: Algebra<S>): readonly S[] =>
    branchesOf(algebra, makeNode('choice', null, branches), algebra.all).map(({ set }) => set);
  if (open) return statesBy(threeAnswers((when) => open.state(when)));
  return statesBy(truth((when) => selector.holds(when))).map((isIn) => (isIn ? 'in' : 'out'));
}
