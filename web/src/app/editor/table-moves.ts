import { Fragment, type Node } from 'prosemirror-model';
import { Selection, type Command } from 'prosemirror-state';
import { isInTable, selectedRect, TableMap } from 'prosemirror-tables';
import { describedColumns, keptColumns } from './table-columns';

/**
 * Moves a row of the grid at a position, with all that is said of it, to another place among the rows.
 * @returns a command that does nothing where a merged cell would be torn apart
 */
export function moveRowTo(grid: number, from: number, to: number): Command {
  return (state, dispatch) => {
    const node = gridAt(state.doc, grid);
    if (!node || from === to) return false;
    const order = moved(node.childCount, from, to);
    if (!order || tears(node, order, 'rows')) return false;
    if (!dispatch) return true;
    const rows = order.map((row) => node.child(row));
    const { tr } = state;
    tr.replaceWith(grid + 1, grid + 1 + node.content.size, rows);
    const before = rows.slice(0, to).reduce((sum, row) => sum + row.nodeSize, 0);
    dispatch(tr.setSelection(Selection.near(tr.doc.resolve(grid + 1 + before + 1))).scrollIntoView());
    return true;
  };
}

/** Moves a column of the grid at a position in the same way, with its width and condition. */
export function moveColumnTo(grid: number, from: number, to: number): Command {
  return (state, dispatch) => {
    const node = gridAt(state.doc, grid);
    if (!node || from === to) return false;
    const map = TableMap.get(node);
    const order = moved(map.width, from, to);
    if (!order || tears(node, order, 'columns')) return false;
    if (!dispatch) return true;
    const rows = node.children.map((row, at) => {
      const cells = ownCells(node, map, at).map(({ cell, left }) => ({ cell, place: order.indexOf(left) }));
      return row.copy(Fragment.from(cells.sort((a, b) => a.place - b.place).map(({ cell }) => cell)));
    });
    const columns = describedColumns(node);
    const { tr } = state;
    tr.replaceWith(grid + 1, grid + 1 + node.content.size, rows);
    tr.setNodeAttribute(grid, 'columns', keptColumns(order.map((column) => columns[column] ?? {})));
    const after = gridAt(tr.doc, grid);
    const row = rowOf(map, state.selection.from - grid - 1);
    const at = after ? TableMap.get(after).map[row * map.width + to] : undefined;
    if (at !== undefined) tr.setSelection(Selection.near(tr.doc.resolve(grid + 1 + at + 1)));
    dispatch(tr.scrollIntoView());
    return true;
  };
}

/** Moves the column at the cursor among its neighbours. */
export function moveColumn(by: 1 | -1): Command {
  return (state, dispatch, view) => {
    if (!isInTable(state)) return false;
    const { left, right, tableStart } = selectedRect(state);
    return right - left === 1 && moveColumnTo(tableStart - 1, left, left + by)(state, dispatch, view);
  };
}

function gridAt(doc: Node, position: number): Node | null {
  const node = doc.nodeAt(position);
  return node?.type.name === 'table_grid' ? node : null;
}

/** The order in which the places stand when one of them has moved; null where there is no such place. */
function moved(count: number, from: number, to: number): readonly number[] | null {
  if (from < 0 || to < 0 || from >= count || to >= count) return null;
  const rest = Array.from({ length: count }, (_, at) => at).filter((at) => at !== from);
  return rest.toSpliced(to, 0, from);
}

/** Whether a merged cell would not be one piece any more. */
function tears(grid: Node, order: readonly number[], what: 'rows' | 'columns'): boolean {
  const map = TableMap.get(grid);
  return [...new Set(map.map)].some((at) => {
    const { left, right, top, bottom } = map.findCell(at);
    const [from, to] = what === 'rows' ? [top, bottom] : [left, right];
    const first = order.indexOf(from);
    return Array.from({ length: to - from }, (_, index) => order[first + index]).some(
      (place, at) => place !== from + at,
    );
  });
}

/** The cells that begin in a row, with the columns in which they do. */
function ownCells(grid: Node, map: TableMap, row: number): readonly { readonly cell: Node; readonly left: number }[] {
  const cells: { cell: Node; left: number }[] = [];
  for (let column = 0; column < map.width; column += 1) {
    const at = map.map[row * map.width + column] ?? 0;
    const { left, top } = map.findCell(at);
    const cell = top === row && left === column ? grid.nodeAt(at) : null;
    if (cell) cells.push({ cell, left });
  }
  return cells;
}

/** The row in which a place within a grid stands; the first one where it stands in none. */
function rowOf(map: TableMap, within: number): number {
  const at = [...new Set(map.map)].filter((cell) => cell <= within).at(-1);
  return at === undefined ? 0 : map.findCell(at).top;
}
