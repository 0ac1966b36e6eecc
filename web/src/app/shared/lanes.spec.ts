import type { Axis } from '@allomorph/core';
import { describeCondition, laneCode, laneColour, laneColours, lanePattern, lanesOf } from './lanes';

const axes: readonly Axis[] = [
  {
    key: 'product',
    title: 'Product',
    values: [
      { key: 'two', title: 'Dunlin 2', code: 'D2', colour: 1, pattern: 2 },
      { key: 'four', title: 'Dunlin 4', code: 'D4', colour: 3, pattern: 4 },
    ],
  },
  { key: 'market', title: 'Market', values: [{ key: 'eu', title: 'Europe', code: 'EU', colour: 9, pattern: 7 }] },
];

const vocabulary = {
  axes,
  stamps: [
    { key: 'value', title: 'Torque value', on: 'both' as const, from: null, when: null },
    { key: 'large', title: 'Large mast', on: 'blocks' as const, from: 'value', when: 'product is four' },
  ],
};

describe('Lanes', () => {
  it('stand in the order of the axes, whatever the condition says first', () => {
    const lanes = lanesOf('market is eu and product is two, four', vocabulary);
    expect(lanes.map((lane) => [lane.axis.key, laneCode(lane)])).toEqual([
      ['product', 'D2 D4'],
      ['market', 'EU'],
    ]);
  });

  it('tell what is excluded, undefined, or more than they show', () => {
    const [excluded] = lanesOf('not product is two', vocabulary);
    expect(excluded && laneCode(excluded)).toBe('−D2');
    const [unknown] = lanesOf('product is three', vocabulary);
    expect(unknown && laneCode(unknown)).toBe('??');
    expect(lanesOf('product is two or market is eu', vocabulary).every((lane) => lane.partial)).toBeTrue();
    expect(lanesOf('product is two', vocabulary)[0]?.partial).toBeFalse();
    expect(lanesOf('product is', vocabulary)).toEqual([]);
  });

  it('take colour and pattern from the first value, within what there is', () => {
    const [lane] = lanesOf('market is eu', vocabulary);
    expect(lane && laneColour(lane)).toBe(laneColours[1]);
    expect(lane && lanePattern(lane)).toBe('pattern-1');
  });

  it('have colours that differ from the paper by at least 3 to 1', () => {
    // WCAG 2.2, 1.4.11 “Non-text contrast”; relative luminance by its definition in the same document.
    const luminance = (hex: string): number => {
      const [r = 0, g = 0, b = 0] = [1, 3, 5]
        .map((at) => parseInt(hex.slice(at, at + 2), 16) / 255)
        .map((part) => (part <= 0.04045 ? part / 12.92 : ((part + 0.055) / 1.055) ** 2.4));
      return 0.2126 * r + 0.7152 * g + 0.0722 * b;
    };
    for (const colour of laneColours) {
      expect((luminance('#fffefb') + 0.05) / (luminance(colour) + 0.05))
        .withContext(colour)
        .toBeGreaterThanOrEqual(3);
    }
  });

  it('read in the words of the vocabulary', () => {
    expect(describeCondition('product is two, four and not market is eu', vocabulary)).toBe(
      'Product: Dunlin 2 or Dunlin 4 and not (Market: Europe)',
    );
    expect(describeCondition('(product is two or market is eu) and product is four', vocabulary)).toBe(
      '(Product: Dunlin 2 or Market: Europe) and Product: Dunlin 4',
    );
    expect(describeCondition('nonsense', vocabulary)).toBe('nonsense');
  });
});
