import { Directive, HostListener, output } from '@angular/core';
import type { EntryMove } from './outline';

const moves: Readonly<Record<string, EntryMove>> = {
  ArrowUp: 'up',
  ArrowDown: 'down',
  ArrowRight: 'in',
  ArrowLeft: 'out',
};

/** Arrow keys with Alt move the chosen entry of the outline inside. */
@Directive({ selector: '[alOutlineKeys]' })
export class OutlineKeys {
  readonly moved = output<EntryMove>();

  @HostListener('keydown', ['$event'])
  protected key(event: KeyboardEvent): void {
    const to = event.altKey ? moves[event.key] : undefined;
    if (!to) return;
    event.preventDefault();
    event.stopPropagation();
    this.moved.emit(to);
  }
}
