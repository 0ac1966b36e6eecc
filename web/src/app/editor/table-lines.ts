import { TableMap, type Rect } from 'prosemirror-tables';
import type { EditorView } from 'prosemirror-view';
import { depthOf } from './places';

/** A cell of a table, where it can be changed on this page. */
export interface CellOnPage {
  readonly element: Element;
  /** The place of its grid. */
  readonly grid: number;
  readonly map: TableMap;
  /** The rows and columns that it covers. */
  readonly rect: Rect;
}

/** The cell under a pointer; null: there is none that can be changed here. */
export function cellUnder(view: EditorView, target: EventTarget | null): CellOnPage | null {
  const element = target instanceof Element ? target.closest('td, th') : null;
  if (!element || !view.editable || element.closest('.seam')) return null;
  const $cell = view.state.doc.resolve(view.posAtDOM(element, 0));
  const depth = depthOf($cell, 'table_grid');
  if (depth < 0 || $cell.depth < depth + 2) return null;
  const map = TableMap.get($cell.node(depth));
  const rect = map.findCell($cell.before(depth + 2) - $cell.start(depth));
  return { element, grid: $cell.before(depth), map, rect };
}

/** Where the columns of a grid begin and the last one ends, in pixels of the window. */
export function columnLines(view: EditorView, grid: number, map: TableMap): readonly number[] {
  const lines: (number | undefined)[] = Array.from({ length: map.width + 1 });
  for (const at of new Set(map.map)) {
    const cell = view.nodeDOM(grid + 1 + at);
    if (!(cell instanceof HTMLElement)) continue;
    const box = cell.getBoundingClientRect();
    const { left, right } = map.findCell(at);
    lines[left] ??= box.left;
    lines[right] ??= box.right;
  }
  // Columns that only merged cells reach across share what these have.
  return lines.map((line, at) => {
    if (line !== undefined) return line;
    const before = lines.slice(0, at).findLastIndex((each) => each !== undefined);
    const after = lines.findIndex((each, index) => index > at && each !== undefined);
    const [from, to] = [lines[before] ?? 0, lines[after] ?? 0];
    return from + ((to - from) * (at - before)) / (after - before);
  });
}

/** Where the rows of a grid begin and the last one ends, in pixels of the window. */
export function rowLines(view: EditorView, grid: number): readonly number[] {
  const node = view.state.doc.nodeAt(grid);
  const lines: number[] = [];
  let end = 0;
  node?.forEach((_, offset) => {
    const row = view.nodeDOM(grid + 1 + offset);
    if (!(row instanceof HTMLElement)) return;
    const box = row.getBoundingClientRect();
    lines.push(box.top);
    end = box.bottom;
  });
  return [...lines, end];
}
