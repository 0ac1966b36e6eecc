import { Selector, type Axis } from '@allomorph/core';
import { pickId, pickOf, pickOfProfile, profileOfPick } from './lens-pick';

const value = (key: string, ...values: Axis['values'][number][]): Axis['values'][number] => ({
  key,
  title: key,
  code: key,
  colour: 0,
  pattern: 0,
  ...(values.length > 0 ? { values } : {}),
});
const axes: readonly Axis[] = [
  { key: 'product', title: 'Product', values: [value('two'), value('family', value('four'), value('four-x'))] },
  { key: 'market', title: 'Market', values: [value('europe'), value('america')] },
];
const through = (pick: Record<string, string[]>) => {
  const selector = new Selector({ axes, stamps: [] }, profileOfPick(axes, pick));
  return (when: string): boolean => selector.holds(when);
};

describe('A free pick', () => {
  it('has in what is picked and what is for its category, all of axes that nothing is picked of, and nothing else', () => {
    const holds = through({ product: ['four'] });
    expect(['product is four', 'product is family', 'market is europe', 'market is america'].map(holds)).toEqual([
      true,
      true,
      true,
      true,
    ]);
    expect(['product is two', 'product is four-x', 'not product is family'].map(holds)).toEqual([false, false, false]);
  });

  it('goes into an address and comes back', () => {
    const pick = { product: ['two', 'four-x'], market: ['europe'] };
    expect(pickOf(pickId(pick))).toEqual(pick);
    expect(pickOf(pickId({}))).toEqual({});
    expect(pickOf('profile:x')).toBeNull();
    expect(pickOf(null)).toBeNull();
  });

  it('begins with what a profile has in', () => {
    const profile = { axes: { product: { default: 'in' as const, out: ['family'] } } };
    expect(pickOfProfile(axes, profile)).toEqual({ product: ['two'] });
    expect(pickOfProfile(axes, profileOfPick(axes, { product: ['four'] }))).toEqual({ product: ['four'] });
  });
});
