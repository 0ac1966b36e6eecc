import { Injectable, resource, type Signal } from '@angular/core';
import type { Problem } from '@allomorph/core';
import { latest } from './latest';
import type { ToRead } from './reading';

/** How content reads, and what its writers should know; both as far as a page shows them. */
export interface Reading {
  readonly html: string;
  readonly problems: readonly Pick<Problem, 'severity' | 'message'>[];
}

/** What the worker says. */
export type ReadingAnswer = { readonly reading: Reading } | { readonly failed: string };

/** How long one reading may take; content that takes longer is told to be too large. */
const mostSeconds = 15;
/** What is shown until something was read. */
export const nothingYet: Reading = { html: '', problems: [] };

/** One who waits for a reading. */
interface Waiting {
  readonly asked: ToRead;
  answer(answer: ReadingAnswer): void;
}

/** Makes readings in a worker, one after the other; what nobody waits for any more is not begun. */
@Injectable({ providedIn: 'root' })
export class Readings {
  private worker: Worker | null = null;
  private readonly waiting = new Set<Waiting>();
  private running: Waiting | null = null;
  private timer: ReturnType<typeof setTimeout> | undefined;

  /** What content reads like, made anew when what it is made of changes; the last one stays until then. */
  of(asked: () => ToRead | undefined): Signal<Reading> {
    const reading = resource({
      params: asked,
      loader: ({ params, abortSignal }) => this.read(params, abortSignal),
    });
    return latest(reading, nothingYet);
  }

  /** @param signal aborted when nobody waits any more */
  private read(asked: ToRead, signal: AbortSignal): Promise<Reading> {
    return new Promise((resolve) => {
      const waiting: Waiting = {
        asked,
        answer: (answer) => {
          resolve('reading' in answer ? answer.reading : unreadable(answer.failed));
        },
      };
      signal.addEventListener('abort', () => this.waiting.delete(waiting));
      this.waiting.add(waiting);
      this.next();
    });
  }

  private next(): void {
    const [first] = this.waiting;
    if (this.running || !first) return;
    this.waiting.delete(first);
    this.running = first;
    this.timer = setTimeout(() => {
      this.worker?.terminate();
      this.worker = null;
      this.done({ failed: 'This is too large to be shown here as it reads.' });
    }, mostSeconds * 1000);
    this.worker ??= this.begin();
    this.worker.postMessage(first.asked);
  }

  private begin(): Worker {
    const worker = new Worker(new URL('./reading.worker', import.meta.url), { type: 'module' });
    worker.addEventListener('message', ({ data }: MessageEvent<ReadingAnswer>) => {
      this.done(data);
    });
    worker.addEventListener('error', () => {
      this.worker = null;
      this.done({ failed: 'This cannot be shown as it reads. Load the page again.' });
    });
    return worker;
  }

  private done(answer: ReadingAnswer): void {
    clearTimeout(this.timer);
    const asked = this.running;
    this.running = null;
    asked?.answer(answer);
    this.next();
  }
}

function unreadable(message: string): Reading {
  return { html: '', problems: [{ severity: 'error', message }] };
}
