import { columnsOf } from '../content/body.js';
import { childrenOf, numberAttr, type ContentNode } from '../content/node.js';

/** A cell with the row and column in which it begins. */
export interface PlacedCell {
  readonly cell: ContentNode;
  readonly row: number;
  readonly column: number;
  readonly rowspan: number;
  readonly colspan: number;
}

/**
 * Removes rows and columns from a table grid and mends the spans of the cells that crossed them. A cell
 * whose first row goes stands in the first of its rows that stays.
 * @param keepRow whether the row at an index of the grid stays
 * @param keepColumn whether the column at an index stays
 * @returns the grid, or null when no row with a cell stays, or only header rows do where there were others
 */
export function filterGrid(
  grid: ContentNode,
  keepRow: (index: number) => boolean,
  keepColumn: (index: number) => boolean,
): ContentNode | null {
  const rows = childrenOf(grid);
  const cells = placeCells(rows);
  const columnCount = cells.reduce((most, each) => Math.max(most, each.column + each.colspan), 0);
  const rowStays = rows.map((_, index) => keepRow(index));
  const columnStays = Array.from({ length: columnCount }, (_, index) => keepColumn(index));

  let anchored: { cell: ContentNode; row: number; column: number }[] = [];
  for (;;) {
    anchored = [];
    for (const each of cells) {
      const keptRows = range(each.row, Math.min(each.row + each.rowspan, rows.length)).filter((row) => rowStays[row]);
      const keptColumns = range(each.column, each.column + each.colspan).filter((column) => columnStays[column]);
      const [row] = keptRows;
      const [column] = keptColumns;
      if (row === undefined || column === undefined) continue;
      anchored.push({
        cell: withSpans(each.cell, keptRows.length, keptColumns.length),
        row,
        column,
      });
    }
    // A row in which no cell begins adds nothing: the cells that reach into it become shorter.
    const bare = rows.findIndex((_, row) => rowStays[row] && !anchored.some((each) => each.row === row));
    if (bare < 0) break;
    rowStays[bare] = false;
  }

  const isHeader = (row: ContentNode): boolean => row.attrs?.['header'] === true;
  const hadBody = rows.some((row) => !isHeader(row));
  const stays = rows.flatMap((row, index) => (rowStays[index] ? [{ row, index }] : []));
  if (stays.length === 0 || (hadBody && stays.every(({ row }) => isHeader(row)))) return null;

  const content = stays.map(({ row, index }) => ({
    ...row,
    content: anchored
      .filter((each) => each.row === index)
      .sort((a, b) => a.column - b.column)
      .map((each) => each.cell),
  }));
  const columns = columnsOf(grid);
  if (columns.length === 0) return { ...grid, content };
  return {
    ...grid,
    attrs: { ...grid.attrs, columns: columns.filter((_, index) => columnStays[index] ?? true) },
    content,
  };
}

/** Finds the row and column in which each cell begins, as HTML does (HTML standard, 4.9.12.1 “Forming a table”). */
export function placeCells(rows: readonly ContentNode[]): readonly PlacedCell[] {
  const placed: PlacedCell[] = [];
  const reach: number[] = [];
  rows.forEach((row, rowIndex) => {
    let column = 0;
    for (const cell of childrenOf(row)) {
      while ((reach[column] ?? 0) > rowIndex) column += 1;
      const rowspan = Math.max(1, numberAttr(cell, 'rowspan', 1));
      const colspan = Math.max(1, numberAttr(cell, 'colspan', 1));
      placed.push({ cell, row: rowIndex, column, rowspan, colspan });
      for (let covered = column; covered < column + colspan; covered += 1) reach[covered] = rowIndex + rowspan;
      column += colspan;
    }
  });
  return placed;
}

function withSpans(cell: ContentNode, rowspan: number, colspan: number): ContentNode {
  if (numberAttr(cell, 'rowspan', 1) === rowspan && numberAttr(cell, 'colspan', 1) === colspan) return cell;
  return { ...cell, attrs: { ...cell.attrs, rowspan, colspan } };
}

function range(from: number, to: number): number[] {
  return Array.from({ length: Math.max(0, to - from) }, (_, index) => from + index);
}
