import { Directive, HostListener, output } from '@angular/core';
import { keyOf, type KeyBinding } from '../shared/bindings';
import type { EntryMove } from './outline';

/** What keys do with the chosen entry of an outline. Alt with left or right belongs to browsers. */
export const outlineKeys = {
  up: { key: 'Alt-ArrowUp', title: 'Move the entry up' },
  down: { key: 'Alt-ArrowDown', title: 'Move the entry down' },
  in: { key: '>', title: 'Move the entry one level in' },
  out: { key: '<', title: 'Move the entry one level out' },
} as const satisfies Readonly<Record<EntryMove, KeyBinding>>;

/** Moves the chosen entry of the outline inside by keys. */
@Directive({ selector: '[alOutlineKeys]' })
export class OutlineKeys {
  readonly moved = output<EntryMove>();

  @HostListener('keydown', ['$event'])
  protected key(event: KeyboardEvent): void {
    const pressed = keyOf(event);
    const to = (Object.keys(outlineKeys) as EntryMove[]).find((move) => outlineKeys[move].key === pressed);
    if (!to || (event.target instanceof HTMLElement && event.target.closest('input, textarea'))) return;
    event.preventDefault();
    event.stopPropagation();
    this.moved.emit(to);
  }
}
