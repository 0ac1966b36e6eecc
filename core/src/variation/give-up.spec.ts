import fc from 'fast-check';
import { axisValue } from '../../../tests/support/library-parts.js';
import { flattenValues, type Axis } from '../model/axis.js';
import { valueStates, type AxisChoice } from '../model/profile.js';
import { leavesIn, parseCondition, printCondition, type Condition } from './condition-syntax.js';
import { axisWithout, profileWithout, withoutValue, type GivenUp } from './give-up.js';

const values = ['a', 'b', 'c'];
const condition: fc.Arbitrary<Condition> = fc.letrec<{ any: Condition }>((tie) => ({
  any: fc.oneof(
    { depthSize: 'small' },
    fc.record({
      axis: fc.constantFrom('x', 'y'),
      values: fc.uniqueArray(fc.constantFrom(...values), { minLength: 1 }),
    }),
    fc.record({ not: tie('any') }),
    fc.record({ all: fc.array(tie('any'), { minLength: 1, maxLength: 3 }) }),
    fc.record({ any: fc.array(tie('any'), { minLength: 1, maxLength: 3 }) }),
  ),
})).any;

/** Whether a condition holds where some values, written `axis/value`, are in: product.md, rule 3. */
function holds(each: Condition, isIn: ReadonlySet<string>): boolean {
  if ('axis' in each) return each.values.some((value) => isIn.has(`${each.axis}/${value}`));
  if ('not' in each) return !holds(each.not, isIn);
  return 'all' in each ? each.all.every((part) => holds(part, isIn)) : each.any.some((part) => holds(part, isIn));
}

const inSome = fc
  .subarray(['x', 'y'].flatMap((axis) => values.map((value) => `${axis}/${value}`)))
  .map((each) => new Set(each));

function heldAfter(text: string, givenUp: GivenUp, isIn: ReadonlySet<string>): boolean {
  const left = withoutValue(text, givenUp);
  if (left.kind !== 'condition') return left.kind === 'always';
  const parsed = parseCondition(left.when);
  if (!parsed.ok) throw new Error(parsed.message);
  const names = leavesIn(parsed.condition).some((leaf) => leaf.axis === 'x' && leaf.values.includes('a'));
  expect(names).toBe(false);
  return holds(parsed.condition, isIn);
}

describe('A condition without a value', () => {
  it('holds as before where the value is out, when it is retired', () => {
    fc.assert(
      fc.property(condition, inSome, (each, some) => {
        const isIn = new Set([...some].filter((key) => key !== 'x/a'));
        const after = heldAfter(printCondition(each), { axis: 'x', value: 'a', into: null }, isIn);
        expect(after).toBe(holds(each, isIn));
      }),
      { numRuns: 500 },
    );
  });

  it('holds as before where both are in or both are out, when it is merged', () => {
    fc.assert(
      fc.property(condition, inSome, (each, some) => {
        const isIn = new Set(some);
        if (isIn.has('x/b')) isIn.add('x/a');
        else isIn.delete('x/a');
        const after = heldAfter(printCondition(each), { axis: 'x', value: 'a', into: 'b' }, isIn);
        expect(after).toBe(holds(each, isIn));
      }),
      { numRuns: 500 },
    );
  });

  it('stays letter by letter where it does not name it, or cannot be read', () => {
    for (const when of ['(y is a)', 'x  is b', 'x is', '']) {
      expect(withoutValue(when, { axis: 'x', value: 'a', into: null })).toEqual({ kind: 'condition', when });
    }
  });
});

const keys = ['a', 'b', 'c', 'd', 'e', 'f'];
/** An axis in which each value stands at the top or below an earlier one. */
const anyAxis: fc.Arbitrary<Axis> = fc.array(fc.nat(), { minLength: 6, maxLength: 6 }).map((picks) => {
  const parents = picks.map((pick, at) => (pick % (at + 1)) - 1);
  const below = (parent: number): ReturnType<typeof axisValue>[] =>
    keys.flatMap((key, at) => (parents[at] === parent ? axisValue(key, ...below(at)) : []));
  return { key: 'x', title: 'x', values: below(-1) };
});
const anyChoice: fc.Arbitrary<AxisChoice> = fc
  .record({
    default: fc.constantFrom('in' as const, 'out' as const),
    marks: fc.array(fc.constantFrom('in', 'out', null), { minLength: 6, maxLength: 6 }),
  })
  .map(({ default: otherwise, marks }) => ({
    default: otherwise,
    in: keys.filter((_, at) => marks[at] === 'in'),
    out: keys.filter((_, at) => marks[at] === 'out'),
  }));

describe('An axis without a value', () => {
  it('keeps all others, and their state in every profile', () => {
    fc.assert(
      fc.property(
        anyAxis,
        anyChoice,
        fc.constantFrom(...keys),
        fc.constantFrom(...keys, null),
        (axis, choice, value, into) => {
          fc.pre(value !== into);
          const givenUp = { axis: 'x', value, into };
          const after = axisWithout(axis, givenUp);
          const kept = flattenValues(after).map((each) => each.value.key);
          expect([...kept].sort()).toEqual(keys.filter((key) => key !== value));
          const profile = profileWithout({ axes: { x: choice } }, axis, after, givenUp);
          const states = new Map(valueStates(axis, choice));
          states.delete(value);
          expect(new Map([...valueStates(after, profile.axes['x'])].sort())).toEqual(new Map([...states].sort()));
          expect([...(profile.axes['x']?.in ?? []), ...(profile.axes['x']?.out ?? [])]).not.toContain(value);
        },
      ),
      { numRuns: 500 },
    );
  });

  it('has what stood below it below the one that it was merged into', () => {
    const axis: Axis = {
      key: 'x',
      title: 'x',
      values: [axisValue('a', axisValue('b')), axisValue('c', axisValue('d'))],
    };
    const tree = (given: GivenUp): string =>
      flattenValues(axisWithout(axis, given))
        .map(({ value, ancestors }) => [...ancestors, value.key].join('/'))
        .join(' ');
    expect(tree({ axis: 'x', value: 'a', into: 'c' })).toBe('c c/d c/b');
    expect(tree({ axis: 'x', value: 'a', into: 'b' })).toBe('b c c/d');
    expect(tree({ axis: 'x', value: 'c', into: null })).toBe('a a/b d');
  });
});
