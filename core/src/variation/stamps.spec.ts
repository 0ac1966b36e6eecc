import { axes } from '../../../tests/support/library-parts.js';
import type { Profile } from '../model/profile.js';
import { wayOfStamp, type Stamp } from '../model/stamp.js';
import { alternativesOn } from './alternatives.js';
import { OpenSelector } from './open-lens.js';
import { Selector } from './selector.js';
import { bothLimits, conditionOn, limitsOf, stampCondition } from './stamps.js';
import { describeUndefined, undefinedIn } from './undefined-keys.js';
import { VariantSets } from './variant-sets.js';

const stamp = (key: string, when: string | null, from: string | null = null): Stamp => ({
  key,
  title: key,
  on: 'both',
  from,
  when,
});
const stamps = [
  stamp('value', null),
  stamp('expert', 'level is expert'),
  stamp('expert on mac', 'os is mac', 'expert'),
  stamp('gone axis', 'colour is red'),
];
const vocabulary = { axes, stamps };
const profile = (os: string, level: string): Profile => ({
  axes: { os: { default: 'out', in: [os] }, level: { default: 'out', in: [level] } },
});

describe('What bears a stamp', () => {
  const holds = (key: string, of: Profile): boolean => new Selector(vocabulary, of).holds(stampCondition(key));

  it('is in where its standing condition holds, and those of the stamps that it derives from', () => {
    expect(holds('value', profile('linux', 'basic'))).toBeTrue();
    expect(holds('expert', profile('linux', 'basic'))).toBeFalse();
    expect(holds('expert', profile('linux', 'expert'))).toBeTrue();
    expect(holds('expert on mac', profile('linux', 'expert'))).toBeFalse();
    expect(holds('expert on mac', profile('mac', 'basic'))).toBeFalse();
    expect(holds('expert on mac', profile('mac', 'expert'))).toBeTrue();
  });

  it('is in nowhere where there is no such stamp, which is told with the nearest ones', () => {
    expect(holds('expret', profile('linux', 'expert'))).toBeFalse();
    const [found] = undefinedIn(stampCondition('expret'), vocabulary);
    expect(found && describeUndefined(found)).toBe('The stamp “expret” is not defined. Nearest defined: “expert”.');
    expect(undefinedIn(stampCondition('gone axis'), vocabulary).map(({ axis }) => axis)).toEqual(['colour']);
    expect(undefinedIn(`os is mac and ${stampCondition('expert on mac')}`, vocabulary)).toEqual([]);
  });

  it('is decided alike for one variant, for many, and where axes are open', () => {
    const profiles = ['linux', 'mac'].flatMap((os) => ['basic', 'expert'].map((level) => profile(os, level)));
    const sets = new VariantSets(vocabulary, profiles);
    for (const { key } of stamps) {
      const set = sets.holds(stampCondition(key));
      expect(profiles.map((_, at) => sets.has(set, at))).toEqual(profiles.map((each) => holds(key, each)));
    }
    const open = new OpenSelector(vocabulary, { axes: { level: { default: 'out', in: ['expert'] } } });
    expect(stamps.map(({ key }) => open.state(stampCondition(key)))).toEqual(['in', 'in', 'open', 'out']);
  });

  it('ends where stamps derive from each other in a circle', () => {
    const circle = [stamp('a', 'os is mac', 'b'), stamp('b', 'level is expert', 'a')];
    expect(wayOfStamp('a', circle).map(({ key }) => key)).toEqual(['a', 'b']);
    const selector = new Selector({ axes, stamps: circle }, profile('mac', 'expert'));
    expect(selector.holds(stampCondition('b'))).toBeTrue();
  });

  it('is an alternative to what another value of an axis is for', () => {
    expect(alternativesOn(stampCondition('expert'), 'level is basic', vocabulary)).toBe('level');
    expect(alternativesOn(stampCondition('value'), 'level is basic', vocabulary)).toBeNull();
  });

  it('has its own condition besides, and is shown where it is left out on purpose', () => {
    const attrs = { when: 'os is mac', stamp: 'expert on mac' };
    expect(conditionOn({ attrs })).toBe('os is mac and @stamp is "expert on mac"');
    expect(conditionOn({ attrs: { stamp: 'value' } })).toBe('@stamp is value');
    expect(conditionOn({ attrs: { when: '' } })).toBeNull();
    expect(conditionOn({ attrs: { stamp: 'expert', leftOut: true } })).toBeNull();
  });
});

describe('What a block takes over from another', () => {
  it('is its stamp where it has none, and the condition of it otherwise', () => {
    const other = limitsOf({ attrs: { when: 'os is mac', stamp: 'expert' } });
    expect(bothLimits({ when: null, stamp: null }, other, true)).toEqual({ when: 'os is mac', stamp: 'expert' });
    expect(bothLimits({ when: null, stamp: 'expert' }, other, true)).toEqual({ when: 'os is mac', stamp: 'expert' });
    expect(bothLimits({ when: null, stamp: 'value' }, other, true)).toEqual({
      when: 'os is mac and @stamp is expert',
      stamp: 'value',
    });
    expect(bothLimits({ when: 'level is basic', stamp: null }, other, false)).toEqual({
      when: 'level is basic and os is mac and @stamp is expert',
      stamp: null,
    });
  });
});
