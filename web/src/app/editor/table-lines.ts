import type { TableMap } from 'prosemirror-tables';
import type { EditorView } from 'prosemirror-view';

/** The cell under a pointer, where it can be changed on this page. */
export function ownCell(view: EditorView, target: EventTarget | null): Element | null {
  const cell = target instanceof Element ? target.closest('td, th') : null;
  return cell && view.editable && !cell.closest('.seam') ? cell : null;
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
