import { putTogether, takeApart } from './condition-parts';

describe('The condition builder', () => {
  it('takes apart what it can show', () => {
    expect([...(takeApart('product is a, b and not market is c') ?? [])]).toEqual([
      ['product', { values: ['a', 'b'], not: false }],
      ['market', { values: ['c'], not: true }],
    ]);
    expect(takeApart('')?.size).toBe(0);
  });

  it('leaves alone what is more than it can show', () => {
    expect(takeApart('a is x or b is y')).toBeNull();
    expect(takeApart('a is x and a is y')).toBeNull();
    expect(takeApart('not (a is x or b is y)')).toBeNull();
    expect(takeApart('a is')).toBeNull();
  });

  it('puts together what it took apart', () => {
    for (const text of ['product is a', 'product is a, b and market is c', 'not product is a and market is "x y"']) {
      expect(putTogether(takeApart(text) ?? new Map())).toBe(text);
    }
    expect(putTogether(new Map())).toBe('');
    expect(putTogether(new Map([['a', { values: [], not: false }]]))).toBe('');
  });
});
