import { numberAttr } from '../model/node.js';
import { keptGrid, type GridSelection } from '../select/table-grid.js';
import { derive, makePrepared, type PreparedNode } from './prepared.js';

/**
 * A table grid without the rows and columns that are out; the spans of cells that crossed them are mended.
 * A cell whose first row goes stands in the first of its rows that stays.
 */
export function filterGrid(grid: PreparedNode, selection: GridSelection<boolean, PreparedNode>): PreparedNode {
  if (selection.rows.every((stays) => stays) && selection.columns.every((stays) => stays)) return grid;
  const { rows, columns } = keptGrid(grid, selection);
  const content = rows.map(({ row, cells }) =>
    derive(
      row,
      cells.map(({ cell, rowspan, colspan }) => withSpans(cell, rowspan, colspan)),
    ),
  );
  return grid.attrs?.['columns'] ? makePrepared(grid.type, { ...grid.attrs, columns }, content) : derive(grid, content);
}

function withSpans(cell: PreparedNode, rowspan: number, colspan: number): PreparedNode {
  if (numberAttr(cell, 'rowspan', 1) === rowspan && numberAttr(cell, 'colspan', 1) === colspan) return cell;
  return makePrepared(cell.type, { ...cell.attrs, rowspan, colspan }, cell.content);
}
