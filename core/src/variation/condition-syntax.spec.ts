import fc from 'fast-check';
import { bothConditions, parseCondition, printCondition, printKey, type Condition } from './condition-syntax.js';

const key = fc.oneof(
  fc.constantFrom('product', 'dunlin-4', 'and', 'is', 'not', 'or', 'ein Wert', 'a"b', 'c\\d', 'für', '4.2'),
  fc.string({ minLength: 1, maxLength: 8 }),
);
const leaf: fc.Arbitrary<Condition> = fc.record({
  axis: key,
  values: fc.uniqueArray(key, { minLength: 1, maxLength: 3 }),
});
export const anyCondition: fc.Arbitrary<Condition> = fc.letrec<{ node: Condition }>((tie) => ({
  node: fc.oneof(
    { maxDepth: 4 },
    leaf,
    fc.record({ not: tie('node') }),
    fc.record({ all: fc.array(tie('node'), { minLength: 2, maxLength: 3 }) }),
    fc.record({ any: fc.array(tie('node'), { minLength: 2, maxLength: 3 }) }),
  ),
})).node;

describe('The text form of conditions', () => {
  it('reads leaves, several values, and the three operators by their binding', () => {
    const parsed = parseCondition('a is x, y and not b is z or c is w');
    expect(parsed).toEqual({
      ok: true,
      condition: {
        any: [
          { all: [{ axis: 'a', values: ['x', 'y'] }, { not: { axis: 'b', values: ['z'] } }] },
          { axis: 'c', values: ['w'] },
        ],
      },
    });
  });

  it('lets brackets and quotation marks do what they look like', () => {
    const parsed = parseCondition('"the axis" is "or" and (a is x or a is y)');
    expect(parsed).toEqual({
      ok: true,
      condition: {
        all: [
          { axis: 'the axis', values: ['or'] },
          {
            any: [
              { axis: 'a', values: ['x'] },
              { axis: 'a', values: ['y'] },
            ],
          },
        ],
      },
    });
  });

  const faults: readonly (readonly [string, string, number])[] = [
    ['', 'Expected the key of an axis, not the end.', 0],
    ['product', 'Expected “is” after “product”.', 7],
    ['product is', 'Expected a value, not the end.', 10],
    ['product is x y', 'Expected “and”, “or” or the end, not “y”.', 13],
    ['product is x,', 'Expected a value, not the end.', 13],
    ['(product is x', 'The bracket is never closed.', 0],
    ['product is x)', 'This bracket closes nothing.', 12],
    ['product is "x', 'The quotation mark is never closed.', 11],
    ['product is x & y', '“&” cannot stand here; put keys with such signs in quotes.', 13],
    ['product is and', 'Expected a value, not “and”.', 11],
  ];
  for (const [text, message, start] of faults) {
    it(`says where “${text}” is wrong`, () => {
      const parsed = parseCondition(text);
      expect(parsed.ok).toBeFalse();
      if (!parsed.ok) expect([parsed.message, parsed.start]).toEqual([message, start]);
    });
  }

  it('refuses what nests too deep instead of running out of stack', () => {
    const parsed = parseCondition(`${'('.repeat(5000)}a is b${')'.repeat(5000)}`);
    expect(parsed.ok).toBeFalse();
    expect(parseCondition('not '.repeat(50_000) + 'a is b').ok).toBeFalse();
  });

  it('round-trips every expression', () => {
    fc.assert(
      fc.property(anyCondition, (condition) => {
        const parsed = parseCondition(printCondition(condition));
        expect(parsed).toEqual({ ok: true, condition });
      }),
      { numRuns: 500 },
    );
  });

  it('never throws on any text', () => {
    fc.assert(fc.property(fc.string(), (text) => typeof parseCondition(text).ok === 'boolean'));
  });

  it('quotes keys only where they need it', () => {
    expect(printKey('dunlin-4')).toBe('dunlin-4');
    expect(printKey('is')).toBe('"is"');
    expect(printKey('two words')).toBe('"two words"');
  });

  it('joins two conditions into one that asks for both', () => {
    expect(bothConditions(null, 'a is x')).toBe('a is x');
    expect(bothConditions('a is x', 'a is x')).toBe('a is x');
    expect(bothConditions('a is x or b is y', 'c is z')).toBe('(a is x or b is y) and c is z');
    expect(bothConditions(null, null)).toBeNull();
  });
});
