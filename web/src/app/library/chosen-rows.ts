import { computed, signal, type Signal } from '@angular/core';
import type { ComponentRow } from '@allomorph/core';

/** Acts on many take no more at once. */
export const mostChosen = 500;

/** The components that are chosen in the list to do something with all of them. */
export class ChosenRows {
  private readonly keys = signal<ReadonlySet<string>>(new Set());
  readonly count = computed(() => this.keys().size);
  private last: number | null = null;

  /** @param rows the rows of the list, as far as they are read */
  constructor(private readonly rows: Signal<readonly (ComponentRow | undefined)[]>) {}

  has(key: string): boolean {
    return this.keys().has(key);
  }

  all(): readonly string[] {
    return [...this.keys()];
  }

  /** Chooses a row or not, and with `upTo` all between it and the one that was clicked before. */
  toggle(index: number, upTo: boolean): void {
    const row = this.rows()[index];
    if (!row) return;
    const on = !this.has(row.key);
    const from = upTo && this.last !== null ? this.last : index;
    const range = this.rows().slice(Math.min(from, index), Math.max(from, index) + 1);
    this.last = index;
    this.keys.update((keys) => {
      const next = new Set(keys);
      for (const each of range)
        if (each && !on) next.delete(each.key);
        else if (each && next.size < mostChosen) next.add(each.key);
      return next;
    });
  }

  choose(rows: readonly ComponentRow[]): void {
    this.keys.set(new Set(rows.slice(0, mostChosen).map(({ key }) => key)));
  }

  /** What was done needs not be chosen any more. */
  keepOnly(keys: readonly string[]): void {
    this.keys.update((chosen) => new Set(keys.filter((key) => chosen.has(key))));
  }
}
