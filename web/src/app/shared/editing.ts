import { computed, DestroyRef, inject, Injectable, signal, type Signal } from '@angular/core';
import { mergeParts, sameParts, type Revised } from '@allomorph/core';
import { Drafts } from './drafts';
import { Notices } from './notices';
import { currentOf } from './save-change';
import { Session } from './session';
import type { Observable } from 'rxjs';

/** How one kind of thing is edited in parts. */
export interface EditedAs<Saved extends Revised, Parts extends object> {
  /** Names the thing among all that can be edited. */
  nameOf(saved: Saved): string;
  titleOf(saved: Saved): string;
  partsOf(saved: Saved): Parts;
  /** Saves parts as the next revision of what they were made from. */
  save(from: Saved, parts: Parts): Observable<Saved>;
  /** The thing as it is now, where a save was refused for it; without this: what the refusal holds. Null: it is not there. */
  theirs?(from: Saved, current: unknown): Saved | null;
  /** What is said when it is saved; without this: its title and its revision. */
  told?(saved: Saved): string;
}

/** A draft of a thing in parts: what was made, and from which version. */
interface PartsDraft<Saved, Parts> {
  readonly base: Saved;
  readonly parts: Parts;
}

/** What a save is refused for: what somebody else saved, and the parts that both changed. */
export interface Conflict<Saved, Parts> {
  readonly theirs: Saved;
  readonly both: readonly (keyof Parts)[];
}

/** Opens editing sessions on what people change in parts: variables, images, links, outlines. */
@Injectable({ providedIn: 'root' })
export class Edits {
  private readonly drafts = inject(Drafts);
  private readonly notices = inject(Notices);
  private readonly session = inject(Session);

  /** A session for the part of the interface that asks; it keeps its draft when that or the whole window goes. */
  of<Saved extends Revised, Parts extends object>(how: EditedAs<Saved, Parts>): Editing<Saved, Parts> {
    const destroyed = inject(DestroyRef);
    const editing = new Editing(how, this.drafts, this.notices, {
      maySave: () => this.session.mayWrite(),
      isGone: () => destroyed.destroyed,
    });
    const keep = (): void => editing.keepDraft();
    window.addEventListener('pagehide', keep);
    destroyed.onDestroy(() => {
      window.removeEventListener('pagehide', keep);
      keep();
    });
    return editing;
  }
}

/**
 * One editing session at a time on things of one kind: load, draft, save against what it was made from. What somebody else
 * saves meanwhile is merged part by part, and asked about where both changed the same. Nothing that was changed is
 * lost by going to another thing, by reloading or by closing the window.
 */
export class Editing<Saved extends Revised, Parts extends object> {
  private readonly from = signal<Saved | null>(null);
  private readonly made = signal<Parts | null>(null);
  /** What the session began with, or what it was last saved as. */
  readonly base: Signal<Saved | null> = this.from.asReadonly();
  readonly parts: Signal<Parts | null> = this.made.asReadonly();
  readonly saving = signal(false);
  readonly conflict = signal<Conflict<Saved, Parts> | null>(null);
  /** Whether what is shown was written earlier and not saved. */
  readonly fromDraft = signal(false);
  /** A later revision that somebody saved while this one is being changed. */
  readonly savedElsewhere = signal<number | null>(null);
  readonly dirty = computed(() => {
    const [base, made] = [this.from(), this.made()];
    return base !== null && made !== null && !sameParts(this.how.partsOf(base), made);
  });
  private keeping: ReturnType<typeof setTimeout> | undefined;
  /** A draft that is being brought in line with what was saved of it. */
  private settling: Promise<void> = Promise.resolve();

  constructor(
    private readonly how: EditedAs<Saved, Parts>,
    private readonly drafts: Drafts,
    private readonly notices: Notices,
    private readonly around: { readonly maySave: () => boolean; readonly isGone: () => boolean },
  ) {}

  /** Shows a thing as it is in the library, with what was changed of it and not saved. */
  async show(saved: Saved): Promise<void> {
    const name = this.how.nameOf(saved);
    const shown = this.from();
    if (shown && this.how.nameOf(shown) === name) {
      // Somebody else's save takes nothing away of what is being changed here.
      if (this.dirty()) this.savedElsewhere.set(saved.revision > shown.revision ? saved.revision : null);
      else if (saved.revision >= shown.revision) this.begin(saved, this.how.partsOf(saved));
      return;
    }
    this.keepDraft();
    this.begin(saved, this.how.partsOf(saved));
    // A save of what was shown before goes on, and has nothing to do with this.
    this.saving.set(false);
    await this.settling;
    const draft = await this.drafts.read<PartsDraft<Saved, Parts>>(name);
    const now = this.from();
    if (!draft || now !== saved || this.dirty()) return;
    this.begin(draft.base, draft.parts);
    this.fromDraft.set(true);
    if (saved.revision > draft.base.revision) this.savedElsewhere.set(saved.revision);
  }

  change(change: Partial<Parts>): void {
    this.made.update((parts) => parts && { ...parts, ...change });
    this.keeping ??= setTimeout(() => this.keepDraft(), 80);
  }

  /** Takes a part out, where parts can be left unsaid. */
  remove(part: keyof Parts): void {
    this.made.update((parts) => {
      if (!parts) return parts;
      const rest = { ...parts };
      Reflect.deleteProperty(rest, part);
      return rest;
    });
    this.keeping ??= setTimeout(() => this.keepDraft(), 80);
  }

