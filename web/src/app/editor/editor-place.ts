import { HttpErrorResponse } from '@angular/common/http';
import {
  ChangeDetectionStrategy,
  ChangeDetectorRef,
  Component,
  computed,
  effect,
  HostListener,
  inject,
  input,
  signal,
  untracked,
  viewChild,
} from '@angular/core';
import { rxResource, takeUntilDestroyed } from '@angular/core/rxjs-interop';
import { FormsModule } from '@angular/forms';
import { Router } from '@angular/router';
import {
  componentFrom,
  contentBody,
  textOf,
  type Component as LibraryComponent,
  type ComponentBody,
  type ComponentClosure,
  type ContentNode,
  conditionsOf,
  writtenTitle,
} from '@allomorph/core';
import { Button } from 'primeng/button';
import { InputText } from 'primeng/inputtext';
import { Tabs, TabList, Tab, TabPanels, TabPanel } from 'primeng/tabs';
import { forkJoin, from } from 'rxjs';
import type { Command } from 'prosemirror-state';

import { addressState } from '../shared/address-state';
import { Api, problemText } from '../shared/api';
import { Deletion } from '../shared/deletion';
import { Drafts } from '../shared/drafts';
import { Lens } from '../shared/lens';
import { Notices } from '../shared/notices';
import { Readings } from '../shared/readings';
import { ReadingView } from '../shared/reading-view';
import { ServerEvents } from '../shared/server-events';
import { Bindings, keyText } from '../shared/bindings';
import { PageTitle } from '../shared/page-title';
import { Session } from '../shared/session';
import { SidePane } from '../shared/side-pane';
import { Viewport } from '../shared/viewport';
import { TimePipe, Wording } from '../shared/wording';
import { wordCount } from '../shared/word-count';
import type { HoldsWork } from '../shared/unsaved.guard';
import { HoldersPanel } from '../shared/holders-panel';
import { UsesPanel } from '../shared/uses-panel';
import { AppliesWhen, targetName } from './applies-when';
import { MarkBar } from './mark-bar';
import { SnippetDialog, type MadeSnippet } from './snippet-dialog';
import { TwoVersions, type Versions } from './two-versions';
import { moveBlock, removeBlock } from './commands';
import { limit, putStamp, type LimitTarget } from './limit-targets';
import { TableBar } from './table-bar';
import { ContentEditor } from './content-editor';
import { editorKeys } from './editor-keys';
import { FindBar } from './find-bar';
import { ChoiceBar } from './choice-bar';
import { EditorLibrary } from './editor-library';
import { KeyDialog } from '../shared/key-dialog';
import { LabelsPanel } from './labels-panel';
import { ChecksPanel } from './checks-panel';
import { FormulaPanel } from './formula-panel';
import { PageChecks } from './page-checks';
import { TypingOffers } from './typing-offers';
import { MarkerPanel } from './marker-panel';
import { ReachPanel } from './reach-panel';
import { SlotPanel } from './slot-panel';
import { alter, alterAround, putBody, takeIds, turnIntoOwnText, writeFormula } from './node-commands';
import { PageMenu } from './page-menu';
import { PageMenuLayer } from './page-menu-layer';
import { PageSelection, type SelectedNode } from './page-selection';
import { SourceDialog } from './source-dialog';
import { menuForVariables, menuToRefer } from './typed-signs';
import { toldOfUndo } from './undo-names';
import { VariablePanel } from './variable-panel';
import { PlacedPanel } from './placed-panel';
import { MediaPanel } from './media-panel';
import { PageLanguage } from './page-language';
import { PicturePanel } from './picture-panel';
import type { LibraryDrop } from './library-drops';
import { LibraryPanel } from './library-panel';
import { PlacingMenu } from './placing-menu';
import { placingCommand, placingWays, type PlacingWay } from './placing-ways';
import { PlacementPanel } from './placement-panel';
import { ReferencePanel, type ReferenceTarget } from './reference-panel';
import { StructurePanel } from './structure-panel';
import { PlainComponentForm } from './plain-component-form';

