import { computed, effect, signal, untracked, type Signal } from '@angular/core';
import type { Observable } from 'rxjs';
import { problemText } from './api';

export interface Page<Item> {
  readonly total: number;
  readonly items: readonly Item[];
}

/** A list that is read page by page as it is scrolled, and anew when what is asked for changes. */
export class Paged<Question, Item> {
  readonly total = signal(0);
  readonly items = signal<readonly Item[]>([]);
  /** Whether anything was read yet: until then nothing is said of what there is. */
  readonly isRead = signal(false);
  readonly problem = signal('');
  readonly hasMore = computed(() => this.items().length < this.total());
  private reading = 0;
  private isReading = false;

  /** @param question what is asked for; undefined: nothing */
  constructor(
    private readonly question: Signal<Question | undefined>,
    private readonly read: (question: Question, offset: number) => Observable<Page<Item>>,
  ) {
    effect(() => {
      this.question();
      untracked(() => this.again());
    });
  }

  /** Reads the first page anew; what is shown stays until it is there. */
  again(): void {
    this.reading += 1;
    this.isReading = false;
    this.load(0);
  }

  /** Reads the next page, if there is one. */
  more(): void {
    if (this.hasMore()) this.load(this.items().length);
  }

  private load(offset: number): void {
    const question = this.question();
    if (question === undefined || this.isReading) return;
    this.isReading = true;
    const { reading } = this;
    this.read(question, offset).subscribe({
      next: ({ total, items }) => {
        // An answer to an earlier question comes too late.
        if (reading !== this.reading) return;
        this.isReading = false;
        this.isRead.set(true);
        this.problem.set('');
        this.total.set(total);
        this.items.update((before) => (offset === 0 ? items : [...before, ...items]));
      },
      error: (error: unknown) => {
        if (reading !== this.reading) return;
        this.isReading = false;
        this.problem.set(problemText(error));
      },
    });
  }
}
