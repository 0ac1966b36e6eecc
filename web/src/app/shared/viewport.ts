import { Injectable, signal, type Signal } from '@angular/core';

/** How much room there is. Measured in the reader's own font size: who reads large has less. */
@Injectable({ providedIn: 'root' })
export class Viewport {
  /** What stands beside the content becomes a drawer. */
  readonly narrow = matches('(max-width: 68.7em)');
  /** The rail becomes a bar, and rows that do not fit overflow into menus. */
  readonly slim = matches('(max-width: 49.9em)');
}

function matches(query: string): Signal<boolean> {
  const list = window.matchMedia(query);
  const now = signal(list.matches);
  list.addEventListener('change', () => now.set(list.matches));
  return now.asReadonly();
}
