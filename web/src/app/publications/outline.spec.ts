import type { OutlineEntry } from '@allomorph/core';
import { addEntry, changeEntry, freshEntryId, moveEntry, removeEntry } from './outline';

const entry = (id: string, ...entries: OutlineEntry[]): OutlineEntry => ({
  id,
  topic: `t-${id}`,
  ...(entries.length > 0 ? { entries } : {}),
});
const shape = (entries: readonly OutlineEntry[]): string =>
  entries.map((each) => each.id + (each.entries?.length ? `(${shape(each.entries)})` : '')).join(' ');

describe('The outline', () => {
  const outline = [entry('e1', entry('e2'), entry('e3', entry('e4'))), entry('e5')];

  it('takes new entries behind the chosen one, or at the end', () => {
    expect(shape(addEntry(outline, 'e2', entry('x')))).toBe('e1(e2 x e3(e4)) e5');
    expect(shape(addEntry(outline, null, entry('x')))).toBe('e1(e2 e3(e4)) e5 x');
    expect(shape(addEntry(outline, 'gone', entry('x')))).toBe('e1(e2 e3(e4)) e5 x');
  });

  it('moves entries up, down, in and out, and leaves what cannot be moved', () => {
    expect(shape(moveEntry(outline, 'e3', 'up'))).toBe('e1(e3(e4) e2) e5');
    expect(shape(moveEntry(outline, 'e1', 'down'))).toBe('e5 e1(e2 e3(e4))');
    expect(shape(moveEntry(outline, 'e5', 'in'))).toBe('e1(e2 e3(e4) e5)');
    expect(shape(moveEntry(outline, 'e4', 'out'))).toBe('e1(e2 e3 e4) e5');
    expect(shape(moveEntry(outline, 'e2', 'out'))).toBe('e1(e3(e4)) e2 e5');
    for (const [id, to] of [
      ['e1', 'up'],
      ['e5', 'down'],
      ['e1', 'in'],
      ['e5', 'out'],
      ['gone', 'up'],
    ] as const) {
      expect(shape(moveEntry(outline, id, to)))
        .withContext(`${id} ${to}`)
        .toBe('e1(e2 e3(e4)) e5');
    }
  });

  it('takes entries out and lets those below move up', () => {
    expect(shape(removeEntry(outline, 'e1'))).toBe('e2 e3(e4) e5');
    expect(shape(removeEntry(outline, 'e3'))).toBe('e1(e2 e4) e5');
  });

  it('changes one entry and gives new ones ids that no other has', () => {
    expect(changeEntry(outline, 'e4', { title: 'T' })[0]?.entries?.[1]?.entries?.[0]?.title).toBe('T');
    expect(freshEntryId(outline)).toBe('e6');
    expect(freshEntryId([])).toBe('e1');
  });
});
