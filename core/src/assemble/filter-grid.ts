import { known } from '../model/known.js';
import { columnsOf } from '../content/body.js';
import { numberAttr } from '../model/node.js';
import type { GridSelection } from '../select/table-grid.js';
import { derive, makePrepared, partsOf, type PreparedNode } from './prepared.js';

/**
 * A table grid without the rows and columns that are out; the spans of cells that crossed them are mended.
 * A cell whose first row goes stands in the first of its rows that stays.
 */
export function filterGrid(grid: PreparedNode, selection: GridSelection<boolean, PreparedNode>): PreparedNode {
  const { rows, columns, cells } = selection;
  if (rows.every((stays) => stays) && columns.every((stays) => stays)) return grid;
  const placed = rows.map((): { readonly cell: PreparedNode; readonly column: number }[] => []);
  for (const { cell, row, column, rowspan, colspan } of cells) {
    const keptRows = range(row, row + rowspan).filter((at) => rows[at]);
    const keptColumns = range(column, column + colspan).filter((at) => columns[at]);
    const [first] = keptRows;
    if (first === undefined || keptColumns.length === 0) continue;
    const spanned = withSpans(cell, keptRows.length, keptColumns.length);
    placed[first]?.push({ cell: spanned, column: known(keptColumns[0]) });
  }
  const content = partsOf(grid).flatMap((row, at) =>
    rows[at]
      ? [
          derive(
            row,
            (placed[at] ?? []).sort((a, b) => a.column - b.column).map(({ cell }) => cell),
          ),
        ]
      : [],
  );
  const described = columnsOf(grid);
  if (described.length === 0) return derive(grid, content);
  const attrs = { ...grid.attrs, columns: described.filter((_, at) => columns[at] ?? true) };
  return makePrepared(grid.type, attrs, content);
}

function withSpans(cell: PreparedNode, rowspan: number, colspan: number): PreparedNode {
  if (numberAttr(cell, 'rowspan', 1) === rowspan && numberAttr(cell, 'colspan', 1) === colspan) return cell;
  return makePrepared(cell.type, { ...cell.attrs, rowspan, colspan }, cell.content);
}

function range(from: number, to: number): number[] {
  return Array.from({ length: Math.max(0, to - from) }, (_, index) => from + index);
}
