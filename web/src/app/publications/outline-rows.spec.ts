import type { OutlineEntry } from '@allomorph/core';
import { dropEntry, entriesAbove, outlineRows } from './outline-rows';

const outline: readonly OutlineEntry[] = [
  { id: 'a', topic: 'a', entries: [{ id: 'b', topic: 'b', entries: [{ id: 'c', topic: 'c' }] }] },
  { id: 'd', topic: 'd' },
];
const shape = (entries: readonly OutlineEntry[]): string =>
  entries.map(({ id, entries: below }) => (below ? `${id}(${shape(below)})` : id)).join(' ');

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

  it('are dropped before, into and behind others, with all that is in them', () => {
    expect(shape(dropEntry(outline, 'b', 'd', 'before'))).toBe('a b(c) d');
    expect(shape(dropEntry(outline, 'b', 'd', 'into'))).toBe('a d(b(c))');
    expect(shape(dropEntry(outline, 'd', 'c', 'after'))).toBe('a(b(c d))');
    expect(shape(dropEntry(outline, 'c', 'a', 'after'))).toBe('a(b) c d');
  });

  it('stay where they would stand in themselves, or nothing is dropped', () => {
    expect(dropEntry(outline, 'a', 'c', 'into')).toBe(outline);
    expect(dropEntry(outline, 'a', 'a', 'after')).toBe(outline);
    expect(dropEntry(outline, 'x', 'a', 'after')).toBe(outline);
  });
});
