import { known } from '../model/known.js';
import { columnsOf, type TableColumn } from '../content/body.js';
import { childrenOf, numberAttr, type InTree } from '../model/node.js';
import { conditionOn } from '../variation/stamps.js';
import type { Algebra } from './algebra.js';

/** A cell with the row and column in which it begins. */
export interface PlacedCell<Node> {
  readonly cell: Node;
  readonly row: number;
  readonly column: number;
  readonly rowspan: number;
  readonly colspan: number;
}

/** The most cells that a row may span; more is cut off, as a row can hold no more. */
const mostColumns = 1000;

/** Finds the row and column in which each cell begins, as HTML does (HTML standard, 4.9.12.1 “Forming a table”). */
export function placeCells<Node extends InTree<Node>>(rows: readonly Node[]): readonly PlacedCell<Node>[] {
  const placed: PlacedCell<Node>[] = [];
  const reach: number[] = [];
  rows.forEach((row, rowIndex) => {
    let column = 0;
    for (const cell of childrenOf(row)) {
      while ((reach[column] ?? 0) > rowIndex) column += 1;
      const rowspan = Math.min(Math.max(1, numberAttr(cell, 'rowspan', 1)), rows.length - rowIndex);
      const colspan = Math.min(Math.max(1, numberAttr(cell, 'colspan', 1)), mostColumns);
      placed.push({ cell, row: rowIndex, column, rowspan, colspan });
      for (let covered = column; covered < column + colspan; covered += 1) reach[covered] = rowIndex + rowspan;
      column += colspan;
    }
  });
  return placed;
}

/** Where the parts of a table grid are in. */
export interface GridSelection<S, Node> {
  readonly cells: readonly PlacedCell<Node>[];
  /** By row: where it stands; a row in which no cell begins adds nothing and does not. */
  readonly rows: readonly S[];
  readonly columns: readonly S[];
  /** By cell, in the order of `cells`. */
  readonly cellSets: readonly S[];
  /** Where anything stays: a row with a cell, and one that is no header where there are any. */
  readonly remains: S;
}

/**
 * Selects from a table grid: rows and columns by their conditions, cells where any row and any column that they
 * cover is. A cell whose first row goes stands in the first of its rows that stays.
 */
export function selectGrid<S, Node extends InTree<Node>>(
  algebra: Algebra<S>,
  grid: Node,
  within: S,
): GridSelection<S, Node> {
  const rows = childrenOf(grid);
  const cells = placeCells(rows);
  const described = columnsOf({ attrs: grid.attrs });
  const count = cells.reduce((most, each) => Math.max(most, each.column + each.colspan), 0);
  const columns = Array.from({ length: count }, (_, at) =>
    described[at]?.when ? algebra.holds(described[at].when) : algebra.all,
  );
  const wanted = rows.map((row) => algebra.and(within, algebra.holds(conditionOn(row))));
  const begun = rows.map(() => algebra.none);
  const cellSets = cells.map(({ row, column, rowspan, colspan }) => {
    let inColumns = algebra.none;
    for (let at = column; at < column + colspan; at += 1) inColumns = algebra.or(inColumns, known(columns[at]));
    let inRows = algebra.none;
    for (let at = row; at < row + rowspan; at += 1) {
      const stays = known(wanted[at]);
      // It begins in this row where it could begin in none before.
      const begins = algebra.and(algebra.minus(stays, inRows), inColumns);
      begun[at] = algebra.or(known(begun[at]), begins);
      inRows = algebra.or(inRows, stays);
    }
    return algebra.and(inRows, inColumns);
  });
  const isHeader = (row: Node): boolean => row.attrs?.['header'] === true;
  const hasBody = rows.some((row) => !isHeader(row));
  const remains = begun.reduce(
    (sum, set, at) => (hasBody && isHeader(known(rows[at])) ? sum : algebra.or(sum, set)),
    algebra.none,
  );
  return { cells, rows: begun, columns, cellSets, remains };
}

/** What stays of a table grid. */
export interface KeptGrid<Node> {
  readonly rows: readonly {
    readonly row: Node;
    readonly cells: readonly { readonly cell: Node; readonly rowspan: number; readonly colspan: number }[];
  }[];
  readonly columns: readonly TableColumn[];
}

/** The rows and columns of a grid that are in; cells span what stays of what they spanned. */
export function keptGrid<Node extends InTree<Node>>(
  grid: Node,
  selection: GridSelection<boolean, Node>,
): KeptGrid<Node> {
  const { rows, columns, cells } = selection;
  const placed = rows.map((): { cell: Node; rowspan: number; colspan: number; column: number }[] => []);
  for (const { cell, row, column, rowspan, colspan } of cells) {
    const keptRows = range(row, row + rowspan).filter((at) => rows[at]);
    const keptColumns = range(column, column + colspan).filter((at) => columns[at]);
    const [[first], [left]] = [keptRows, keptColumns];
    if (first === undefined || left === undefined) continue;
    placed[first]?.push({ cell, rowspan: keptRows.length, colspan: keptColumns.length, column: left });
  }
  return {
    rows: childrenOf(grid).flatMap((row, at) =>
      rows[at] ? [{ row, cells: known(placed[at]).sort((a, b) => a.column - b.column) }] : [],
    ),
    columns: columnsOf({ attrs: grid.attrs }).filter((_, at) => columns[at] ?? true),
  };
}

function range(from: number, to: number): number[] {
  return Array.from({ length: Math.max(0, to - from) }, (_, index) => from + index);
}
