import type { OutlineEntry } from '@allomorph/core';
import { entriesAbove, outlineRows } from './outline-rows';

const outline: readonly OutlineEntry[] = [
  { id: 'a', topic: 'a', entries: [{ id: 'b', topic: 'b', entries: [{ id: 'c', topic: 'c' }] }] },
  { id: 'd', topic: 'd' },
];
describe('The lines of an outline', () => {
  it('are those that are not folded away, with their level and place', () => {
    const told = (folded: string[]): string[] =>
      outlineRows(outline, new Set(folded)).map(({ entry, level, place, siblings }) =>
        [entry.id, level, `${place}/${siblings}`].join(' '),
      );
    expect(told([])).toEqual(['a 1 1/2', 'b 2 1/1', 'c 3 1/1', 'd 1 2/2']);
    expect(told(['b'])).toEqual(['a 1 1/2', 'b 2 1/1', 'd 1 2/2']);
    expect(told(['a', 'c'])).toEqual(['a 1 1/2', 'd 1 2/2']);
  });

  it('know what they stand in', () => {
    expect(entriesAbove(outline, 'c')).toEqual(['a', 'b']);
    expect(entriesAbove(outline, 'a')).toEqual([]);
    expect(entriesAbove(outline, 'nowhere')).toEqual([]);
  });
});