/** What was written of a component and not saved. */
interface Draft {
  readonly base: number;
  readonly title: string;
  readonly body: ContentNode;
}

/** Where topics and snippets are written, and images and links are described. */
@Component({
  selector: 'al-editor-place',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [
    FormsModule,
    FindBar,
    Button,
    InputText,
    Tabs,
    TabList,
    Tab,
    TabPanels,
    TabPanel,
    AppliesWhen,
    ChoiceBar,
    ContentEditor,
    KeyDialog,
    LabelsPanel,
    LibraryPanel,
    PlacingMenu,
    ChecksPanel,
    FormulaPanel,
    HoldersPanel,
    MarkerPanel,
    ReachPanel,
    SlotPanel,
    PageMenuLayer,
    MarkBar,
    SnippetDialog,
    TwoVersions,
    MediaPanel,
    PicturePanel,
    PlacementPanel,
    PlainComponentForm,
    ReferencePanel,
    ReadingView,
    PlacedPanel,
    StructurePanel,
    TableBar,
    SidePane,
    TimePipe,
    UsesPanel,
    SourceDialog,
    VariablePanel,
  ],
  providers: [EditorLibrary, PageChecks, TypingOffers],
  templateUrl: './editor-place.html',
  styleUrl: './editor-place.css',
})
export class EditorPlace implements HoldsWork {
  private readonly api = inject(Api);
  private readonly bindings = inject(Bindings);
  private readonly lens = inject(Lens);
  private readonly notices = inject(Notices);
  private readonly deletion = inject(Deletion);
  private readonly drafts = inject(Drafts);
  protected readonly pageLanguage = inject(PageLanguage);
  private readonly router = inject(Router);
  private readonly library = inject(EditorLibrary);
  private readonly checks = inject(PageChecks);
  protected readonly offers = inject(TypingOffers);
  protected readonly session = inject(Session);
  private readonly editor = viewChild(ContentEditor);
  private readonly plain = viewChild(PlainComponentForm);
  private readonly snippets = viewChild(SnippetDialog);
  private readonly findBar = viewChild(FindBar);
  private readonly changes = inject(ChangeDetectorRef);
  private readonly wording = inject(Wording);

  readonly key = input.required<string>();
  /** A block to go to, from the address. */
  readonly block = input<string>();

  protected readonly component = signal<LibraryComponent | null>(null);
  protected readonly problem = signal('');
  protected readonly title = signal('');
  protected readonly body = signal<ContentNode | null>(null);
  protected readonly dirty = signal(false);
  protected readonly saving = signal(false);
  protected readonly savedElsewhere = signal<number | null>(null);
  protected readonly fromDraft = signal(false);
  /** What the bar that finds on the page begins with; null: it is not open. */
  protected readonly findFor = signal<{ readonly words: string } | null>(null);
  protected readonly viewport = inject(Viewport);
  private readonly panel = addressState('panel', 'when');
  protected readonly tab = this.panel.value;
  protected readonly menuToRefer = menuToRefer;
  protected readonly menuForVariables = menuForVariables;
  /** The component whose source is open over the page. */
  protected readonly source = signal<string | null>(null);
  /** A component of which it is asked how it is to be placed, and where; null: at the cursor. */
  protected readonly placing = signal<{
    readonly component: LibraryComponent;
    readonly position: number | null;
    readonly at: { readonly left: number; readonly top: number };
  } | null>(null);
  protected readonly panelOpen = signal(false);
  protected readonly keyOpen = signal(false);
  protected readonly archived = signal(false);
  protected readonly conflict = signal<Versions | null>(null);
  private edits = 0;
  private keeping: ReturnType<typeof setTimeout> | undefined;
  protected readonly editCount = signal(0);

