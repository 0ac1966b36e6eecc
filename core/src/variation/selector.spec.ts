import fc from 'fast-check';
import type { Axis, AxisValue } from '../model/axis.js';
import { flattenValues } from '../model/axis.js';
import { printCondition, type Condition } from './condition-syntax.js';
import { valueStates, type AxisChoice } from '../model/profile.js';
import { Selector } from './selector.js';
import { describeUndefined, nearest, undefinedIn } from './undefined-keys.js';

const value = (key: string, ...values: AxisValue[]): AxisValue => ({
  key,
  title: key,
  code: key.slice(0, 2),
  colour: 0,
  pattern: 0,
  ...(values.length > 0 ? { values } : {}),
});
const axis = (key: string, ...values: AxisValue[]): Axis => ({ key, title: key, values });

describe('Value states', () => {
  // The subject hierarchy of the DITA 1.3 specification, 2.2.3.2 “Subject scheme maps”: operating systems
  // below one category; 2.4.3.2: a category that is excluded takes out what stands below it.
  const os = axis('os', value('linux', value('redhat'), value('suse')), value('windows'), value('zos'));

  it('takes out everything below a category that is out', () => {
    const states = valueStates(os, { default: 'in', out: ['linux'] });
    expect(Object.fromEntries(states)).toEqual({ linux: false, redhat: false, suse: false, windows: true, zos: true });
  });

  it('lets the nearest mark decide', () => {
    const states = valueStates(os, { default: 'in', out: ['linux'], in: ['suse'] });
    expect([states.get('linux'), states.get('redhat'), states.get('suse')]).toEqual([false, false, true]);
  });

  it('falls back to the default, and to in where a profile says nothing about the axis', () => {
    expect(valueStates(os, { default: 'out' }).get('zos')).toBeFalse();
    expect(valueStates(os, undefined).get('zos')).toBeTrue();
  });
});

describe('Selection by conditions', () => {
  const audience = axis('audience', value('novice'), value('expert'));
  const product = axis('product', value('extendedprod'), value('basicprod'));
  const axes = [audience, product];

  // DITA 1.3, 2.4.3.3 “Filtering”: several values of one attribute keep the element while any of them is
  // included; several attributes exclude it when any of them evaluates to exclude.
  it('keeps content while any of several values of an axis is in', () => {
    const selector = new Selector({ axes, stamps: [] }, { axes: { audience: { default: 'in', out: ['novice'] } } });
    expect(selector.holds('audience is novice')).toBeFalse();
    expect(selector.holds('audience is novice, expert')).toBeTrue();
  });

  it('leaves content out when any of several axes is out', () => {
    const selector = new Selector(
      { axes, stamps: [] },
      { axes: { product: { default: 'in', out: ['extendedprod'] } } },
    );
    expect(selector.holds('audience is novice and product is extendedprod')).toBeFalse();
    expect(selector.holds('audience is novice and product is basicprod')).toBeTrue();
  });

  // DocBook: “Effectivity attributes” – several values separated by a semicolon are alternatives, several
  // attributes must all match (R. Stallman and N. Walsh, DocBook XSL: profiling, two-pass; common practice).
  it('holds always without a condition and never for undefined values or broken text', () => {
    const selector = new Selector({ axes, stamps: [] }, { axes: {} });
    expect(selector.holds(null)).toBeTrue();
    expect(selector.holds('audience is nobody')).toBeFalse();
    expect(selector.holds('colour is red')).toBeFalse();
    expect(selector.holds('audience is')).toBeFalse();
  });

  it('agrees with a direct truth table over every profile', () => {
    const three = axis('x', value('a'), value('b', value('c')));
    const two = axis('y', value('d'), value('e'));
    const all = [three, two];
    const leaf = fc.constantFrom<Condition>(
      { axis: 'x', values: ['a'] },
      { axis: 'x', values: ['b', 'c'] },
      { axis: 'x', values: ['c'] },
      { axis: 'y', values: ['d'] },
      { axis: 'y', values: ['d', 'e'] },
    );
    const condition = fc.letrec<{ node: Condition }>((tie) => ({
      node: fc.oneof(
        { maxDepth: 3 },
        leaf,
        fc.record({ not: tie('node') }),
        fc.record({ all: fc.array(tie('node'), { minLength: 1, maxLength: 3 }) }),
        fc.record({ any: fc.array(tie('node'), { minLength: 1, maxLength: 3 }) }),
      ),
    })).node;
    const choice: fc.Arbitrary<AxisChoice> = fc.record({
      default: fc.constantFrom('in', 'out'),
      in: fc.subarray(['a', 'b', 'd']),
      out: fc.subarray(['c', 'e']),
    });
    const table = (node: Condition, isIn: (axis: string, key: string) => boolean): boolean => {
      if ('axis' in node) return node.values.some((key) => isIn(node.axis, key));
      if ('not' in node) return !table(node.not, isIn);
      if ('all' in node) return !node.all.some((each) => !table(each, isIn));
      return node.any.some((each) => table(each, isIn));
    };
    fc.assert(
      fc.property(condition, choice, choice, (node, x, y) => {
        const selector = new Selector({ axes: all, stamps: [] }, { axes: { x, y } });
        const states = { x: valueStates(three, x), y: valueStates(two, y) };
        const wanted = table(node, (name, key) => states[name as 'x' | 'y'].get(key) ?? false);
        expect(selector.holds(printCondition(node))).toBe(wanted);
      }),
      { numRuns: 400 },
    );
  });
});

describe('Undefined keys', () => {
  const market = axis('market', value('europe'), value('australia'), value('north-america'));

  it('are named with the nearest defined ones', () => {
    const [found] = undefinedIn('market is austraila', { axes: [market], stamps: [] });
    expect(found && describeUndefined(found)).toBe(
      'The value “austraila” of the axis “market” is not defined. Nearest defined: “australia”.',
    );
    const [wrongAxis] = undefinedIn('markt is europe', { axes: [market], stamps: [] });
    expect(wrongAxis && describeUndefined(wrongAxis)).toBe(
      'The axis “markt” is not defined. Nearest defined: “market”.',
    );
  });

  it('are found inside every operator', () => {
    expect(
      undefinedIn('not (market is x or (market is europe and market is y))', { axes: [market], stamps: [] }).map(
        (each) => each.value,
      ),
    ).toEqual(['x', 'y']);
  });

  it('offers nothing that is far away', () => {
    expect(nearest('zzzzzz', ['europe', 'australia'])).toEqual([]);
  });

  it('sees all values of a tree', () => {
    const tree = axis('t', value('a', value('b', value('c'))));
    expect(flattenValues(tree).map(({ value: { key }, ancestors }) => [key, ancestors])).toEqual([
      ['a', []],
      ['b', ['a']],
      ['c', ['a', 'b']],
    ]);
  });
});
