import { HttpErrorResponse } from '@angular/common/http';
import { inject, signal } from '@angular/core';
import { Router } from '@angular/router';
import {
  componentFrom,
  contentBody,
  writtenTitle,
  type Component as LibraryComponent,
  type ComponentBody,
  type ComponentClosure,
  type ContentNode,
} from '@allomorph/core';
import { forkJoin, from } from 'rxjs';
import { Api, problemText } from '../shared/api';
import { Deletion } from '../shared/deletion';
import { Drafts } from '../shared/drafts';
import { Notices } from '../shared/notices';
import { currentOf } from '../shared/save-change';
import { Session } from '../shared/session';
import type { ContentEditor } from './content-editor';
import { EditorLibrary } from './editor-library';
import { putBody, takeIds } from './node-commands';
import type { Versions } from './two-versions';
import { named } from './undo-names';

/** What was written of a component and not saved. */
interface Draft {
  readonly base: number;
  readonly title: string;
  readonly body: ContentNode;
}

/** The place in which a page is written. */
export interface PagePlace {
  /** The component that is to be open. */
  key(): string;
  /** The surface on which its content is written, once it is there. */
  editor(): ContentEditor | undefined;
  /** The writer pauses. */
  paused(): void;
  /** What is said besides when it was saved; empty: nothing. */
  toldOnSaving(): string;
}

/** A component that is open to be written: as it was loaded, what became of it since, its draft, and how it is saved. */
export class EditedPage {
  private readonly api = inject(Api);
  private readonly deletion = inject(Deletion);
  private readonly drafts = inject(Drafts);
  private readonly library = inject(EditorLibrary);
  private readonly notices = inject(Notices);
  private readonly router = inject(Router);
  private readonly session = inject(Session);

  readonly component = signal<LibraryComponent | null>(null);
  /** Why it cannot be shown; empty: it can. */
  readonly problem = signal('');
  readonly title = signal('');
  /** The content as the page was opened with it; null: none, or not of this kind. */
  readonly body = signal<ContentNode | null>(null);
  readonly archived = signal(false);
  readonly dirty = signal(false);
  readonly saving = signal(false);
  /** The revision that somebody saved since this was loaded; null: none. */
  readonly savedElsewhere = signal<number | null>(null);
  readonly fromDraft = signal(false);
  readonly conflict = signal<Versions | null>(null);
  private readonly counted = signal(0);
  /** Grows whenever the page is another: loaded, or written on and left alone for a moment. */
  readonly pauses = this.counted.asReadonly();
  /** How often this page was written on; another page begins anew. */
  private edits = { count: 0 };
  private keeping: ReturnType<typeof setTimeout> | undefined;

  constructor(private readonly place: PagePlace) {}

  /** Shows a component, with what was written of it and not saved. */
  load(key: string): void {
    // What stands on the page that is left is not lost where it was not asked about.
    if (this.component()?.key !== key) this.keepDraft();
    this.problem.set('');
    this.savedElsewhere.set(null);
    this.fromDraft.set(false);
    this.dirty.set(false);
    forkJoin([this.api.closure(key), from(this.drafts.read<Draft>(key))]).subscribe({
      next: ([closure, draft]: [ComponentClosure, Draft | null]) => {
        if (key !== this.place.key()) return;
        const { component } = closure;
        if (component.kind === 'variable') {
          void this.router.navigate(['/variables'], { queryParams: { key }, replaceUrl: true });
          return;
        }
        // What was written of the page before while this one was read.
        if (this.component()?.key !== component.key) {
          this.keepDraft();
          this.edits = { count: 0 };
        }
        clearTimeout(this.keeping);
        this.keeping = undefined;
        this.dirty.set(false);
        this.saving.set(false);
        this.conflict.set(null);
        this.library.add(closure);
        this.archived.set(closure.archived ?? false);
        const content = contentBody(component);
        this.component.set(component);
        this.title.set(draft?.title ?? component.title);
        this.body.set(content ? (draft?.body ?? content) : null);
        if (draft && content) {
          this.fromDraft.set(true);
          this.dirty.set(true);
          // What was written on an older revision is saved against that one, so that both are shown.
          if (draft.base < component.revision) this.component.set({ ...component, revision: draft.base });
        }
        this.count();
      },
      error: (error: unknown) => {
        if (key !== this.place.key()) return;
        this.keepDraft();
        this.component.set(null);
        const now = keyOfNow(error);
        if (now === null) this.problem.set(problemText(error));
        else void this.router.navigate(['/edit', now], { queryParamsHandling: 'preserve', replaceUrl: true });
      },
    });
  }

  retitle(title: string): void {
    this.title.set(title);
    this.edited();
  }

  edited(): void {
    this.dirty.set(true);
    const { edits } = this;
    edits.count += 1;
    const now = edits.count;
    this.keeping ??= setTimeout(() => this.keepDraft(), 80);
    // Reading follows when the writer pauses.
    setTimeout(() => {
      if (edits !== this.edits || now !== edits.count) return;
      this.count();
      this.place.paused();
    }, 400);
  }

  private count(): void {
    this.counted.update((count) => count + 1);
  }

  /** Keeps what stands on the page now for the case that it is not saved. */
  keepDraft(): void {
    clearTimeout(this.keeping);
    this.keeping = undefined;
    const component = this.component();
    const editor = this.place.editor();
    if (component && editor && this.dirty()) {
      const besides: Omit<Draft, 'body'> = { base: component.revision, title: this.title() };
      this.drafts.keepText(component.key, `${JSON.stringify(besides).slice(0, -1)},"body":${editor.currentText()}}`);
    }
  }

