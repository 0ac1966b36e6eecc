import { columnsOf } from '../content/body.js';
import { childrenOf, numberAttr, type AssembledNode } from '../model/node.js';

/** A cell and where it stands: its first column and row from 0, and how many of each it takes. */
export interface CellPlace {
  /** Null where a row has nothing to fill the table with. */
  readonly cell: AssembledNode | null;
  readonly x: number;
  readonly y: number;
  readonly columns: number;
  readonly rows: number;
}

/** The cells of a table, row by row, as a grid without holes. */
export interface TableCells {
  readonly rows: readonly (readonly CellPlace[])[];
  /** The share of the width that each column wants, in percent; null: as wide as what it holds. */
  readonly widths: readonly (number | null)[];
  /** How many rows stand at the head; header rows further down stay where they are. */
  readonly headRows: number;
}

/** Whether all cells of a row are headers. */
export function isHeaderRow(row: AssembledNode): boolean {
  return row.attrs?.['header'] === true;
}

/**
 * Where each cell of a table stands (HTML Standard, “Forming a table”). What would lie over another cell, or reach out of the table,
 * its head or its body, is as large as there is room; rows that are shorter than others are filled; columns in which no cell
 * begins are one with those before them.
 */
export function tableCells(grid: AssembledNode): TableCells {
  const rows = childrenOf(grid);
  const wanted = columnsOf({ attrs: grid.attrs }).map(({ width }) => width ?? null);
  const firstBody = rows.findIndex((row) => !isHeaderRow(row));
  const headRows = firstBody < 0 ? rows.length : firstBody;
  // By row, the columns that are taken: cells from rows above reach down.
  const taken: boolean[][] = rows.map(() => []);
  const isFree = (x: number, y: number): boolean => taken[y]?.[x] !== true;
  const placed = rows.map((row, y): CellPlace[] => {
    let x = 0;
    const end = y < headRows ? headRows : rows.length;
    return childrenOf(row).map((cell): CellPlace => {
      while (!isFree(x, y)) x += 1;
      const spans = { columns: numberAttr(cell, 'colspan', 1), rows: numberAttr(cell, 'rowspan', 1) };
      let columns = 1;
      while (columns < spans.columns && isFree(x + columns, y)) columns += 1;
      const across = Array.from({ length: columns }, (_, at) => x + at);
      let down = 1;
      while (down < spans.rows && y + down < end && across.every((each) => isFree(each, y + down))) down += 1;
      for (let at = y; at < y + down; at += 1) for (const each of across) (taken[at] ??= [])[each] = true;
      x += columns;
      return { cell, x: x - columns, y, columns, rows: down };
    });
  });
  const count = Math.max(1, wanted.length, ...placed.flat().map(({ x, columns }) => x + columns));
  placed.forEach((row, y) => {
    // Holes are before cells that reach down, or at the end.
    for (let x = 0; x < count; x += 1) {
      if (!isFree(x, y)) continue;
      let columns = 1;
      while (x + columns < count && isFree(x + columns, y)) columns += 1;
      row.push({ cell: null, x, y, columns, rows: 1 });
      x += columns;
    }
    row.sort((a, b) => a.x - b.x);
  });
  const starts = [...new Set(placed.flat().map(({ x }) => x))].sort((a, b) => a - b);
  const columnAt = new Map(starts.map((x, at) => [x, at]));
  const within = (from: number, to: number): number => starts.filter((x) => x >= from && x < to).length;
  return {
    rows: placed.map((row) =>
      row.map((cell) => ({
        ...cell,
        x: columnAt.get(cell.x) ?? 0,
        columns: within(cell.x, cell.x + cell.columns),
      })),
    ),
    widths: starts.map((from, at) => together(wanted.slice(from, starts[at + 1] ?? count))),
    headRows,
  };
}

/** The width of columns that are one. */
function together(widths: readonly (number | null)[]): number | null {
  return widths.reduce<number | null>((sum, width) => (width === null ? sum : (sum ?? 0) + width), null);
}
