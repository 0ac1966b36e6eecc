import fc from 'fast-check';
import { phrase } from '../../../tests/support/library-parts.js';
import { chosenRule } from './chosen.js';
import type { VariableBody } from '../model/component.js';
import { parseCondition, type Condition } from './condition-syntax.js';
import { valueInCase, withValueInCase, type VariableCase } from './variable-cases.js';

const body: VariableBody = {
  type: 'variable',
  default: phrase('d'),
  rules: [
    { when: 'x is a and y is b', language: null, value: phrase('a and b') },
    { when: 'x is a, c', language: null, value: phrase('a or c') },
    { when: null, language: 'de', value: phrase('deutsch') },
    { when: 'x is e', language: 'de', value: phrase('e, deutsch') },
  ],
};
const told = (each: VariableCase, of = body): string => {
  const { value, from } = valueInCase(of, each);
  return `${from} ${value?.content?.[0]?.text ?? 'none'}`;
};

/** Whether a condition holds where one value of one axis is in, and nothing of others. */
function holds(when: string | null, axis: string, value: string): boolean {
  const parsed = when === null ? null : parseCondition(when);
  const ask = (each: Condition): boolean => {
    if ('axis' in each) return each.axis === axis && each.values.includes(value);
    if ('not' in each) return !ask(each.not);
    return 'all' in each ? each.all.every(ask) : each.any.some(ask);
  };
  return !parsed || (parsed.ok && ask(parsed.condition));
}

describe('The cases of a variable', () => {
  it('are its own, those of a wider rule, or the default', () => {
    expect(told({ axis: 'x', value: 'a' })).toBe('wider a or c');
    expect(told({ axis: 'x', value: 'e' })).toBe('default d');
    expect(told({ language: 'de' })).toBe('own deutsch');
    expect(told({ language: 'fr' })).toBe('default d');
    expect(told({ language: 'fr' }, { ...body, default: null })).toBe('default none');
  });

  it('get a value of their own before what held there, and behind what asks for more', () => {
    const changed = withValueInCase(body, { axis: 'x', value: 'a' }, phrase('only a'));
    expect(changed.rules.map(({ when }) => when)).toEqual(['x is a and y is b', 'x is a', 'x is a, c', null, 'x is e']);
    expect(told({ axis: 'x', value: 'a' }, changed)).toBe('own only a');
    expect(told({ axis: 'x', value: 'c' }, changed)).toBe('wider a or c');
    const again = withValueInCase(changed, { axis: 'x', value: 'a' }, phrase('other'));
    expect(again.rules.length).toBe(5);
    expect(withValueInCase(again, { axis: 'x', value: 'a' }, null)).toEqual(body);
    expect(withValueInCase(body, { axis: 'x', value: 'e' }, null)).toBe(body);
    expect(withValueInCase(body, { axis: 'x y', value: 'is' }, phrase('q')).rules.at(-1)?.when).toBe('"x y" is "is"');
  });

  it('read in a build as they were written, and others as before', () => {
    const rule = fc.record({
      when: fc.constantFrom(null, 'x is a', 'x is a, b', 'x is b and y is a', 'not x is a', 'y is a'),
      language: fc.constantFrom(null, null, 'de'),
      value: fc.constantFrom(phrase('1'), phrase('2')),
    });
    const variable = fc
      .array(rule, { maxLength: 5 })
      .map((rules): VariableBody => ({ type: 'variable', default: null, rules }));
    fc.assert(
      fc.property(variable, fc.constantFrom('a', 'b'), (before, value) => {
        const read = (of: VariableBody, inCase: string): unknown => {
          const at = chosenRule(
            of,
            (when) => holds(when, 'x', inCase),
            () => 'en',
          );
          return at < 0 ? of.default : of.rules[at]?.value;
        };
        const written = phrase('written');
        const after = withValueInCase(before, { axis: 'x', value }, written);
        const other = value === 'a' ? 'b' : 'a';
        expect(read(after, other)).toEqual(read(before, other));
        // What asks for more, or for what is not in, goes first still.
        const asksForMore = before.rules.some(({ when }) => /not|and/.test(when ?? '') && holds(when, 'x', value));
        if (!asksForMore) expect(read(after, value)).toEqual(written);
      }),
    );
  });
});