  protected readonly isContent = computed(() => {
    const component = this.component();
    return component !== null && contentBody(component) !== undefined;
  });
  protected readonly isPhrase = computed(() => this.body()?.type === 'phrase');
  /** The conditions on the page as it was opened, repeats included: what was applied since is remembered anyway. */
  protected readonly conditionsInUse = computed(() => {
    const body = this.body();
    return body ? conditionsOf(body).map(({ when }) => when) : [];
  });
  protected readonly editorState = computed(() => this.editor()?.state() ?? null);
  protected readonly selection = new PageSelection(this.editorState);
  protected readonly menu = new PageMenu(this.editor, () => this.isPhrase());
  protected readonly undone = computed(() => {
    const state = this.editorState();
    return state ? toldOfUndo(state) : '';
  });
  private readonly language = computed(() => this.lens.recipe()?.language ?? 'en');
  /** Counted when the writer pauses. What is placed counts where it is read. */
  private readonly allWords = computed(() => {
    this.editCount();
    const body = this.dirty() ? this.editor()?.currentBody() : this.body();
    return body ? wordCount(textOf(body), this.language()) : 0;
  });
  /** Words on the page: of what is selected, where something is, and of all. */
  protected readonly words = computed(() => {
    const { doc, selection } = this.editor()?.state() ?? {};
    const chosen = doc && selection && !selection.empty ? doc.textBetween(selection.from, selection.to, ' ', ' ') : '';
    const told = this.wording.count(this.allWords(), 'word', 'words');
    return chosen.trim() === '' ? told : `${this.wording.number(wordCount(chosen, this.language()))} of ${told}`;
  });
  /** What the page says now, as the engine takes it. */
  protected readonly written = computed<ComponentClosure | null>(() => {
    this.editCount();
    this.library.changes();
    const component = this.component();
    const editor = this.editor();
    if (!component || !editor) return null;
    return this.library.closureOf(componentFrom({ ...component, title: this.title(), body: editor.currentBody() }));
  });
  private readonly reading = inject(Readings).of(() => {
    const closure = this.written();
    return closure ? { closure, lens: this.lens.recipe(), vocabulary: this.lens.vocabulary() } : undefined;
  });
  // The reading itself shows them, too.
  protected readonly problems = computed(() => (this.tab() === 'read' ? [] : this.reading().problems));
  protected readonly revisions = rxResource({
    params: () => {
      const component = this.component();
      return component && this.tab() === 'history' ? { key: component.key, revision: component.revision } : undefined;
    },
    stream: ({ params }) => this.api.revisions(params.key),
  });

  protected readonly name = targetName;
  protected readonly text = problemText;

  constructor() {
    inject(PageTitle).name(() => this.title());
    effect(() => {
      const key = this.key();
      untracked(() => this.load(key));
    });
    effect(() => {
      const block = this.block();
      const editor = this.editor();
      if (block !== undefined && editor?.state()) untracked(() => setTimeout(() => editor.goTo(block)));
    });
    inject(ServerEvents)
      .of('component')
      .pipe(takeUntilDestroyed())
      .subscribe(({ key, revision }) => {
        const component = this.component();
        if (component?.key !== key) this.library.refresh(key);
        else if (!this.isContent()) this.readPlain(key);
        else if (revision > component.revision && !this.saving()) this.savedElsewhere.set(revision);
      });
  }

  protected showPanel(name: string | number | undefined): void {
    this.panel.set(String(name ?? 'when'));
  }

  hasUnsavedWork(): boolean {
    return this.dirty();
  }

  discardWork(): void {
    this.plain()?.discard();
    const component = this.component();
    if (component) this.drafts.drop(component.key);
    this.dirty.set(false);
  }

  @HostListener('window:pagehide')
  protected hidden(): void {
    this.keepDraft();
  }

  @HostListener('window:beforeunload', ['$event'])
  protected closing(event: BeforeUnloadEvent): void {
    if (this.dirty()) event.preventDefault();
  }

  @HostListener('document:keydown', ['$event'])
  protected keys(event: KeyboardEvent): void {
    if (event.defaultPrevented || this.source() !== null || this.bindings.meant(event) !== 'save') return;
    event.preventDefault();
    this.save();
  }

