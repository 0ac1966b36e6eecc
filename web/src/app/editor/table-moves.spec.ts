import { makeNode, makeText, type ContentNode } from '@allomorph/core';
import type { Command, EditorState } from 'prosemirror-state';
import { editorOn } from './testing';
import { moveColumnTo, moveRowTo } from './table-moves';

const cell = (text: string, attrs: Readonly<Record<string, unknown>> | null = null): ContentNode =>
  makeNode('table_cell', attrs, [makeNode('paragraph', null, [makeText(text)])]);
const row = (when: string | null, ...cells: ContentNode[]): ContentNode => makeNode('table_row', { when }, cells);
const tableOf = (columns: unknown, ...rows: ContentNode[]): ContentNode =>
  makeNode('topic', null, [
    makeNode('title', null, [makeText('T')]),
    makeNode('table', null, [makeNode('table_grid', { columns }, rows)]),
  ]);

/** The grid's place, and what its rows read, with their conditions. */
function gridOf({ doc }: EditorState): {
  readonly at: number;
  readonly reads: readonly string[];
  readonly columns: unknown;
} {
  const found = { at: -1, reads: [] as string[], columns: null as unknown };
  doc.descendants((node, position) => {
    if (node.type.name !== 'table_grid') return;
    found.at = position;
    found.columns = node.attrs['columns'];
    node.forEach((each) => {
      const when: unknown = each.attrs['when'];
      found.reads.push(
        each.children.map(({ textContent }) => textContent).join(' ') + (when ? ` (${String(when)})` : ''),
      );
    });
  });
  return found;
}

function after(state: EditorState, command: Command): EditorState | null {
  let next: EditorState | null = null;
  const does = command(state, (tr) => (next = state.apply(tr)));
  expect(command(state)).toBe(does);
  return next;
}

describe('Rows and columns that are dragged', () => {
  const plain = tableOf(
    [{ width: 20 }, {}, { when: 'os is linux', width: 30 }],
    row(null, cell('a1'), cell('b1'), cell('c1')),
    row('os is mac', cell('a2'), cell('b2'), cell('c2')),
    row(null, cell('a3'), cell('b3'), cell('c3')),
  );

  it('take along what is said of them', () => {
    const state = editorOn(plain, 'b2');
    const { at } = gridOf(state);
    const rows = after(state, moveRowTo(at, 1, 0));
    expect(rows && gridOf(rows).reads).toEqual(['a2 b2 c2 (os is mac)', 'a1 b1 c1', 'a3 b3 c3']);
    const last = after(state, moveRowTo(at, 0, 2));
    expect(last && gridOf(last).reads).toEqual(['a2 b2 c2 (os is mac)', 'a3 b3 c3', 'a1 b1 c1']);
    const columns = after(state, moveColumnTo(at, 2, 0));
    expect(columns && gridOf(columns).reads).toEqual(['c1 a1 b1', 'c2 a2 b2 (os is mac)', 'c3 a3 b3']);
    expect(columns && gridOf(columns).columns).toEqual([{ when: 'os is linux', width: 30 }, { width: 20 }, {}]);
    expect(columns?.selection.$from.parent.textContent).toBe('c2');
  });

  it('go nowhere where there is no place', () => {
    const state = editorOn(plain, 'b2');
    const { at } = gridOf(state);
    for (const [from, to] of [
      [0, 0],
      [0, 3],
      [3, 0],
      [-1, 0],
    ] as const) {
      expect(moveRowTo(at, from, to)(state))
        .withContext(`row ${from} to ${to}`)
        .toBe(false);
      expect(moveColumnTo(at, from, to)(state))
        .withContext(`column ${from} to ${to}`)
        .toBe(false);
    }
    expect(moveRowTo(0, 0, 1)(state)).toBe(false);
  });

  it('never tear a merged cell apart', () => {
    const merged = tableOf(
      null,
      row(null, cell('a1', { rowspan: 2 }), cell('b1'), cell('c1')),
      row(null, cell('b2', { colspan: 2 })),
      row(null, cell('a3'), cell('b3'), cell('c3')),
    );
    const state = editorOn(merged, 'b3');
    const { at } = gridOf(state);
    expect(moveRowTo(at, 0, 2)(state)).toBe(false);
    expect(moveRowTo(at, 2, 1)(state)).toBe(false);
    expect(moveColumnTo(at, 0, 1)(state)).toBe(false);
    expect(moveColumnTo(at, 2, 1)(state)).toBe(false);
    const first = after(state, moveRowTo(at, 2, 0));
    expect(first && gridOf(first).reads).toEqual(['a3 b3 c3', 'a1 b1 c1', 'b2']);
    const behind = after(state, moveColumnTo(at, 0, 2));
    expect(behind && gridOf(behind).reads).toEqual(['b1 c1 a1', 'b2', 'b3 c3 a3']);
  });
});
