import { inject, Injectable } from '@angular/core';
import { Session } from './session';

/** One thing that a key does. */
export interface KeyBinding {
  /** Such as Mod-k: Mod is Ctrl, or Cmd on a Mac. */
  readonly key: string;
  readonly title: string;
}

/** Keys that hold everywhere; people may choose others. The list of keys is made from this table. */
export const everywhereKeys = {
  find: { key: 'Mod-k', title: 'Find anything' },
  lens: { key: 'Alt-l', title: 'Take the lens off, or put the last one on again' },
  save: { key: 'Mod-s', title: 'Save what is open' },
  keys: { key: '?', title: 'Show the keys' },
} as const satisfies Readonly<Record<string, KeyBinding>>;
export type EverywhereKey = keyof typeof everywhereKeys;

const isMac = /Mac|iP(hone|ad)/.test(navigator.platform);

/** A key as people read it. */
export function keyText(key: string): string {
  const names: Readonly<Record<string, string>> = {
    Mod: isMac ? 'Cmd' : 'Ctrl',
    ArrowUp: '↑',
    ArrowDown: '↓',
    ArrowLeft: '←',
    ArrowRight: '→',
  };
  const parts = key.split(/-(?!$)/).map((part) => names[part] ?? (part.length === 1 ? part.toUpperCase() : part));
  return parts.join(' ');
}

/** The key that was pressed, in the form of the table; null for one that only changes others. */
export function keyOf(event: KeyboardEvent): string | null {
  if (['Control', 'Alt', 'Shift', 'Meta', 'AltGraph', 'Dead'].includes(event.key)) return null;
  const mod = isMac ? event.metaKey : event.ctrlKey;
  const sign = event.key.length === 1 ? event.key.toLowerCase() : event.key;
  return `${mod ? 'Mod-' : ''}${event.altKey ? 'Alt-' : ''}${sign}`;
}

/** Which key does what for this person. */
@Injectable({ providedIn: 'root' })
export class Bindings {
  private readonly session = inject(Session);

  keyFor(name: EverywhereKey): string {
    return this.session.person()?.settings.keys[name] ?? everywhereKeys[name].key;
  }

  /** What a key does everywhere; a bare sign does nothing while somebody types. */
  meant(event: KeyboardEvent): EverywhereKey | null {
    const pressed = keyOf(event);
    const found = (Object.keys(everywhereKeys) as EverywhereKey[]).find((name) => this.keyFor(name) === pressed);
    if (!found || pressed === null) return null;
    const isTyped =
      pressed.length === 1 &&
      event.target instanceof HTMLElement &&
      event.target.closest('input, textarea, select, [contenteditable=true]') !== null;
    return isTyped ? null : found;
  }
}
