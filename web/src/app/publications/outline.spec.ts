import type { OutlineEntry } from '@allomorph/core';
import {
  addEntries,
  changeEntries,
  cutEntries,
  dropEntries,
  moveEntries,
  pickedEntries,
  removeEntries,
  withFreshIds,
} from './outline';

const entry = (id: string, ...entries: OutlineEntry[]): OutlineEntry => ({
  id,
  topic: `t-${id}`,
  ...(entries.length > 0 ? { entries } : {}),
});
const shape = (entries: readonly OutlineEntry[]): string =>
  entries.map((each) => each.id + (each.entries?.length ? `(${shape(each.entries)})` : '')).join(' ');

describe('The outline', () => {
  const outline = [entry('e1', entry('e2'), entry('e3', entry('e4'))), entry('e5')];

  const ids = (...list: string[]): ReadonlySet<string> => new Set(list);

  it('takes new entries behind the chosen one, or at the end', () => {
    expect(shape(addEntries(outline, 'e2', [entry('x'), entry('y')]))).toBe('e1(e2 x y e3(e4)) e5');
    expect(shape(addEntries(outline, null, [entry('x')]))).toBe('e1(e2 e3(e4)) e5 x');
    expect(shape(addEntries(outline, 'gone', [entry('x')]))).toBe('e1(e2 e3(e4)) e5 x');
  });

  it('moves entries up, down, in and out, and leaves what cannot be moved', () => {
    expect(shape(moveEntries(outline, ids('e3'), 'up'))).toBe('e1(e3(e4) e2) e5');
    expect(shape(moveEntries(outline, ids('e1'), 'down'))).toBe('e5 e1(e2 e3(e4))');
    expect(shape(moveEntries(outline, ids('e5'), 'in'))).toBe('e1(e2 e3(e4) e5)');
    expect(shape(moveEntries(outline, ids('e4'), 'out'))).toBe('e1(e2 e3 e4) e5');
    expect(shape(moveEntries(outline, ids('e2'), 'out'))).toBe('e1(e3(e4)) e2 e5');
    for (const [id, to] of [
      ['e1', 'up'],
      ['e5', 'down'],
      ['e1', 'in'],
      ['e5', 'out'],
      ['gone', 'up'],
    ] as const) {
      expect(moveEntries(outline, ids(id), to))
        .withContext(`${id} ${to}`)
        .toBe(outline);
    }
  });

  it('moves several together, in their order', () => {
    const flat = ['a', 'b', 'c', 'd', 'e'].map((id) => entry(id));
    expect(shape(moveEntries(flat, ids('b', 'c'), 'up'))).toBe('b c a d e');
    expect(shape(moveEntries(flat, ids('b', 'd'), 'down'))).toBe('a c b e d');
    expect(shape(moveEntries(flat, ids('b', 'c'), 'in'))).toBe('a(b c) d e');
    expect(shape(moveEntries([entry('a', entry('b'), entry('c'), entry('d'))], ids('b', 'c'), 'out'))).toBe('a(d) b c');
    // Those that stand at the end together stay together.
    expect(moveEntries(flat, ids('a', 'b'), 'up')).toBe(flat);
    expect(moveEntries(flat, ids('d', 'e'), 'down')).toBe(flat);
  });

  it('takes entries out and lets those below move up, or cuts them with all below', () => {
    expect(shape(removeEntries(outline, ids('e1')))).toBe('e2 e3(e4) e5');
    expect(shape(removeEntries(outline, ids('e3', 'e5')))).toBe('e1(e2 e4)');
    expect(shape(cutEntries(outline, ids('e3', 'e5')))).toBe('e1(e2)');
  });

  it('picks entries in order, those inside others with them', () => {
    expect(shape(pickedEntries(outline, ids('e5', 'e4', 'e3')))).toBe('e3(e4) e5');
  });

  it('drops entries before, into and behind others, with all that is in them', () => {
    expect(shape(dropEntries(outline, ids('e3'), 'e5', 'before'))).toBe('e1(e2) e3(e4) e5');
    expect(shape(dropEntries(outline, ids('e2', 'e4'), 'e5', 'into'))).toBe('e1(e3) e5(e2 e4)');
    expect(shape(dropEntries(outline, ids('e5'), 'e4', 'after'))).toBe('e1(e2 e3(e4 e5))');
  });

  it('stays as it is where entries would stand in themselves, or nothing is dropped', () => {
    expect(dropEntries(outline, ids('e1'), 'e4', 'into')).toBe(outline);
    expect(dropEntries(outline, ids('e1'), 'e1', 'after')).toBe(outline);
    expect(dropEntries(outline, ids('gone'), 'e1', 'after')).toBe(outline);
  });

  it('changes entries and gives new ones ids that no other has', () => {
    const changed = changeEntries(outline, ids('e4', 'e5'), { title: 'T' });
    expect([changed[0]?.entries?.[1]?.entries?.[0]?.title, changed[1]?.title, changed[0]?.title]).toEqual([
      'T',
      'T',
      undefined,
    ]);
    expect(shape(withFreshIds([entry('')], []))).toBe('e1');
    expect(shape(withFreshIds([entry('e1', entry('e2'))], outline))).toBe('e6(e7)');
  });
});
