import { effect, signal, untracked, type Signal } from '@angular/core';
import type { TableLazyLoadEvent } from 'primeng/table';
import type { Observable } from 'rxjs';
import { problemText } from './api';
import type { Page } from './paged';

const pageSize = 100;

/** The rows of a long table, of which only those that come into view are read. */
export class LazyRows<Question, Item> {
  /** As many as there are; undefined where they were not read yet. */
  readonly rows = signal<(Item | undefined)[]>([]);
  readonly total = signal(0);
  /** Whether anything was read yet: until then nothing is said of what there is. */
  readonly isRead = signal(false);
  readonly problem = signal('');
  private reading = 0;
  private readonly asked = new Set<number>();

  constructor(
    private readonly question: Signal<Question>,
    private readonly read: (question: Question, offset: number, limit: number) => Observable<Page<Item>>,
  ) {
    effect(() => {
      this.question();
      untracked(() => this.again());
    });
  }

  /** Reads anew; what is shown stays until it is there. */
  again(): void {
    this.reading += 1;
    this.asked.clear();
    this.load(0, true);
  }

  /** Reads the pages that a table asks for, those that are not there. */
  show({ first, rows }: TableLazyLoadEvent): void {
    const from = Math.floor((first ?? 0) / pageSize) * pageSize;
    const to = Math.min((first ?? 0) + (rows ?? pageSize), this.total());
    for (let offset = from; offset < to; offset += pageSize)
      if (!this.rows()[offset] && !this.asked.has(offset)) this.load(offset);
  }

  /** Changes what is shown of one row. */
  change(is: (item: Item) => boolean, to: (item: Item) => Item): boolean {
    const at = this.rows().findIndex((item) => item !== undefined && is(item));
    const item = this.rows()[at];
    if (item === undefined) return false;
    this.rows.update((rows) => rows.with(at, to(item)));
    return true;
  }

  private load(offset: number, anew = false): void {
    const { reading } = this;
    this.asked.add(offset);
    this.read(this.question(), offset, pageSize).subscribe({
      next: ({ total, items }) => {
        // An answer to an earlier question comes too late.
        if (reading !== this.reading) return;
        this.isRead.set(true);
        this.problem.set('');
        const rows = anew ? Array.from<Item | undefined>({ length: total }) : [...this.rows()];
        items.forEach((item, index) => (rows[offset + index] = item));
        this.rows.set(rows);
        this.total.set(total);
      },
      error: (error: unknown) => {
        if (reading !== this.reading) return;
        this.asked.delete(offset);
        this.problem.set(problemText(error));
      },
    });
  }
}
