import fc from 'fast-check';
import Logic from 'logic-solver';
import type { Axis } from '../model/axis.js';
import { printCondition, type Condition } from './condition-syntax.js';
import { Diagrams } from './decision-diagram.js';
import { OpenSelector } from './open-lens.js';
import { Selector } from './selector.js';
import { simplify } from './simplify.js';

const leaf = fc.record({
  axis: fc.constantFrom('x', 'y'),
  values: fc.uniqueArray(fc.constantFrom('a', 'b', 'c'), { minLength: 1, maxLength: 3 }),
});
const conditions: fc.Arbitrary<Condition> = fc.letrec<{ node: Condition }>((tie) => ({
  node: fc.oneof(
    { maxDepth: 4 },
    leaf,
    fc.record({ not: tie('node') }),
    fc.record({ all: fc.array(tie('node'), { minLength: 1, maxLength: 3 }) }),
    fc.record({ any: fc.array(tie('node'), { minLength: 1, maxLength: 3 }) }),
  ),
})).node;

/** Pairs of values of two axes after all values of the one: in that order no diagram is small (Bryant 1986, section 3.1). */
const crossed = (pairs: number): Condition => {
  const value = (axis: string, at: number): Condition => ({ axis, values: [`v${at}`] });
  const each = Array.from({ length: pairs }, (_, at) => at);
  return {
    all: [
      { any: each.map((at) => value('x', at)) },
      { any: each.map((at) => ({ all: [value('x', at), value('y', at)] })) },
    ],
  };
};

const axes: readonly Axis[] = ['x', 'y'].map((key) => ({
  key,
  title: key,
  values: ['a', 'b', 'c'].map((each) => ({ key: each, title: each, code: each, colour: 0, pattern: 0 })),
}));

describe('A condition that is too large to tell of', () => {
  it('is answered otherwise instead of being worked out', () => {
    const diagrams = new Diagrams();
    expect(
      diagrams.within<unknown>(
        () => diagrams.of(crossed(40)),
        () => 'too large',
      ),
    ).toBe('too large');
    // The maker goes on as before.
    expect(
      diagrams.within(
        () => diagrams.of(crossed(6)),
        () => diagrams.never,
      ),
    ).not.toBe(diagrams.never);
    expect(simplify(crossed(40))).toEqual({ kind: 'condition', condition: crossed(40) });
    const open = axes.map((axis) => ({
      ...axis,
      values: Array.from({ length: 40 }, (_, at) => ({ key: `v${at}`, title: '', code: 'a', colour: 0, pattern: 0 })),
    }));
    expect(new OpenSelector({ axes: open, stamps: [] }, { axes: {} }).state(printCondition(crossed(40)))).toBe('open');
  });
});

/** The condition as a formula of logic-solver, an independent SAT solver. */
function formula(condition: Condition): Logic.Formula {
  if ('axis' in condition) return Logic.or(condition.values.map((value) => `${condition.axis}-${value}`));
  if ('not' in condition) return Logic.not(formula(condition.not));
  return 'all' in condition ? Logic.and(condition.all.map(formula)) : Logic.or(condition.any.map(formula));
}

function satisfiable(...formulas: Logic.Formula[]): boolean {
  const solver = new Logic.Solver();
  solver.require(...formulas);
  return solver.solve() !== null;
}

describe('Decision diagrams', () => {
  it('know what always and never holds, as a SAT solver does', () => {
    fc.assert(
      fc.property(conditions, (condition) => {
        const diagrams = new Diagrams();
        const diagram = diagrams.of(condition);
        expect(diagram === diagrams.never).toBe(!satisfiable(formula(condition)));
        expect(diagram === diagrams.always).toBe(!satisfiable(Logic.not(formula(condition))));
      }),
      { numRuns: 120 },
    );
  });

  it('are the same node for conditions that mean the same, and imply as a SAT solver says', () => {
    fc.assert(
      fc.property(conditions, conditions, (a, b) => {
        const diagrams = new Diagrams();
        const [first, second] = [diagrams.of(a), diagrams.of(b)];
        expect(first === second).toBe(!satisfiable(Logic.xor(formula(a), formula(b))));
        expect(diagrams.implies(first, second)).toBe(!satisfiable(formula(a), Logic.not(formula(b))));
      }),
      { numRuns: 120 },
    );
  });

  it('keep the laws of Boolean algebra', () => {
    const diagrams = new Diagrams();
    const [a, b] = [diagrams.atom('x', 'a'), diagrams.atom('y', 'b')];
    expect(diagrams.not(diagrams.and(a, b))).toBe(diagrams.or(diagrams.not(a), diagrams.not(b)));
    expect(diagrams.or(a, diagrams.not(a))).toBe(diagrams.always);
    expect(diagrams.and(a, diagrams.or(a, b))).toBe(a);
  });
});