  protected edited(): void {
    this.dirty.set(true);
    this.edits += 1;
    const now = this.edits;
    this.keeping ??= setTimeout(() => this.keepDraft(), 80);
    // Reading follows when the writer pauses.
    setTimeout(() => {
      if (now !== this.edits) return;
      this.editCount.set(now);
      const state = this.editor()?.state();
      if (state && this.session.mayWrite()) this.offers.look(state, this.key());
    }, 400);
  }

  /** Keeps what stands on the page now for the case that it is not saved. */
  private keepDraft(): void {
    clearTimeout(this.keeping);
    this.keeping = undefined;
    const component = this.component();
    const editor = this.editor();
    if (component && editor && this.dirty()) {
      const besides: Omit<Draft, 'body'> = { base: component.revision, title: this.title() };
      this.drafts.keepText(component.key, `${JSON.stringify(besides).slice(0, -1)},"body":${editor.currentText()}}`);
    }
  }

  /** What the checks of the team find, in a sentence; empty: nothing. */
  private toldByChecks(): string {
    const doc = this.isPhrase() ? null : this.editor()?.state()?.doc;
    const count = doc ? this.checks.find(doc).length : 0;
    return count === 0 ? '' : ` ${this.wording.count(count, 'thing', 'things')} to look at under Checks.`;
  }

  protected readonly offerKey = keyText(editorKeys.takeOffer[0].key);

  /** Puts in what the library says already. */
  protected takeOffer(): void {
    const offer = this.offers.offer();
    if (!offer) return;
    this.offers.offer.set(null);
    this.run(this.offers.take(offer));
  }

  protected retitle(title: string): void {
    this.title.set(title);
    this.edited();
  }

  protected run(command: Command): void {
    this.editor()?.run(command);
  }

  protected runBeside(command: Command): void {
    this.editor()?.runBeside(command);
  }

  /** Looks for the words that are selected, where they stand in one line. */
  protected openFind(): void {
    const state = this.editor()?.state();
    const { from, to, $from, $to } = state?.selection ?? {};
    const words =
      state && from !== undefined && $to && $from?.sameParent($to) ? state.doc.textBetween(from, to ?? from) : '';
    const open = this.findBar();
    if (open) open.take(words);
    else {
      this.findFor.set({ words });
      this.changes.detectChanges();
    }
  }

  protected closeFind(): void {
    this.findFor.set(null);
    this.focusPage();
  }

  protected focusPage(): void {
    this.editor()?.focus();
  }

  /** Goes to a block without taking the keyboard from the tree. */
  protected showBlock(position: number): void {
    this.editor()?.selectBlock(position, false);
  }

  /** Follows a cross-reference. */
  protected goToTarget({ component, target }: ReferenceTarget): void {
    if (component !== null && component !== this.key())
      void this.router.navigate(['/edit', component], { queryParams: target === null ? {} : { block: target } });
    else if (target !== null) this.editor()?.goTo(target);
  }

  /** Labels were saved: what the page shows in slots may be another snippet now. */
  protected askForKey(): void {
    if (this.dirty())
      this.notices.failed(new Error('Save or discard first what you wrote: the key is changed with what is saved.'));
    else this.keyOpen.set(true);
  }

  protected rekeyed({ key }: LibraryComponent): void {
    void this.router.navigate(['/edit', key], { queryParamsHandling: 'preserve', replaceUrl: true });
  }

  protected takeOutOfArchive(): void {
    this.api.actOnMany({ keys: [this.key()], act: { kind: 'archive', on: false } }).subscribe({
      next: () => this.archived.set(false),
      error: (error: unknown) => this.notices.failed(error),
    });
  }

  protected relabelled(component: LibraryComponent): void {
    const own = this.component();
    if (own?.key !== component.key) return;
    // Only the labels: the page stays on the revision that it is written on.
    const labelled = { ...own, labels: component.labels };
    this.component.set(labelled);
    this.library.add(this.library.closureOf(labelled));
  }

