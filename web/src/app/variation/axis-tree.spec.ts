import type { AxisValue } from '@allomorph/core';
import { addValue, changeValue, moveValue, placeOf, stepValue } from './axis-tree';

const value = (key: string, ...values: AxisValue[]): AxisValue => ({
  key,
  title: key,
  code: key,
  colour: 0,
  pattern: 0,
  ...(values.length > 0 ? { values } : {}),
});
const keys = (values: readonly AxisValue[]): string =>
  values.map((each) => each.key + (each.values?.length ? `(${keys(each.values)})` : '')).join(' ');

describe('The tree of an axis', () => {
  const tree = [value('a', value('b', value('c'))), value('d')];

  it('takes new values at the top and below any value', () => {
    expect(keys(addValue(tree, null, value('e')))).toBe('a(b(c)) d e');
    expect(keys(addValue(tree, 'c', value('e')))).toBe('a(b(c(e))) d');
    expect(keys(addValue(tree, 'd', value('e')))).toBe('a(b(c)) d(e)');
  });

  it('changes values at any depth, and leaves the given tree as it was', () => {
    const changed = changeValue(tree, 'c', { title: 'C!', code: 'X', colour: 2, pattern: 1 });
    expect(changed[0]?.values?.[0]?.values?.[0]).toEqual({ key: 'c', title: 'C!', code: 'X', colour: 2, pattern: 1 });
    expect(keys(tree)).toBe('a(b(c)) d');
  });

  it('moves a value with all below it beside or into another one', () => {
    expect(keys(moveValue(tree, 'b', 'd', 'after'))).toBe('a d b(c)');
    expect(keys(moveValue(tree, 'd', 'c', 'before'))).toBe('a(b(d c))');
    expect(keys(moveValue(tree, 'c', 'd', 'into'))).toBe('a(b) d(c)');
  });

  it('lets none stand in itself', () => {
    expect(moveValue(tree, 'a', 'c', 'into')).toBe(tree);
    expect(moveValue(tree, 'a', 'a', 'before')).toBe(tree);
  });

  it('loses none that would stand beside what is not there any more', () => {
    expect(moveValue(tree, 'b', 'gone', 'after')).toBe(tree);
  });

  it('tells where a value stands, so that one that was moved is put back there', () => {
    const wide = [value('a', value('b', value('c')), value('x')), value('d'), value('e')];
    const all = ['a', 'b', 'c', 'x', 'd', 'e'];
    for (const key of all)
      for (const target of all)
        for (const to of ['before', 'into', 'after'] as const) {
          const back = placeOf(wide, key);
          const moved = moveValue(wide, key, target, to);
          expect(keys(back ? moveValue(moved, key, back.beside, back.place) : moved)).toBe('a(b(c) x) d e');
        }
    expect(placeOf([value('alone')], 'alone')).toBeUndefined();
    expect(placeOf(wide, 'nowhere')).toBeUndefined();
  });

  it('steps among those with the same parent, and no further', () => {
    expect(keys(stepValue(tree, 'd', -1))).toBe('d a(b(c))');
    expect(keys(stepValue(tree, 'a', 1))).toBe('d a(b(c))');
    expect(stepValue(tree, 'c', 1)).toBe(tree);
  });
});
