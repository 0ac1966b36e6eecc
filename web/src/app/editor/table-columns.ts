import type { TableColumn } from '@allomorph/core';
import type { Node } from 'prosemirror-model';
import type { Command, EditorState } from 'prosemirror-state';
import { addColumnAfter, deleteColumn, isInTable, selectedRect, TableMap, type TableRect } from 'prosemirror-tables';

/** A column of a table, named by the position of the table's grid and its own number. */
export interface ColumnTarget {
  readonly kind: 'column';
  readonly position: number;
  readonly column: number;
  readonly when: string | null;
}

/** The column that the selection stands in, in the grid at a depth of it. */
export function columnTarget({ selection: { $from } }: EditorState, depth: number): ColumnTarget | null {
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
    dispatch?.(state.tr.setNodeAttribute(position, 'columns', kept(columns)));
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

/** What the grid says of each of its columns. */
export function describedColumns(grid: Node): readonly TableColumn[] {
  const columns = (grid.attrs['columns'] as readonly TableColumn[] | null) ?? [];
  return Array.from({ length: TableMap.get(grid).width }, (_, at) => columns[at] ?? {});
}

/** Columns as the grid keeps them: null where nothing is said of any. */
function kept(columns: readonly TableColumn[]): readonly TableColumn[] | null {
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
          tr.setNodeAttribute(rect.tableStart - 1, 'columns', kept(change(describedColumns(rect.table), rect)));
          dispatch(tr);
        }),
    );
  };
}
