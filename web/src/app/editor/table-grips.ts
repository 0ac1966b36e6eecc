import { Plugin, type PluginView } from 'prosemirror-state';
import type { EditorView } from 'prosemirror-view';
import { cellUnder, columnLines, rowLines } from './table-lines';
import { moveColumnTo, moveRowTo } from './table-moves';

type Side = 'row' | 'column';
const sides = ['row', 'column'] as const;
const moves = { row: moveRowTo, column: moveColumnTo };

/** Lets the rows and columns of tables be dragged by grips at the table's edge. Keys move them by the table's bar. */
export function tableGrips(): Plugin {
  return new Plugin({ view: (view) => new TableGrips(view) });
}

/** A row and a column of a table, and where all of them begin. */
interface Place {
  readonly grid: number;
  readonly at: Readonly<Record<Side, number>>;
  readonly lines: Readonly<Record<Side, readonly number[]>>;
}

class TableGrips implements PluginView {
  private readonly grips: Readonly<Record<Side, HTMLElement>> = { row: made('table-grip'), column: made('table-grip') };
  private readonly line = made('table-drop');
  private place: Place | null = null;
  private drag: { readonly side: Side; to: number | null } | null = null;
  private readonly hide = (): void => this.show(null);
  private readonly look = (event: PointerEvent): void => {
    if (!this.drag && event.buttons === 0) this.show(this.placeAt(event.target));
  };
  private readonly cancel = (event: KeyboardEvent): void => {
    if (event.key === 'Escape' && this.drag) this.hide();
  };

  constructor(private readonly view: EditorView) {
    for (const side of sides) {
      const grip = this.grips[side];
      grip.dataset['side'] = side;
      grip.title = `Drag the ${side}`;
      grip.addEventListener('pointerdown', (event) => this.begin(event, side));
      grip.addEventListener('pointermove', (event) => this.over(event));
      grip.addEventListener('pointerup', () => this.end());
      grip.addEventListener('pointercancel', this.hide);
    }
    view.dom.parentElement?.append(this.grips.row, this.grips.column, this.line);
    view.dom.addEventListener('pointermove', this.look);
    window.addEventListener('scroll', this.hide, true);
    window.addEventListener('keydown', this.cancel);
  }

  update(): void {
    if (!this.drag) this.hide();
  }

  destroy(): void {
    this.view.dom.removeEventListener('pointermove', this.look);
    window.removeEventListener('scroll', this.hide, true);
    window.removeEventListener('keydown', this.cancel);
    for (const each of [this.grips.row, this.grips.column, this.line]) each.remove();
  }

  private show(place: Place | null): void {
    this.drag = null;
    this.place = place;
    this.line.togglePopover(false);
    for (const side of sides) this.grips[side].togglePopover(place !== null);
    if (!place) return;
    const middle = (side: Side): number => {
      const lines = place.lines[side];
      return ((lines[place.at[side]] ?? 0) + (lines[place.at[side] + 1] ?? 0)) / 2;
    };
    put(this.grips.row, { left: place.lines.column[0] ?? 0, top: middle('row') });
    put(this.grips.column, { left: middle('column'), top: place.lines.row[0] ?? 0 });
  }

  private placeAt(target: EventTarget | null): Place | null {
    const cell = cellUnder(this.view, target);
    if (!cell) return null;
    const { grid, map, rect } = cell;
    return {
      grid,
      at: { row: rect.top, column: rect.left },
      lines: { row: rowLines(this.view, grid), column: columnLines(this.view, grid, map) },
    };
  }

  private begin(event: PointerEvent, side: Side): void {
    if (!this.place || event.button !== 0) return;
    event.preventDefault();
    this.drag = { side, to: null };
    this.grips[side].setPointerCapture(event.pointerId);
  }

  /** Shows the line at which what is dragged would come to stand, where it can. */
  private over(event: PointerEvent): void {
    const { drag, place } = this;
    if (!drag || !place) return;
    const { side } = drag;
    const [lines, from] = [place.lines[side], place.at[side]];
    const pointer = side === 'row' ? event.clientY : event.clientX;
    const edge = lines.reduce(
      (best, line, at) => (Math.abs(line - pointer) < Math.abs((lines[best] ?? 0) - pointer) ? at : best),
      0,
    );
    const to = edge > from ? edge - 1 : edge;
    drag.to = moves[side](place.grid, from, to)(this.view.state) ? to : null;
    this.line.togglePopover(drag.to !== null);
    if (drag.to === null) return;
    const other = place.lines[side === 'row' ? 'column' : 'row'];
    const [first = 0, last = 0] = [other[0], other.at(-1)];
    const line = lines[edge] ?? 0;
    const box =
      side === 'row'
        ? { left: first, top: line - 1, width: last - first, height: 3 }
        : { left: line - 1, top: first, width: 3, height: last - first };
    put(this.line, box);
  }

  private end(): void {
    const { drag, place } = this;
    this.hide();
    if (!drag || !place || drag.to === null) return;
    moves[drag.side](place.grid, place.at[drag.side], drag.to)(this.view.state, this.view.dispatch, this.view);
    this.view.focus();
  }
}

/** Over all else, and placed by the window, whatever the page stands in. */
function made(name: string): HTMLElement {
  const element = document.createElement('div');
  element.className = name;
  element.popover = 'manual';
  element.setAttribute('aria-hidden', 'true');
  return element;
}

function put(element: HTMLElement, box: Readonly<Record<string, number>>): void {
  for (const [name, value] of Object.entries(box)) element.style.setProperty(name, `${value}px`);
}
