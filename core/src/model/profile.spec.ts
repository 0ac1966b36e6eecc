import { axisValue as value } from '../../../tests/support/library-parts.js';
import type { Axis } from './axis.js';
import { valueStates } from './profile.js';

/** product.md, “Axes, profiles, conditions” 2: the state of a value is that of the nearest mark on itself or above. */

const axis: Axis = {
  key: 'market',
  title: 'Market',
  values: [value('world', value('europe', value('nordic', value('norway')), value('alps')), value('asia'))],
};
const inUnder = (...of: Parameters<typeof valueStates>): readonly string[] =>
  [...valueStates(...of)].filter(([, state]) => state).map(([key]) => key);

describe('The values that a profile has in', () => {
  it('are all where it does not speak of the axis', () => {
    expect(inUnder(axis, undefined).length).toBe(6);
  });

  it('follow the nearest mark on the way up, not the farthest', () => {
    expect(inUnder(axis, { default: 'in', out: ['world'], in: ['europe'] })).toEqual([
      'europe',
      'nordic',
      'norway',
      'alps',
    ]);
    expect(inUnder(axis, { default: 'out', in: ['world', 'norway'], out: ['europe'] })).toEqual([
      'world',
      'norway',
      'asia',
    ]);
  });

  it('hold one that is marked both ways', () => {
    expect(inUnder(axis, { default: 'out', in: ['asia'], out: ['asia'] })).toEqual(['asia']);
    expect(inUnder(axis, { default: 'in', in: ['alps'], out: ['europe', 'alps'] })).toEqual(['world', 'alps', 'asia']);
  });
});
