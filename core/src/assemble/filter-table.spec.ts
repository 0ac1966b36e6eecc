import { makeNode, type ContentNode } from '../content/node.js';
import { p, textIn } from '../../../tests/support/library-parts.js';
import { filterGrid } from './filter-table.js';

const cell = (text: string, colspan = 1, rowspan = 1): ContentNode =>
  makeNode('table_cell', { colspan, rowspan }, [p(text)]);
const row = (...cells: ContentNode[]): ContentNode => makeNode('table_row', null, cells);
const header = (...cells: ContentNode[]): ContentNode => makeNode('table_row', { header: true }, cells);
const grid = (...rows: ContentNode[]): ContentNode => makeNode('table_grid', null, rows);

function filtered(node: ContentNode, rowsOut: readonly number[], columnsOut: readonly number[] = []): string | null {
  const result = filterGrid(
    node,
    (at) => !rowsOut.includes(at),
    (at) => !columnsOut.includes(at),
  );
  if (!result) return null;
  return (result.content ?? [])
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
