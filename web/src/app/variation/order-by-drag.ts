import { signal } from '@angular/core';

export type DropPlace = 'before' | 'into' | 'after';

/** An axis, or one of its values. */
export interface Draggable {
  readonly axis: string;
  /** Null: the axis itself. */
  readonly value: string | null;
}

const isSame = (a: Draggable, b: Draggable): boolean => a.axis === b.axis && a.value === b.value;

/** Axes are dragged among axes, values among the values of their axis. */
export class OrderByDrag {
  private dragged: Draggable | null = null;
  private readonly over = signal<{ readonly target: Draggable; readonly place: DropPlace } | null>(null);

  constructor(private readonly moved: (dragged: Draggable, target: Draggable, place: DropPlace) => void) {}

  begins(event: DragEvent, dragged: Draggable, title: string): void {
    this.dragged = dragged;
    event.dataTransfer?.setData('text/plain', title);
    if (event.dataTransfer) event.dataTransfer.effectAllowed = 'move';
  }

  isOver(event: DragEvent, target: Draggable): void {
    const { dragged } = this;
    if (!dragged || isSame(dragged, target)) return;
    if ((dragged.value === null) !== (target.value === null)) return;
    if (target.value !== null && dragged.axis !== target.axis) return;
    event.preventDefault();
    const box = (event.currentTarget as HTMLElement).getBoundingClientRect();
    const share = (event.clientY - box.top) / box.height;
    const middle: DropPlace = target.value === null ? (share < 0.5 ? 'before' : 'after') : 'into';
    const place = share < 0.3 ? 'before' : share > 0.7 ? 'after' : middle;
    const now = this.over();
    if (!now || !isSame(now.target, target) || now.place !== place) this.over.set({ target, place });
  }

  dropped(event: DragEvent): void {
    event.preventDefault();
    const [dragged, over] = [this.dragged, this.over()];
    this.ends();
    if (dragged && over) this.moved(dragged, over.target, over.place);
  }

  ends(): void {
    this.dragged = null;
    this.over.set(null);
  }

  /** Where something would come to stand at a row; the empty text: not there. */
  placeAt(target: Draggable): DropPlace | '' {
    const over = this.over();
    return over && isSame(over.target, target) ? over.place : '';
  }
}
