import { inject, Injectable, signal } from '@angular/core';
import type { ComponentRow } from '@allomorph/core';
import { Api } from './api';

/** The titles of components by key: what is asked for in one moment is read in one request. */
@Injectable({ providedIn: 'root' })
export class ComponentTitles {
  private readonly api = inject(Api);
  private readonly known = signal<ReadonlyMap<string, string>>(new Map());
  private asked = new Set<string>();
  private pending: string[] = [];

  /** The title; the key until it has been read, and where there is none. */
  of(key: string): string {
    return this.known().get(key) ?? key;
  }

  /** Reads the titles of some keys, but for those that are known. */
  read(keys: readonly string[]): void {
    const wanted = keys.filter((key) => !this.asked.has(key));
    if (wanted.length === 0) return;
    for (const key of wanted) this.asked.add(key);
    if (this.pending.length === 0) queueMicrotask(() => this.ask());
    this.pending.push(...wanted);
  }

  /** Takes over titles that came with something else. */
  add(rows: readonly Pick<ComponentRow, 'key' | 'title'>[]): void {
    if (rows.length === 0) return;
    for (const { key } of rows) this.asked.add(key);
    this.known.update((known) => new Map([...known, ...rows.map(({ key, title }) => [key, title] as const)]));
  }

  /** What was saved anew may have another title. */
  forget(key: string): void {
    if (!this.asked.delete(key)) return;
    this.read([key]);
  }

  private ask(): void {
    const keys = this.pending;
    this.pending = [];
    this.api.titles(keys).subscribe({
      next: (titles) => this.add(Object.entries(titles).map(([key, title]) => ({ key, title }))),
      // They are asked for again with the next question.
      error: () => keys.forEach((key) => this.asked.delete(key)),
    });
  }
}
