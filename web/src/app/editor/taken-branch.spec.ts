import { OpenSelector, Selector } from '@allomorph/core';
import { axes } from './testing';
import { branchStates, takenBranch } from './taken-branch';

const vocabulary = {
  axes: [...axes, { ...axes[0], key: 'market', title: 'Market' } as (typeof axes)[number]],
  stamps: [],
};
const choice = { axes: { os: { default: 'out' as const, in: ['mac'], out: ['linux'] } } };
const open = new OpenSelector(vocabulary, choice);
const states = (...conditions: readonly (string | null)[]): string =>
  branchStates(conditions, { selector: { holds: () => true }, open }).join(' ');

describe('The branches of a choice', () => {
  it('are out after the first that holds', () => {
    const selector = new Selector(vocabulary, choice);
    expect(branchStates(['os is linux', 'os is mac', null], { selector })).toEqual(['out', 'in', 'out']);
    expect(takenBranch(['os is linux', 'os is mac', null], selector)).toBe(1);
    expect(takenBranch(['os is linux'], selector)).toBe(-1);
  });

  it('stay open behind one of which it is not decided', () => {
    expect(states('market is mac', 'os is linux', 'os is mac', null)).toBe('open out open out');
    expect(states('market is mac', null)).toBe('open open');
    expect(states('os is mac', 'market is mac')).toBe('in out');
    expect(states('os is linux', 'market is mac')).toBe('out open');
  });
});