  /** Changes a slot's rule, and reads the snippets of another collection. */
  protected changeSlot(selected: SelectedNode, change: Readonly<Record<string, unknown>>): void {
    this.changeSelected(selected, change);
    const collection = change['collection'];
    if (typeof collection !== 'string') return;
    this.api.components({ collection, kind: 'snippet' }).subscribe({
      next: ({ items }) => items.forEach(({ key }) => this.library.load(key).subscribe()),
      error: (error: unknown) => this.notices.failed(error),
    });
  }

  protected applyStamp({ target, stamp }: { target: LimitTarget; stamp: string | null }): void {
    this.run(putStamp(target, stamp));
  }

  protected applyLimit({ target, when }: { target: LimitTarget; when: string | null }): void {
    this.run(limit(target, when));
  }

  /** Changes what a panel shows, wherever the cursor went meanwhile. */
  protected changeSelected(selected: SelectedNode, change: Readonly<Record<string, unknown>>): void {
    this.run(alter(selected, change));
  }

  protected changeAround(selected: SelectedNode, change: Readonly<Record<string, unknown>>): void {
    this.runBeside(alterAround(selected, change));
  }

  /** The keyboard stays in the panel. */
  protected writeFormula(selected: SelectedNode, source: string): void {
    this.runBeside(writeFormula(selected, source));
  }

  protected turnIntoOwnText(selected: SelectedNode): void {
    const { component, mode, revision } = selected.node.attrs;
    const source = this.library.revision(String(component), mode === 'held' ? (revision as number) : null);
    if (source) this.run(turnIntoOwnText(selected, source));
  }

  protected askForSnippet(): void {
    const state = this.editor()?.state();
    const body = this.editor()?.currentBody();
    if (state && body) this.snippets()?.ask(state, body);
  }

  /** The chosen blocks are a snippet of the library now; a placement stands in their place. */
  protected placeSnippet({ snippet, body }: MadeSnippet): void {
    this.library.add(this.library.closureOf(snippet));
    this.run(putBody(body));
    this.notices.done(`“${snippet.title}” is in the library. Save to place it here.`);
  }

  /** Asks how a component is to be placed; where there is one way only, it is placed so. */
  protected askHowToPlace(key: string, drop: LibraryDrop | null): void {
    if (key === this.key()) {
      this.notices.failed(new Error('It cannot stand in itself.'));
      return;
    }
    this.library.load(key).subscribe({
      next: (component) => {
        const at = drop?.at ?? this.editor()?.caret() ?? { left: 0, top: 0 };
        this.placing.set({ component, at, position: drop?.position ?? null });
        const [way, ...others] = placingWays(component, this.isPhrase());
        if (way && others.length === 0) this.place(way);
      },
      error: (error: unknown) => this.notices.failed(error),
    });
  }

  protected place(way: PlacingWay): void {
    const asked = this.placing();
    this.placing.set(null);
    if (asked && !this.editor()?.run(placingCommand(way, asked.position)))
      this.notices.failed(new Error(`“${asked.component.title}” cannot stand at this place.`));
  }

  protected leavePlacing(): void {
    this.placing.set(null);
    this.editor()?.focus();
  }

  protected selectTarget(target: LimitTarget): void {
    if (target.kind === 'block') this.editor()?.selectBlock(target.position);
  }

  protected move(by: -1 | 1): void {
    const target = this.selection.chain().at(-1);
    if (target?.kind === 'block') this.run(moveBlock(target.position, by));
  }

  protected removeChosen(): void {
    const target = this.selection.chain().at(-1);
    if (target?.kind === 'block') this.run(removeBlock(target.position));
  }

  protected save(): void {
    this.plain()?.save();
    const component = this.component();
    const editor = this.editor();
    if (!component || !editor || !this.session.mayWrite() || this.saving()) return;
    this.store(component.revision, writtenTitle(editor.currentBody(), this.title()), editor.currentBody());
  }

  /** Somebody saved the image or link that is open: its form decides what becomes of what is being changed. */
  private readPlain(key: string): void {
    this.api.closure(key).subscribe({
      next: ({ component }) => {
        if (this.component()?.key === component.key) this.component.set(component);
      },
      error: (error: unknown) => this.notices.failed(error),
    });
  }

