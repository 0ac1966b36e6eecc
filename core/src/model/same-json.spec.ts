import fc from 'fast-check';
import { sameJson } from './same-json.js';

/** The same value with the names of all objects in another order. */
function turned(value: unknown): unknown {
  if (Array.isArray(value)) return value.map(turned);
  if (typeof value !== 'object' || value === null) return value;
  return Object.fromEntries(
    Object.entries(value)
      .reverse()
      .map(([name, each]) => [name, turned(each)]),
  );
}

describe('Two JSON values', () => {
  it('are the same in whatever order names stand, and where one leaves unsaid what is undefined in the other', () => {
    fc.assert(fc.property(fc.jsonValue(), (value) => sameJson(value, turned(value))));
    expect(sameJson({ a: 1, b: undefined }, { a: 1 })).toBeTrue();
  });

  it('are not the same where anything differs', () => {
    const pairs: readonly (readonly [unknown, unknown])[] = [
      [{ a: 1 }, { a: 2 }],
      [{ a: 1 }, { b: 1 }],
      [{ a: 1 }, { a: 1, b: null }],
      [
        [1, 2],
        [2, 1],
      ],
      [[1], { 0: 1 }],
      [null, {}],
      ['1', 1],
    ];
    for (const [a, b] of pairs) expect([sameJson(a, b), sameJson(b, a)]).toEqual([false, false]);
  });

  // The oracle: texts of values whose names stand in the order of the alphabet.
  it('are the same exactly where their texts are, with names in one order', () => {
    const ordered = (value: unknown): string =>
      JSON.stringify(value, (_, each: unknown) =>
        typeof each === 'object' && each !== null && !Array.isArray(each)
          ? Object.fromEntries(Object.entries(each).sort(([a], [b]) => (a < b ? -1 : 1)))
          : each,
      );
    const small = fc.jsonValue({ maxDepth: 2 });
    fc.assert(fc.property(small, small, (a, b) => sameJson(a, b) === (ordered(a) === ordered(b))));
  });
});
