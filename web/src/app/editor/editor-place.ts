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
  type ComponentClosure,
  type ContentNode,
  conditionsOf,
} from '@allomorph/core';
import { Button } from 'primeng/button';
import { InputText } from 'primeng/inputtext';
import { Tabs, TabList, Tab, TabPanels, TabPanel } from 'primeng/tabs';
import type { Command } from 'prosemirror-state';

import { addressState } from '../shared/address-state';
import { Api, problemText } from '../shared/api';
import { Lens } from '../shared/lens';
import { NotOpened } from '../shared/not-opened';
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
import { TwoVersions } from './two-versions';
import { moveBlock, removeBlock } from './commands';
import { limit, putStamp, type LimitTarget } from './limit-targets';
import { TableBar } from './table-bar';
import { ContentEditor } from './content-editor';
import { EditedPage } from './edited-page';
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
import { alter, alterAround, putBody, turnIntoOwnText, writeFormula } from './node-commands';
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
import { LibraryPanel } from './library-panel';
import { Placing } from './placing';
import { PlacingMenu } from './placing-menu';
import { PlacementPanel } from './placement-panel';
import { ReferencePanel, type ReferenceTarget } from './reference-panel';
import { StructurePanel } from './structure-panel';
import { PlainComponentForm } from './plain-component-form';

/** Where topics and snippets are written, and images and links are described. */
@Component({
  selector: 'al-editor-place',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [
    FormsModule,
    NotOpened,
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

  protected readonly page = new EditedPage({
    key: () => this.key(),
    editor: () => this.editor(),
    paused: () => this.look(),
    toldOnSaving: () => this.toldByChecks(),
  });
  /** What the bar that finds on the page begins with; null: it is not open. */
  protected readonly findFor = signal<{ readonly words: string } | null>(null);
  protected readonly viewport = inject(Viewport);
  private readonly panel = addressState('panel', 'when');
  protected readonly tab = this.panel.value;
  protected readonly menuToRefer = menuToRefer;
  protected readonly menuForVariables = menuForVariables;
  /** The component whose source is open over the page. */
  protected readonly source = signal<string | null>(null);
  protected readonly panelOpen = signal(false);
  protected readonly keyOpen = signal(false);
  protected readonly isContent = computed(() => {
    const component = this.page.component();
    return component !== null && contentBody(component) !== undefined;
  });
  protected readonly isPhrase = computed(() => this.page.body()?.type === 'phrase');
  /** The conditions on the page as it was opened, repeats included: what was applied since is remembered anyway. */
  protected readonly conditionsInUse = computed(() => {
    const body = this.page.body();
    return body ? conditionsOf(body).map(({ when }) => when) : [];
  });
  protected readonly editorState = computed(() => this.editor()?.state() ?? null);
  protected readonly selection = new PageSelection(this.editorState);
  protected readonly menu = new PageMenu(this.editor, () => this.isPhrase());
  protected readonly placing = new Placing(
    this.editor,
    () => this.key(),
    () => this.isPhrase(),
  );
  protected readonly undone = computed(() => {
    const state = this.editorState();
    return state ? toldOfUndo(state) : '';
  });
  private readonly language = computed(() => this.lens.recipe()?.language ?? 'en');
  /** Counted when the writer pauses. What is placed counts where it is read. */
  private readonly allWords = computed(() => {
    const body = this.currentBody();
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
    this.library.changes();
    const component = this.page.component();
    const body = this.currentBody();
    return component && body
      ? this.library.closureOf(componentFrom({ ...component, title: this.page.title(), body }))
      : null;
  });
  private readonly reading = inject(Readings).of(() => {
    const closure = this.written();
    return closure ? { closure, lens: this.lens.recipe(), vocabulary: this.lens.vocabulary() } : undefined;
  });
  // The reading itself shows them, too.
  protected readonly problems = computed(() => (this.tab() === 'read' ? [] : this.reading().problems));
  protected readonly revisions = rxResource({
    params: () => {
      const component = this.page.component();
      return component && this.tab() === 'history' ? { key: component.key, revision: component.revision } : undefined;
    },
    stream: ({ params }) => this.api.revisions(params.key),
  });

  protected readonly name = targetName;
  protected readonly text = problemText;

  constructor() {
    inject(PageTitle).name(() => this.page.title());
    effect(() => {
      const key = this.key();
      untracked(() => {
        this.lens.hidden.set(null);
        this.page.load(key);
      });
    });
    effect(() => {
      const block = this.block();
      const editor = this.editor();
      if (block !== undefined && editor?.state()) untracked(() => setTimeout(() => editor.goTo(block)));
    });
    const events = inject(ServerEvents);
    events
      .of('missed')
      .pipe(takeUntilDestroyed())
      .subscribe(() => this.page.catchUp());
    events
      .of('component')
      .pipe(takeUntilDestroyed())
      .subscribe(({ key, revision }) => {
        if (this.page.component()?.key === key) this.page.savedBySomebody(revision);
        else this.library.refresh(key);
      });
  }

  protected showPanel(name: string | number | undefined): void {
    this.panel.set(String(name ?? 'when'));
  }

  hasUnsavedWork(): boolean {
    return this.page.dirty();
  }

  discardWork(): void {
    this.plain()?.discard();
    this.page.forget();
  }

  @HostListener('window:pagehide')
  protected hidden(): void {
    this.page.keepDraft();
  }

  @HostListener('window:beforeunload', ['$event'])
  protected closing(event: BeforeUnloadEvent): void {
    if (this.page.dirty()) event.preventDefault();
  }

  @HostListener('document:keydown', ['$event'])
  protected keys(event: KeyboardEvent): void {
    if (event.defaultPrevented || this.source() !== null || this.bindings.meant(event) !== 'save') return;
    event.preventDefault();
    this.save();
  }

  /** What stands on the page; said anew when the writer pauses, and when the page shows something else. */
  private currentBody(): ContentNode | null {
    this.page.pauses();
    const editor = this.editor();
    editor?.shown();
    return editor?.currentBody() ?? null;
  }

  /** Looks whether the library says already what is written at the cursor. */
  private look(): void {
    const state = this.editor()?.state();
    if (state && this.session.mayWrite()) this.offers.look(state, this.key());
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

  protected askForKey(): void {
    if (this.page.dirty())
      this.notices.failed(new Error('Save or discard first what you wrote: the key is changed with what is saved.'));
    else this.keyOpen.set(true);
  }

  protected rekeyed({ key }: LibraryComponent): void {
    void this.router.navigate(['/edit', key], { queryParamsHandling: 'preserve', replaceUrl: true });
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

  protected play({ position }: SelectedNode, file: File): void {
    void this.editor()?.play(position, file);
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
    this.page.save();
  }
}
