import { Plugin, type PluginView } from 'prosemirror-state';
import type { EditorView } from 'prosemirror-view';
import { setShares } from './table-columns';
import { cellUnder, columnLines } from './table-lines';

/** So near to the edge of a column, in pixels, the pointer takes hold of it. */
const near = 5;
const leastWidth = 24;

/** Lets the edges of columns be dragged; what is written is shares of the width, which hold on any page. */
export function columnEdges(): Plugin {
  return new Plugin({ view: (view) => new ColumnEdge(view) });
}

interface Edge {
  /** Where the grid begins. */
  readonly position: number;
  /** The number of the column right of the edge. */
  readonly column: number;
  /** Where columns begin and the last one ends, in pixels of the window. */
  readonly lines: readonly number[];
}

/** A handle over the edge that the pointer is near to. */
class ColumnEdge implements PluginView {
  private readonly handle = document.createElement('div');
  private edge: Edge | null = null;
  private isDragged = false;
  private readonly hide = (): void => this.show(null);
  private readonly look = (event: PointerEvent): void => {
    if (!this.isDragged && event.buttons === 0) this.show(this.edgeAt(event));
  };

  constructor(private readonly view: EditorView) {
    this.handle.className = 'column-edge';
    // Over all else, and placed by the window, whatever the page stands in.
    this.handle.popover = 'manual';
    this.handle.setAttribute('aria-hidden', 'true');
    view.dom.parentElement?.append(this.handle);
    view.dom.addEventListener('pointermove', this.look);
    window.addEventListener('scroll', this.hide, true);
    this.handle.addEventListener('pointerdown', (event) => this.begin(event));
    this.handle.addEventListener('pointermove', (event) => this.drag(event));
    this.handle.addEventListener('pointerup', (event) => this.end(event));
    this.handle.addEventListener('pointercancel', this.hide);
    this.handle.addEventListener('pointerleave', () => {
      if (!this.isDragged) this.hide();
    });
  }

  update(): void {
    if (!this.isDragged) this.hide();
  }

  destroy(): void {
    this.view.dom.removeEventListener('pointermove', this.look);
    window.removeEventListener('scroll', this.hide, true);
    this.handle.remove();
  }

  private show(edge: Edge | null): void {
    this.isDragged = false;
    this.edge = edge;
    this.handle.togglePopover(edge !== null);
    const table = edge && this.view.nodeDOM(edge.position);
    if (!edge || !(table instanceof HTMLElement)) return;
    const { top, height } = table.getBoundingClientRect();
    Object.assign(this.handle.style, { top: `${top}px`, height: `${height}px` });
    this.moveTo(edge.lines[edge.column] ?? 0);
  }

  private moveTo(x: number): void {
    this.handle.style.left = `${x - near}px`;
  }

  private edgeAt({ target, clientX }: PointerEvent): Edge | null {
    const cell = cellUnder(this.view, target);
    if (!cell) return null;
    const { left, right } = cell.element.getBoundingClientRect();
    const isRight = Math.abs(clientX - right) <= near;
    if (!isRight && Math.abs(clientX - left) > near) return null;
    const { grid, map, rect } = cell;
    const column = isRight ? rect.right : rect.left;
    if (column <= 0 || column >= map.width) return null;
    return { position: grid, column, lines: columnLines(this.view, grid, map) };
  }

  private begin(event: PointerEvent): void {
    if (!this.edge) return;
    event.preventDefault();
    this.isDragged = true;
    this.handle.setPointerCapture(event.pointerId);
  }

  private drag(event: PointerEvent): void {
    if (this.isDragged) this.moveTo(this.within(event.clientX));
  }

  private within(x: number): number {
    const { lines, column } = this.edge ?? { lines: [], column: 0 };
    const [before = 0, after = 0] = [lines[column - 1], lines[column + 1]];
    return Math.min(Math.max(x, before + leastWidth), after - leastWidth);
  }

  private end(event: PointerEvent): void {
    const { edge } = this;
    if (!edge || !this.isDragged) return;
    const lines = edge.lines.with(edge.column, this.within(event.clientX));
    const whole = (lines.at(-1) ?? 0) - (lines[0] ?? 0);
    const shares = lines.slice(1).map((line, at) => (100 * (line - (lines[at] ?? 0))) / whole);
    this.show(null);
    setShares(edge.position, shares)(this.view.state, this.view.dispatch, this.view);
  }
}
