import { signal } from '@angular/core';
import { sameJson, type OutlineEntry } from '@allomorph/core';

interface Act {
  readonly what: string;
  /** Acts that follow each other under one name are one act, such as the keys that type a title; null: it stands alone. */
  readonly joins: string | null;
  readonly before: readonly OutlineEntry[];
  readonly after: readonly OutlineEntry[];
}

const mostKept = 200;

/** What was done to an outline, to be undone and done again. What somebody else changed meanwhile is never taken back. */
export class OutlineHistory {
  private readonly done = signal<readonly Act[]>([]);
  private readonly undone = signal<readonly Act[]>([]);

  /** What the next undo or redo is about; empty: there is nothing. */
  readonly undoes = (): string => this.done().at(-1)?.what ?? '';
  readonly redoes = (): string => this.undone().at(-1)?.what ?? '';

  keep(
    what: string,
    before: readonly OutlineEntry[],
    after: readonly OutlineEntry[],
    joins: string | null = null,
  ): void {
    const acts = this.done();
    const last = acts.at(-1);
    const isSameAct = joins !== null && last?.joins === joins && last.after === before;
    const act = { what, joins, before: isSameAct ? last.before : before, after };
    this.done.set([...(isSameAct ? acts.slice(0, -1) : acts), act].slice(-mostKept));
    this.undone.set([]);
  }

  /** The outline before the last act; null where there is none, or the outline is another one by now. */
  undo(now: readonly OutlineEntry[]): readonly OutlineEntry[] | null {
    const act = this.done().at(-1);
    if (!act) return null;
    if (!sameJson(act.after, now)) return this.forget();
    this.done.update((acts) => acts.slice(0, -1));
    this.undone.update((acts) => [...acts, act]);
    return act.before;
  }

  redo(now: readonly OutlineEntry[]): readonly OutlineEntry[] | null {
    const act = this.undone().at(-1);
    if (!act) return null;
    if (!sameJson(act.before, now)) return this.forget();
    this.undone.update((acts) => acts.slice(0, -1));
    this.done.update((acts) => [...acts, act]);
    return act.after;
  }

  forget(): null {
    this.done.set([]);
    this.undone.set([]);
    return null;
  }
}
