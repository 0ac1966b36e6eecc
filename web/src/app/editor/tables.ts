import type { tableRules } from '@allomorph/core';
import { Fragment, type Node } from 'prosemirror-model';
import { Selection, TextSelection, type Command } from 'prosemirror-state';
import { isInTable, selectedRect, setCellAttr } from 'prosemirror-tables';
import { depthOf } from './places';
import { nodeType } from './schema-types';

/** A table with a caption, a header row and empty cells. */
export function emptyTable(rows: number, columns: number): Node {
  const row = (header: boolean): Node =>
    nodeType('table_row').create(
      { header },
      Array.from({ length: columns }, () =>
        nodeType(header ? 'table_header' : 'table_cell').create(null, nodeType('paragraph').create()),
      ),
    );
  const grid = nodeType('table_grid').create(
    null,
    Array.from({ length: rows }, (_, index) => row(index === 0)),
  );
  return nodeType('table').create(null, [nodeType('caption').create(), grid]);
}

/** Gives the table at the cursor lines of its own; null: as the design draws them. */
export function drawLines(lines: (typeof tableRules)[number] | null): Command {
  return (state, dispatch) => {
    const { $from } = state.selection;
    const depth = depthOf($from, 'table');
    if (depth < 0) return false;
    dispatch?.(state.tr.setNodeAttribute($from.before(depth), 'lines', lines));
    return true;
  };
}

/** Makes the row at the cursor a header row, or an ordinary one again. */
export const toggleHeaderRow: Command = (state, dispatch) => {
  const { $from } = state.selection;
  for (let depth = $from.depth; depth > 0; depth -= 1) {
    const row = $from.node(depth);
    if (row.type.name !== 'table_row') continue;
    if (dispatch) {
      const header = row.attrs['header'] !== true;
      const position = $from.before(depth);
      const { tr } = state;
      tr.setNodeAttribute(position, 'header', header);
      row.forEach((cell, offset) => {
        tr.setNodeMarkup(position + 1 + offset, nodeType(header ? 'table_header' : 'table_cell'), cell.attrs);
      });
      dispatch(tr);
    }
    return true;
  }
  return false;
};

/** Makes the cells of the column at the cursor headers of their rows, or ordinary ones again. Header rows stay. */
export const toggleHeaderColumn: Command = (state, dispatch) => {
  if (!isInTable(state)) return false;
  const { map, table, tableStart, left } = selectedRect(state);
  const cells = new Set<number>();
  for (let row = 0; row < map.height; row += 1)
    if (table.child(row).attrs['header'] !== true) cells.add(map.map[row * map.width + left] ?? 0);
  if (cells.size === 0) return false;
  const isHeader = [...cells].every((at) => table.nodeAt(at)?.type.name === 'table_header');
  const { tr } = state;
  for (const at of cells) {
    const cell = table.nodeAt(at);
    if (cell) tr.setNodeMarkup(tableStart + at, nodeType(isHeader ? 'table_cell' : 'table_header'), cell.attrs);
  }
  dispatch?.(tr);
  return true;
};

/** Where the text of the chosen cells stands; null: at the start of the line. */
export function alignCells(align: 'center' | 'right' | null): Command {
  return (state, dispatch) => isInTable(state) && setCellAttr('align', align)(state, dispatch);
}

/** Gives the table at the cursor a caption, or takes it away. */
export const toggleCaption: Command = (state, dispatch) => {
  const { $from } = state.selection;
  const depth = depthOf($from, 'table');
  if (depth < 0) return false;
  const table = $from.node(depth);
  const caption = table.firstChild?.type.name === 'caption' ? table.firstChild : null;
  const start = $from.start(depth);
  const { tr } = state;
  if (!caption) {
    tr.insert(start, nodeType('caption').create());
    tr.setSelection(TextSelection.create(tr.doc, start + 1));
  } else {
    tr.delete(start, start + caption.nodeSize);
    if ($from.parent.type.name === 'caption') tr.setSelection(Selection.near(tr.doc.resolve(start + 1)));
  }
  dispatch?.(tr.scrollIntoView());
  return true;
};

/** Whether the table at the cursor has a caption. */
export function hasCaption($from: Parameters<typeof depthOf>[0]): boolean {
  const depth = depthOf($from, 'table');
  return depth >= 0 && $from.node(depth).firstChild?.type.name === 'caption';
}

/**
 * Sorts the rows below the head by the column at the cursor, numbers by their value; rows that merged cells hold together cannot be
 * sorted.
 * @param language a language tag (BCP 47)
 */
export function sortRows(descends: boolean, language = 'en'): Command {
  return (state, dispatch) => {
    if (!isInTable(state)) return false;
    const { map, table, tableStart, left } = selectedRect(state);
    const rows = table.children.map((row, at) => ({ row, cell: table.nodeAt(map.map[at * map.width + left] ?? 0) }));
    const head = rows.findIndex(({ row }) => row.attrs['header'] !== true);
    const body = head < 0 ? [] : rows.slice(head);
    const isHeld = table.children.some((row) => row.children.some(({ attrs }) => Number(attrs['rowspan'] ?? 1) > 1));
    if (body.length < 2 || isHeld) return false;
    if (!dispatch) return true;
    const collator = new Intl.Collator(language, { numeric: true });
    const sorted = [...body].sort(
      (a, b) => collator.compare(a.cell?.textContent ?? '', b.cell?.textContent ?? '') * (descends ? -1 : 1),
    );
    const order = [...rows.slice(0, head), ...sorted].map(({ row }) => row);
    const { $from } = state.selection;
    const own = depthOf($from, 'table_row');
    const tr = state.tr.replaceWith(tableStart, tableStart + table.content.size, Fragment.from(order));
    // The cursor goes with its row.
    const before = order.slice(0, order.indexOf($from.node(own))).reduce((size, row) => size + row.nodeSize, 0);
    const at = tableStart + before + ($from.pos - $from.before(own));
    dispatch(tr.setSelection(Selection.near(tr.doc.resolve(at))).scrollIntoView());
    return true;
  };
}