  protected savedPlain(saved: LibraryComponent): void {
    this.savedElsewhere.set(null);
    this.component.set(saved);
    this.title.set(saved.title);
    this.library.add(this.library.closureOf(saved));
  }

  /** Saves mine as a new revision on top of theirs. */
  protected keepMine(): void {
    const conflict = this.conflict();
    this.conflict.set(null);
    if (conflict)
      this.store(conflict.theirs.component.revision, conflict.mine.component.title, conflict.mine.component.body);
  }

  protected takeTheirs(): void {
    this.conflict.set(null);
    this.discard();
  }

  /** Throws away what was not saved and shows the newest revision. */
  protected discard(): void {
    this.drafts.drop(this.key());
    this.dirty.set(false);
    this.load(this.key());
  }

  protected bringBack(revision: number): void {
    this.api.revision(this.key(), revision).subscribe({
      next: (older) => {
        this.body.set(older.body as ContentNode);
        this.title.set(older.title);
        this.edited();
      },
      error: (error: unknown) => this.notices.failed(error),
    });
  }

  protected remove(): void {
    const component = this.component();
    if (!component) return;
    const done = (): void => {
      this.drafts.drop(component.key);
      this.dirty.set(false);
      void this.router.navigate(['/library']);
    };
    this.deletion.component(component, done, ({ key }) => void this.router.navigate(['/edit', key]));
  }

  private store(base: number, title: string, body: ComponentBody): void {
    if (title === '') {
      this.notices.failed(new Error('Give it a title before you save.'));
      return;
    }
    this.saving.set(true);
    const edits = this.edits;
    this.api.saveComponent(this.key(), { base, title, body }).subscribe({
      next: (saved) => {
        this.saving.set(false);
        this.savedElsewhere.set(null);
        this.fromDraft.set(false);
        this.component.set(saved);
        this.library.add(this.library.closureOf(saved));
        if (edits === this.edits) {
          this.drafts.drop(saved.key);
          this.title.set(saved.title);
          const content = contentBody(saved);
          if (content) this.run(takeIds(content));
          this.dirty.set(false);
        }
        this.notices.done(`Saved as revision ${saved.revision}.${this.toldByChecks()}`);
      },
      error: (error: unknown) => {
        this.saving.set(false);
        const current = conflicting(error);
        if (!current) {
          this.notices.failed(error);
          return;
        }
        const mine = componentFrom({ ...current, title, body });
        this.conflict.set({ theirs: this.library.closureOf(current), mine: this.library.closureOf(mine) });
      },
    });
  }

  private load(key: string): void {
    this.problem.set('');
    this.savedElsewhere.set(null);
    this.fromDraft.set(false);
    this.dirty.set(false);
    this.lens.hidden.set(null);
    forkJoin([this.api.closure(key), from(this.drafts.read<Draft>(key))]).subscribe({
      next: ([closure, draft]: [ComponentClosure, Draft | null]) => {
        if (key !== this.key()) return;
        const { component } = closure;
        if (component.kind === 'variable') {
          void this.router.navigate(['/variables'], { queryParams: { key }, replaceUrl: true });
          return;
        }
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
        this.editCount.update((count) => count + 1);
      },
      error: (error: unknown) => {
        const now = keyOfNow(error);
        if (now === null) this.problem.set(problemText(error));
        else void this.router.navigate(['/edit', now], { queryParamsHandling: 'preserve', replaceUrl: true });
      },
    });
  }
}

/** The key that a component has now, where it was asked for by one that it had; null: it was not. */
function keyOfNow(error: unknown): string | null {
  if (!(error instanceof HttpErrorResponse) || error.status !== 404) return null;
  return (error.error as { now?: string } | null)?.now ?? null;
}

/** The newest component, where a save was refused because somebody saved meanwhile. */
function conflicting(error: unknown): LibraryComponent | null {
  if (!(error instanceof HttpErrorResponse) || error.status !== 409) return null;
  return (error.error as { current?: LibraryComponent }).current ?? null;
}