  /** Keeps what was changed for the case that it is not saved. */
  keepDraft(): void {
    clearTimeout(this.keeping);
    this.keeping = undefined;
    const [base, parts] = [this.from(), this.made()];
    if (!base || !parts) return;
    const name = this.how.nameOf(base);
    if (this.dirty()) this.drafts.keep(name, { base, parts } satisfies PartsDraft<Saved, Parts>);
    else this.drafts.drop(name);
  }

  /**
   * Saves what was changed.
   * @param done called with what was saved, unless the part of the interface that asked is gone by then
   */
  save(done: (saved: Saved) => void): void {
    const [base, parts] = [this.from(), this.made()];
    if (!base || !parts || this.saving() || !this.dirty() || !this.around.maySave()) return;
    this.store(base, parts, parts, 5, done);
  }

  /** Saves mine of what both changed, on top of theirs. */
  keepMine(done: (saved: Saved) => void): void {
    const [base, parts, conflict] = [this.from(), this.made(), this.conflict()];
    this.conflict.set(null);
    if (!base || !parts || !conflict) return;
    const { theirs } = conflict;
    const merged = mergeParts(this.how.partsOf(base), parts, this.how.partsOf(theirs));
    this.store(theirs, merged.parts, parts, 5, done);
  }

  /** Takes theirs of what both changed; what only this side changed stays, unsaved. */
  takeTheirs(): void {
    const [base, parts, conflict] = [this.from(), this.made(), this.conflict()];
    this.conflict.set(null);
    if (!base || !parts || !conflict) return;
    const theirs = this.how.partsOf(conflict.theirs);
    const merged = { ...mergeParts(this.how.partsOf(base), parts, theirs).parts };
    for (const part of conflict.both) merged[part] = theirs[part];
    this.begin(conflict.theirs, merged);
    this.keepDraft();
  }

  /** Forgets what was changed. */
  discard(newest: Saved | null = this.from()): void {
    if (!newest) return;
    this.begin(newest, this.how.partsOf(newest));
    this.drafts.drop(this.how.nameOf(newest));
  }

  private begin(saved: Saved, parts: Parts): void {
    clearTimeout(this.keeping);
    this.keeping = undefined;
    this.from.set(saved);
    this.made.set(parts);
    this.fromDraft.set(false);
    this.savedElsewhere.set(null);
    this.conflict.set(null);
  }

  /** @param written what stood in the form when the save began */
  private store(base: Saved, parts: Parts, written: Parts, tries: number, done: (saved: Saved) => void): void {
    const name = this.how.nameOf(base);
    // Another thing may be shown when the answer comes.
    const isShown = (): boolean => {
      const shown = this.from();
      return shown !== null && this.how.nameOf(shown) === name;
    };
    if (isShown()) this.saving.set(true);
    this.how.save(base, parts).subscribe({
      next: (saved) => {
        if (isShown()) this.goOnFrom(name, saved, written);
        else this.settling = this.settleDraft(name, saved, written);
        const told = this.how.told?.(saved) ?? `“${this.how.titleOf(saved)}” is saved as revision ${saved.revision}`;
        this.notices.done(`${told}${tries < 5 ? ', with what somebody else changed meanwhile' : ''}.`);
        if (!this.around.isGone()) done(saved);
      },
      error: (error: unknown) => {
        if (isShown()) this.saving.set(false);
        const theirs = this.theirsOf(base, error);
        if (!theirs || tries <= 1) {
          this.notices.failed(error);
          return;
        }
        const merged = mergeParts(this.how.partsOf(base), parts, this.how.partsOf(theirs));
        if (merged.both.length === 0) this.store(theirs, merged.parts, written, tries - 1, done);
        else if (isShown()) this.conflict.set({ theirs, both: merged.both });
        // It waits as a draft, and is asked about when the thing is saved again.
        else this.notices.failed(error);
      },
    });
  }

  private theirsOf(base: Saved, error: unknown): Saved | null {
    if (!this.how.theirs) return currentOf<Saved>(error);
    const current = currentOf<unknown>(error);
    return current === null ? null : this.how.theirs(base, current);
  }

  /** What was written while it was being saved stays, on top of what is saved now. */
  private goOnFrom(name: string, saved: Saved, written: Parts): void {
    this.saving.set(false);
    // What was new is called otherwise now.
    if (this.how.nameOf(saved) !== name) this.drafts.drop(name);
    const now = this.made();
    const later = now && mergeParts(written, now, this.how.partsOf(saved)).parts;
    this.begin(saved, later ?? this.how.partsOf(saved));
    this.keepDraft();
  }

  /** The same for a thing that is not shown any more: its draft holds what was written. */
  private async settleDraft(name: string, saved: Saved, written: Parts): Promise<void> {
    const draft = await this.drafts.read<PartsDraft<Saved, Parts>>(name);
    const later = draft && mergeParts(written, draft.parts, this.how.partsOf(saved)).parts;
    const now = this.how.nameOf(saved);
    if (now !== name) this.drafts.drop(name);
    if (later && !sameParts(this.how.partsOf(saved), later))
      this.drafts.keep(now, { base: saved, parts: later } satisfies PartsDraft<Saved, Parts>);
    else this.drafts.drop(now);
  }
}
