import fc from 'fast-check';
import { axes } from '../../../tests/support/library-parts.js';
import type { Profile } from '../model/profile.js';
import { Selector } from './selector.js';
import { VariantSets } from './variant-sets.js';

const choice = fc.record({
  default: fc.constantFrom<'in' | 'out'>('in', 'out'),
  in: fc.subarray(['linux', 'mac', 'basic']),
  out: fc.subarray(['expert']),
});
const profile: fc.Arbitrary<Profile> = fc.record({
  axes: fc.record({ os: choice, level: choice }, { requiredKeys: [] }),
});
const when = fc.constantFrom(
  null,
  'os is linux',
  'not os is linux, mac',
  'os is linux and level is basic',
  'os is mac or not (level is basic or level is expert)',
  'os is unknown',
  'os is',
);

describe('Sets of variants', () => {
  it('are those of one evaluation per variant, for any number of variants', () => {
    fc.assert(
      fc.property(fc.array(profile, { maxLength: 70 }), when, (profiles, condition) => {
        const sets = new VariantSets({ axes, stamps: [] }, profiles);
        const wanted = profiles.flatMap((each, at) =>
          new Selector({ axes, stamps: [] }, each).holds(condition) ? [at] : [],
        );
        expect(sets.positions(sets.holds(condition))).toEqual(wanted);
        expect(sets.holds(condition).size).toBe(wanted.length);
      }),
      { numRuns: 150 },
    );
  });

  it('combine as sets do, and equal ones are the same object', () => {
    const numbers = fc.uniqueArray(fc.integer({ min: 0, max: 39 }));
    const profiles: Profile[] = Array.from({ length: 40 }, () => ({ axes: {} }));
    fc.assert(
      fc.property(numbers, numbers, (a, b) => {
        // Each variant has an axis value of its own, so that any set can be asked for.
        const values = profiles.map((_, at) => ({ key: `v${at}`, title: '', code: '', colour: 0, pattern: 0 }));
        const own = profiles.map((_, at): Profile => ({ axes: { each: { default: 'out', in: [`v${at}`] } } }));
        const sets = new VariantSets({ axes: [{ key: 'each', title: '', values }], stamps: [] }, own);
        const setOf = (list: readonly number[]) =>
          list.length === 0 ? sets.none : sets.holds(`each is ${list.map((at) => `v${at}`).join(', ')}`);
        const [first, second] = [setOf(a), setOf(b)];
        const sorted = (list: readonly number[]): number[] => [...list].sort((x, y) => x - y);
        expect(sets.positions(sets.and(first, second))).toEqual(sorted(a.filter((at) => b.includes(at))));
        expect(sets.positions(sets.or(first, second))).toEqual(sorted([...new Set([...a, ...b])]));
        expect(sets.positions(sets.minus(first, second))).toEqual(sorted(a.filter((at) => !b.includes(at))));
        expect(sets.or(sets.and(first, second), sets.minus(first, second))).toBe(first);
      }),
      { numRuns: 60 },
    );
  });
});