  /** Looks what was saved, of the page and of what stands on it, while nothing was heard of the server. */
  catchUp(): void {
    if (this.problem() !== '') this.load(this.place.key());
    const component = this.component();
    if (!component) return;
    this.api.closure(component.key).subscribe({
      next: (closure) => {
        this.library.add(closure);
        this.savedBySomebody(closure.component.revision);
      },
      // What is open stays open; saving says what is wrong.
      error: () => undefined,
    });
  }

  /** Somebody saved the component: a page that is written on says so, a form decides for itself. */
  savedBySomebody(revision: number): void {
    const component = this.component();
    if (!component) return;
    if (contentBody(component) !== undefined) {
      if (revision > component.revision && !this.saving()) this.savedElsewhere.set(revision);
      return;
    }
    this.api.closure(component.key).subscribe({
      next: ({ component }) => {
        if (this.component()?.key === component.key) this.component.set(component);
      },
      error: (error: unknown) => this.notices.failed(error),
    });
  }

  save(): void {
    const component = this.component();
    const editor = this.place.editor();
    if (!component || !editor || !this.dirty() || !this.session.mayWrite() || this.saving()) return;
    this.store(
      component.key,
      component.revision,
      writtenTitle(editor.currentBody(), this.title()),
      editor.currentBody(),
    );
  }

  /** The form of an image or link has saved it. */
  savedPlain(saved: LibraryComponent): void {
    if (saved.key !== this.component()?.key) return;
    this.savedElsewhere.set(null);
    this.component.set(saved);
    this.title.set(saved.title);
    this.library.add(this.library.closureOf(saved));
  }

  /** Only the labels were saved: the page stays on the revision that it is written on. */
  relabelled(component: LibraryComponent): void {
    const own = this.component();
    if (own?.key !== component.key) return;
    const labelled = { ...own, labels: component.labels };
    this.component.set(labelled);
    // What the page shows in slots may be another snippet now.
    this.library.add(this.library.closureOf(labelled));
  }

  /** Saves mine as a new revision on top of theirs. */
  keepMine(): void {
    const conflict = this.conflict();
    this.conflict.set(null);
    if (!conflict) return;
    const { key, title, body } = conflict.mine.component;
    this.store(key, conflict.theirs.component.revision, title, body);
  }

  takeTheirs(): void {
    this.conflict.set(null);
    this.discard();
  }

  /** Throws away what was not saved and shows the newest revision. */
  discard(): void {
    this.forget();
    this.load(this.place.key());
  }

  /** Throws away what was not saved. */
  forget(): void {
    const component = this.component();
    if (component) this.drafts.drop(component.key);
    this.dirty.set(false);
  }

  /** Puts an older revision onto the page, over what stands there; undo takes that back. */
  bringBack(revision: number): void {
    const key = this.component()?.key;
    if (key === undefined) return;
    this.api.revision(key, revision).subscribe({
      next: (older) => {
        if (this.component()?.key !== key) return;
        const content = contentBody(older);
        if (content) this.place.editor()?.run(named(`Bring back revision ${revision}`, putBody(content)));
        if (older.title !== this.title()) this.retitle(older.title);
      },
      error: (error: unknown) => this.notices.failed(error),
    });
  }

  remove(): void {
    const component = this.component();
    if (!component) return;
    const done = (): void => {
      this.forget();
      void this.router.navigate(['/library']);
    };
    this.deletion.component(component, done, ({ key }) => void this.router.navigate(['/edit', key]));
  }

  takeOutOfArchive(): void {
    this.api.actOnMany({ keys: [this.place.key()], act: { kind: 'archive', on: false } }).subscribe({
      next: () => this.archived.set(false),
      error: (error: unknown) => this.notices.failed(error),
    });
  }

  private store(key: string, base: number, title: string, body: ComponentBody): void {
    if (title === '') {
      this.notices.failed(new Error('Give it a title before you save.'));
      return;
    }
    this.saving.set(true);
    const { edits } = this;
    const before = edits.count;
    // The address may name the next page already, and that may be open when the answer comes.
    const isOpen = (): boolean => this.component()?.key === key;
    this.api.saveComponent(key, { base, title, body }).subscribe({
      next: (saved) => {
        if (!isOpen()) {
          this.notices.done(`“${saved.title}” is saved as revision ${saved.revision}.`);
          // What was written after it began waits as a draft.
          if (edits.count === before) this.drafts.drop(saved.key);
          return;
        }
        this.saving.set(false);
        this.savedElsewhere.set(null);
        this.fromDraft.set(false);
        this.component.set(saved);
        this.library.add(this.library.closureOf(saved));
        if (edits.count === before) {
          this.drafts.drop(saved.key);
          this.title.set(saved.title);
          const content = contentBody(saved);
          if (content) this.place.editor()?.run(takeIds(content));
          this.dirty.set(false);
        }
        this.notices.done(`Saved as revision ${saved.revision}.${this.place.toldOnSaving()}`);
      },
      error: (error: unknown) => {
        if (isOpen()) this.saving.set(false);
        const current = currentOf<LibraryComponent>(error);
        if (!current || !isOpen()) {
          this.notices.failed(error);
          return;
        }
        const mine = componentFrom({ ...current, title, body });
        this.conflict.set({ theirs: this.library.closureOf(current), mine: this.library.closureOf(mine) });
      },
    });
  }
}

/** The key that a component has now, where it was asked for by one that it had; null: it was not. */
function keyOfNow(error: unknown): string | null {
  if (!(error instanceof HttpErrorResponse) || error.status !== 404) return null;
  return (error.error as { now?: string } | null)?.now ?? null;
}
