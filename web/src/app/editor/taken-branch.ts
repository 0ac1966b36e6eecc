import { branchesOf, makeNode, truth, type Selector } from '@allomorph/core';

/** Which branch of a choice a lens shows, by the conditions of its branches in order; -1: none. */
export function takenBranch(conditions: readonly unknown[], selector: Selector): number {
  const branches = conditions.map((when) => makeNode('branch', { when }));
  const algebra = truth((when) => selector.holds(when));
  return branchesOf(algebra, makeNode('choice', null, branches), true).findIndex(({ set }) => set);
}
