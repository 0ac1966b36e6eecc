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

/** What keys do besides; cut, copy and paste come from the browser. */
export const outlineEdits = {
  undo: { key: 'Mod-z', title: 'Undo what was done to the outline' },
  redo: { key: 'Mod-y', title: 'Do it again' },
  range: { key: 'Shift-ArrowDown', title: 'Pick several entries' },
  all: { key: 'Mod-a', title: 'Pick all entries' },
  cut: { key: 'Mod-x', title: 'Cut the picked entries with all below them' },
  copy: { key: 'Mod-c', title: 'Copy them' },
  paste: { key: 'Mod-v', title: 'Paste entries, or lines of text as headings' },
} as const satisfies Readonly<Record<string, KeyBinding>>;

/** Moves the chosen entry of the outline inside by keys. */
@Directive({ selector: '[alOutlineKeys]' })
export class OutlineKeys {
  readonly moved = output<EntryMove>();
  readonly undone = output<void>();
  readonly redone = output<void>();

  @HostListener('keydown', ['$event'])
  protected key(event: KeyboardEvent): void {
    const pressed = keyOf(event);
    if (event.target instanceof HTMLElement && event.target.closest('input, textarea')) return;
    if (pressed === outlineEdits.undo.key || pressed === outlineEdits.redo.key) {
      event.preventDefault();
      event.stopPropagation();
      if (pressed === outlineEdits.redo.key || event.shiftKey) this.redone.emit();
      else this.undone.emit();
      return;
    }
    const to = (Object.keys(outlineKeys) as EntryMove[]).find((move) => outlineKeys[move].key === pressed);
    if (!to) return;
    event.preventDefault();
    event.stopPropagation();
    this.moved.emit(to);
  }
}
