import { axisValue as value } from '../../../tests/support/library-parts.js';
import type { Axis } from '../model/axis.js';
import { alternativesOn } from './alternatives.js';

const axes: readonly Axis[] = [
  { key: 'market', title: 'Market', values: [value('europe', value('nordic')), value('asia')] },
  { key: 'os', title: 'OS', values: [value('mac'), value('linux')] },
];

describe('Two conditions', () => {
  it('are alternatives where they name unrelated values of one axis', () => {
    expect(alternativesOn('os is mac', 'os is linux', { axes, stamps: [] })).toBe('os');
    expect(alternativesOn('market is nordic', 'market is asia', { axes, stamps: [] })).toBe('market');
    expect(alternativesOn('os is mac and market is asia', 'os is mac and market is europe', { axes, stamps: [] })).toBe(
      'market',
    );
  });

  it('are none where a value of the one is one of the other, or stands under it', () => {
    const related = [
      ['os is mac', 'os is mac'],
      ['market is europe', 'market is nordic'],
      ['market is nordic', 'market is europe'],
      ['market is asia, nordic', 'market is europe'],
      ['os is mac', 'market is asia'],
    ] as const;
    for (const [a, b] of related)
      expect(alternativesOn(a, b, { axes, stamps: [] }))
        .withContext(`${a}, ${b}`)
        .toBeNull();
  });
});
