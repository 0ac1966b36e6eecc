import type { TableColumn } from '@allomorph/core';
import type { Node, ResolvedPos } from 'prosemirror-model';
import type { Command } from 'prosemirror-state';
import {
  addColumnAfter,
  addColumnBefore,
  deleteColumn,
  isInTable,
  selectedRect,
  TableMap,
  type TableRect,
} from 'prosemirror-tables';

/** A column of a table, named by the position of the table's grid and its own number. */
export interface ColumnTarget {
  readonly kind: 'column';
  readonly position: number;
  readonly column: number;
  readonly when: string | null;
}

/** The column that the selection stands in, in the grid at a depth of it. */
export function columnTarget($from: ResolvedPos, depth: number): ColumnTarget | null {
  const cell = depth + 2;
  if ($from.depth < cell) return null;
  const grid = $from.node(depth);
  const { left } = TableMap.get(grid).findCell($from.before(cell) - $from.start(depth));
  return {
    kind: 'column',
    position: $from.before(depth),
    column: left,
    when: describedColumns(grid)[left]?.when ?? null,
  };
}

/** Puts a condition on a column, or takes it away with null. */
export function limitColumn({ position, column }: ColumnTarget, when: string | null): Command {
  return (state, dispatch) => {
    const grid = state.doc.nodeAt(position);
    if (grid?.type.name !== 'table_grid') return false;
    const columns = describedColumns(grid).map((each, at) => (at === column ? { ...each, when } : each));
    dispatch?.(state.tr.setNodeAttribute(position, 'columns', keptColumns(columns)));
    return true;
  };
}

/** Adds a column behind the chosen ones. */
export const addColumn = inStep(addColumnAfter, (columns, { right }) => [
  ...columns.slice(0, right),
  {},
  ...columns.slice(right),
]);

/** Takes the chosen columns out, with what is said of them. */
export const dropColumn = inStep(deleteColumn, (columns, { left, right }) => [
  ...columns.slice(0, left),
  ...columns.slice(right),
]);

/** Adds a column before the chosen ones. */
export const addColumnInFront = inStep(addColumnBefore, (columns, { left }) => [
  ...columns.slice(0, left),
  {},
  ...columns.slice(left),
]);

/** What the grid says of each of its columns. */
export function describedColumns(grid: Node): readonly TableColumn[] {
  const columns = (grid.attrs['columns'] as readonly TableColumn[] | null) ?? [];
  return Array.from({ length: TableMap.get(grid).width }, (_, at) => columns[at] ?? {});
}

/** The shares of the width that the columns of a grid have, in percent; null: they are as wide as what they hold. */
export function sharesOf(grid: Node): readonly number[] | null {
  const columns = describedColumns(grid);
  const said = columns.flatMap(({ width }) => (width ? [width] : []));
  if (said.length === 0) return null;
  // A column of which nothing is said gets as much as the others have on the average.
  const average = said.reduce((sum, width) => sum + width, 0) / said.length;
  const widths = columns.map(({ width }) => width ?? average);
  const sum = widths.reduce((total, width) => total + width, 0);
  return widths.map((width) => (100 * width) / sum);
}

const leastShare = 5;

/** Gives the columns of the grid at a position their shares of the width; null: they are as wide as what they hold. */
export function setShares(position: number, shares: readonly number[] | null): Command {
  return (state, dispatch) => {
    const grid = state.doc.nodeAt(position);
    if (grid?.type.name !== 'table_grid') return false;
    const columns = describedColumns(grid).map(({ when }, at) => {
      const width = shares ? Math.max(1, Math.round(shares[at] ?? 0)) : null;
      return { ...(when ? { when } : {}), ...(width === null ? {} : { width }) };
    });
    dispatch?.(state.tr.setNodeAttribute(position, 'columns', keptColumns(columns)));
    return true;
  };
}

/** Makes the column at the cursor wider or narrower by what its neighbour loses or gains. */
export function widenColumn(by: number): Command {
  return (state, dispatch, view) => {
    if (!isInTable(state)) return false;
    const { left, map, table, tableStart } = selectedRect(state);
    if (map.width < 2) return false;
    const shares = [...(sharesOf(table) ?? Array.from({ length: map.width }, () => 100 / map.width))];
    const other = left + 1 < map.width ? left + 1 : left - 1;
    const [own, neighbour] = [(shares[left] ?? 0) + by, (shares[other] ?? 0) - by];
    if (own < leastShare || neighbour < leastShare) return false;
    [shares[left], shares[other]] = [own, neighbour];
    return setShares(tableStart - 1, shares)(state, dispatch, view);
  };
}

/** Lets the columns be as wide as what they hold. */
export const freeWidths: Command = (state, dispatch, view) => {
  if (!isInTable(state)) return false;
  const { table, tableStart } = selectedRect(state);
  return sharesOf(table) !== null && setShares(tableStart - 1, null)(state, dispatch, view);
};

/** Columns as the grid keeps them: null where nothing is said of any. */
export function keptColumns(columns: readonly TableColumn[]): readonly TableColumn[] | null {
  return columns.some(({ when, width }) => when || width) ? columns : null;
}

/** A command that changes which columns there are, with what the grid says of them kept in step. */
function inStep(
  command: Command,
  change: (columns: readonly TableColumn[], rect: TableRect) => readonly TableColumn[],
): Command {
  return (state, dispatch) => {
    if (!isInTable(state)) return false;
    const rect = selectedRect(state);
    return command(
      state,
      dispatch &&
        ((tr) => {
          tr.setNodeAttribute(rect.tableStart - 1, 'columns', keptColumns(change(describedColumns(rect.table), rect)));
          dispatch(tr);
        }),
    );
  };
}