describe('Simplifying conditions', () => {
  const simplified = (text: Condition): string => {
    const result = simplify(text);
    return result.kind === 'condition' ? printCondition(result.condition) : result.kind;
  };

  it('gives the shorter text that people would write', () => {
    const a: Condition = { axis: 'x', values: ['a'] };
    const b: Condition = { axis: 'x', values: ['b'] };
    const c: Condition = { axis: 'y', values: ['c'] };
    expect(simplified({ any: [a, b] })).toBe('x is a, b');
    expect(simplified({ all: [{ all: [a, c] }, a] })).toBe('x is a and y is c');
    expect(simplified({ not: { not: a } })).toBe('x is a');
    expect(simplified({ any: [a, { all: [a, c] }] })).toBe('x is a');
    expect(simplified({ all: [{ not: a }, { not: b }] })).toBe('not x is a, b');
    expect(simplified({ any: [a, { not: a }] })).toBe('always');
    expect(simplified({ all: [a, { not: a }] })).toBe('never');
  });

  it('keeps the meaning, is never longer, and simplifying again changes nothing', () => {
    fc.assert(
      fc.property(conditions, (condition) => {
        const result = simplify(condition);
        if (result.kind !== 'condition') {
          expect(satisfiable(result.kind === 'never' ? formula(condition) : Logic.not(formula(condition)))).toBeFalse();
          return;
        }
        expect(satisfiable(Logic.xor(formula(condition), formula(result.condition)))).toBeFalse();
        expect(printCondition(result.condition).length).toBeLessThanOrEqual(printCondition(condition).length);
        expect(simplify(result.condition)).toEqual(result);
      }),
      { numRuns: 150 },
    );
  });
});

describe('A partly chosen lens', () => {
  it('says in, out, or open', () => {
    const selector = new OpenSelector({ axes, stamps: [] }, { axes: { x: { default: 'out', in: ['a'] } } });
    expect(selector.state(null)).toBe('in');
    expect(selector.state('x is a')).toBe('in');
    expect(selector.state('x is b')).toBe('out');
    expect(selector.state('y is a')).toBe('open');
    expect(selector.state('x is a and y is a')).toBe('open');
    expect(selector.state('x is b and y is a')).toBe('out');
    expect(selector.state('x is a or y is a')).toBe('in');
    expect(selector.state('y is a or not y is a')).toBe('in');
    expect(selector.state('z is a')).toBe('out');
    expect(selector.state('x is')).toBe('out');
  });

  it('is open exactly where the axes left open decide', () => {
    const choices = fc.record({
      default: fc.constantFrom<'in' | 'out'>('in', 'out'),
      in: fc.subarray(['a', 'b', 'c']),
    });
    const subsets = ['', 'a', 'b', 'c', 'ab', 'ac', 'bc', 'abc'].map((keys) => [...keys]);
    fc.assert(
      fc.property(conditions, choices, (condition, x) => {
        const when = printCondition(condition);
        const results = subsets.map((y) =>
          new Selector({ axes, stamps: [] }, { axes: { x, y: { default: 'out', in: y } } }).holds(when),
        );
        const wanted = results.every(Boolean) ? 'in' : results.some(Boolean) ? 'open' : 'out';
        expect(new OpenSelector({ axes, stamps: [] }, { axes: { x } }).state(when)).toBe(wanted);
      }),
      { numRuns: 100 },
    );
  });
});
