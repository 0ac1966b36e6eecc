import { makeNode, makeText, Selector, type ContentNode } from '@allomorph/core';
import type { EditorState } from 'prosemirror-state';
import { limit, limitTargets } from './limit-targets';
import { lensKey, outOnPage } from './lens-plugin';
import { after, at, vocabulary, editorOn } from './testing';
import { addColumn, dropColumn, type ColumnTarget } from './table-columns';

const cell = (text: string, attrs: Readonly<Record<string, unknown>> | null = null): ContentNode =>
  makeNode('table_cell', attrs, [makeNode('paragraph', null, [makeText(text)])]);
const row = (...cells: ContentNode[]): ContentNode => makeNode('table_row', null, cells);
const tableOf = (columns: unknown, ...rows: ContentNode[]): ContentNode =>
  makeNode('topic', null, [
    makeNode('title', null, [makeText('T')]),
    makeNode('table', null, [makeNode('table_grid', { columns }, rows)]),
  ]);
const rows = [row(cell('a1'), cell('b1'), cell('c1')), row(cell('a2', { colspan: 2 }), cell('c2'))];

function columnsOf({ doc }: EditorState): readonly (string | null)[] | null {
  let columns: readonly { when?: string | null }[] | null = null;
  doc.descendants((node) => {
    if (node.type.name === 'table_grid') columns = node.attrs['columns'] as typeof columns;
  });
  return (columns as readonly { when?: string | null }[] | null)?.map(({ when }) => when ?? null) ?? null;
}

const columnIn = (state: EditorState): ColumnTarget | undefined =>
  limitTargets(state).find((target) => target.kind === 'column');

describe('The columns of a table', () => {
  it('are limited where the cursor stands, wherever cells span', () => {
    expect(columnIn(editorOn(tableOf(null, ...rows), 'b1'))).toEqual(
      jasmine.objectContaining({ kind: 'column', column: 1, when: null }),
    );
    const state = editorOn(tableOf(null, ...rows), 'c2');
    const target = columnIn(state);
    expect(target?.column).toBe(2);
    const limited = after(state, limit(target as ColumnTarget, 'os is linux'));
    expect(columnsOf(limited)).toEqual([null, null, 'os is linux']);
    expect(columnIn(at(limited, 'c1'))?.when).toBe('os is linux');
    expect(columnIn(at(limited, 'b1'))?.when).toBeNull();
    const free = after(limited, limit(columnIn(limited) as ColumnTarget, null));
    expect(columnsOf(free)).toBeNull();
  });

  it('keep their conditions when others come and go', () => {
    const columns = [{ when: 'os is mac' }, {}, { when: 'os is linux', width: 2 }];
    const state = editorOn(tableOf(columns, ...rows), 'b1');
    expect(columnsOf(after(state, addColumn))).toEqual(['os is mac', null, null, 'os is linux']);
    expect(columnsOf(after(state, dropColumn))).toEqual(['os is mac', 'os is linux']);
    expect(columnsOf(after(at(state, 'a1'), dropColumn))).toEqual([null, 'os is linux']);
    expect(columnsOf(after(at(state, 'c1'), addColumn))).toEqual(['os is mac', null, 'os is linux', null]);
    const plain = editorOn(tableOf(null, ...rows), 'b1');
    expect(columnsOf(after(plain, addColumn))).toBeNull();
  });

  it('are left out by a lens, and show their lanes', () => {
    const columns = [{ when: 'os is mac' }, {}, { when: 'os is linux' }];
    const state = editorOn(tableOf(columns, ...rows), 'b1');
    const selector = new Selector(vocabulary, { axes: { os: { default: 'out', in: ['linux'] } } });
    const seen = state.apply(state.tr.setMeta(lensKey, { lens: { selector, vocabulary, mode: 'ghost' } }));
    // The cell that spans the first and the second column stays for the second.
    expect(outOnPage(seen)).toBe(1);
    const widgets = lensKey
      .getState(seen)
      ?.decorations.find(undefined, undefined, (spec) => String(spec['key']).startsWith('column'));
    expect(widgets?.length).toBe(2);
  });
});
