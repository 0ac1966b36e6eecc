import { makeNode, type ContentNode } from '../model/node.js';
import { p, textIn } from '../../../tests/support/library-parts.js';
import { truth } from '../select/algebra.js';
import { selectGrid } from '../select/table-grid.js';
import { filterGrid } from './filter-grid.js';
import { prepareBody } from './prepared.js';

const cell = (text: string, colspan = 1, rowspan = 1): ContentNode =>
  makeNode('table_cell', { colspan, rowspan }, [p(text)]);
const row = (...cells: ContentNode[]): ContentNode => makeNode('table_row', null, cells);
const header = (...cells: ContentNode[]): ContentNode => makeNode('table_row', { header: true }, cells);
const grid = (...rows: ContentNode[]): ContentNode => makeNode('table_grid', null, rows);

function filtered(node: ContentNode, rowsOut: readonly number[], columnsOut: readonly number[] = []): string | null {
  // What is out says so by a condition of its own.
  const count = 4;
  const limited = makeNode(
    'table_grid',
    { columns: Array.from({ length: count }, (_, at) => ({ when: columnsOut.includes(at) ? 'no' : null })) },
    (node.content ?? []).map((each, at) =>
      rowsOut.includes(at) ? { ...each, attrs: { ...each.attrs, when: 'no' } } : each,
    ),
  );
  const algebra = truth((when) => when !== 'no');
  const prepared = prepareBody(limited);
  const selection = selectGrid(algebra, prepared, true);
  if (!selection.remains) return null;
  return (filterGrid(prepared, selection).content ?? [])
    .map((each) =>
      (each.content ?? [])
        .map((inner) => {
          const { colspan = 1, rowspan = 1 } = (inner.attrs ?? {}) as { colspan?: number; rowspan?: number };
          return `${textIn(inner.content ?? [])}${colspan > 1 || rowspan > 1 ? `(${colspan}x${rowspan})` : ''}`;
        })
        .join(' '),
    )
    .join(' / ');
}

// The rules for where cells stand are those of HTML (HTML standard, 4.9.12.1 “Forming a table”).
describe('Tables after filtering', () => {
  it('lose rows and columns', () => {
    const table = grid(header(cell('A'), cell('B')), row(cell('1'), cell('2')), row(cell('3'), cell('4')));
    expect(filtered(table, [1])).toBe('A B / 3 4');
    expect(filtered(table, [], [0])).toBe('B / 2 / 4');
  });

  it('shorten the cells that reach across what goes', () => {
    const table = grid(
      row(cell('a', 2, 1), cell('b')),
      row(cell('c', 1, 2), cell('d'), cell('e')),
      row(cell('f'), cell('g')),
    );
    expect(filtered(table, [], [1])).toBe('a b / c(1x2) e / g');
    expect(filtered(table, [2])).toBe('a(2x1) b / c d e');
  });

  it('keep what is said of the columns that stay, and only that', () => {
    const columns = [{ width: 20 }, { width: 30, when: 'no' }, { width: 50 }];
    const table = prepareBody(makeNode('table_grid', { columns }, [row(cell('a'), cell('b'), cell('c'))]));
    const kept = filterGrid(
      table,
      selectGrid(
        truth((when) => when !== 'no'),
        table,
        true,
      ),
    );
    expect(kept.attrs?.['columns']).toEqual([{ width: 20 }, { width: 50 }]);
  });

  it('move a cell down whose first row goes', () => {
    const table = grid(row(cell('x')), row(cell('tall', 1, 2)), row());
    expect(filtered(table, [1])).toBe('x / tall');
  });

  it('disappear when only header rows are left, but not when there were only such', () => {
    const table = grid(header(cell('A')), row(cell('1')));
    expect(filtered(table, [1])).toBeNull();
    expect(filtered(grid(header(cell('A'))), [])).toBe('A');
    expect(filtered(table, [], [0])).toBeNull();
  });
});
