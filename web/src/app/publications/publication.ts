import {
  ChangeDetectionStrategy,
  Component,
  computed,
  effect,
  HostListener,
  inject,
  input,
  signal,
  untracked,
} from '@angular/core';
import { rxResource, takeUntilDestroyed } from '@angular/core/rxjs-interop';
import { FormsModule } from '@angular/forms';
import { Router, RouterLink } from '@angular/router';
import {
  entryRoles,
  flattenEntries,
  Selector,
  type ComponentRow,
  type EntryRole,
  type OutlineEntry,
  type StoredPublication,
  type StoredVariant,
} from '@allomorph/core';
import { PrimeTemplate, type TreeNode } from 'primeng/api';
import { Button } from 'primeng/button';
import { Dialog } from 'primeng/dialog';
import { InputText } from 'primeng/inputtext';
import { Select } from 'primeng/select';
import { Tree } from 'primeng/tree';
import { catchError, forkJoin, of } from 'rxjs';
import { EditorLibrary } from '../editor/editor-library';
import { Api, problemText } from '../shared/api';
import { ConditionField } from '../shared/condition-field';
import { Deletion } from '../shared/deletion';
import { LaneChips } from '../shared/lane-chips';
import { Edits } from '../shared/editing';
import { EditingBands } from '../shared/editing-bands';
import { Lens } from '../shared/lens';
import { Notices } from '../shared/notices';
import { ReadingView } from '../shared/reading-view';
import { isSaveKey } from '../shared/save-key';
import { ServerEvents } from '../shared/server-events';
import { Session } from '../shared/session';
import type { HoldsWork } from '../shared/unsaved.guard';
import { addEntry, changeEntry, freshEntryId, moveEntry, removeEntry, type EntryMove } from './outline';
import { OutlineKeys } from './outline-keys';
import { ValuesEditor } from './values-editor';
import { ImportNotes } from './import-notes';
import { VariantDialog } from './variant-dialog';

const roleNames: Readonly<Record<EntryRole, string>> = {
  auto: 'By its place',
  book: 'Book of a set',
  front: 'Front matter',
  part: 'Part',
  chapter: 'Chapter',
  appendix: 'Appendix',
  section: 'Section',
};

interface Column {
  readonly variant: StoredVariant;
  /** The entries that are in. */
  readonly covered: ReadonlySet<string>;
}

/** What is changed of a publication, each part by itself. */
type OutlineParts = Pick<StoredPublication, 'title' | 'values' | 'entries'>;

interface Cell {
  /** From 0, out, to 1, wholly in. */
  readonly share: number;
  readonly word: string;
  readonly title: string;
}

/** One publication: its outline with the coverage of each variant beside it, and its variants. */
@Component({
  selector: 'al-publication',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [
    FormsModule,
    RouterLink,
    Button,
    InputText,
    Select,
    Tree,
    PrimeTemplate,
    ConditionField,
    LaneChips,
    OutlineKeys,
    ReadingView,
    Dialog,
    EditingBands,
    ImportNotes,
    ValuesEditor,
    VariantDialog,
  ],
  providers: [EditorLibrary],
  templateUrl: './publication.html',
  styleUrl: './publication.css',
})
export class PublicationPlace implements HoldsWork {
  private readonly api = inject(Api);
  protected readonly lens = inject(Lens);
  protected readonly session = inject(Session);
  private readonly notices = inject(Notices);
  private readonly router = inject(Router);
  private readonly deletion = inject(Deletion);

  readonly key = input.required<string>();
  /** An entry to show, from the address. */
  readonly entry = input<string>();

  protected readonly editing = inject(Edits).of<StoredPublication, OutlineParts>({
    nameOf: ({ key }) => `publication ${key}`,
    titleOf: ({ title }) => title,
    partsOf: ({ title, values, entries }) => ({ title, values, entries }),
    save: ({ key, revision }, parts) => this.api.savePublication({ key, revision, ...parts }),
  });
  protected readonly partNames = { title: 'the title', values: 'the values of variables', entries: 'the outline' };
  /** As it was read last; what stands on the page may be another revision, see `editing`. */
  protected readonly newest = signal<StoredPublication | null>(null);
  /** As it stands on the page. */
  protected readonly publication = computed<StoredPublication | null>(() => {
    const [base, parts] = [this.editing.base(), this.editing.parts()];
    return base && parts ? { ...base, ...parts } : null;
  });
  protected readonly problem = signal('');
  protected readonly dirty = this.editing.dirty;
  protected readonly saving = this.editing.saving;
  protected readonly chosenId = signal<string | null>(null);
  protected readonly find = signal('');
  protected readonly asked = signal<{ variant: StoredVariant | null } | null>(null);
  protected readonly roles = entryRoles.map((value) => ({ value, label: roleNames[value] }));
  protected readonly text = problemText;
  protected readonly notesOpen = signal(false);
  private readonly notesRead = rxResource({
    params: () => this.key(),
    stream: ({ params }) => this.api.importNotes(params),
  });
  protected readonly importNotes = computed(() => (this.notesRead.hasValue() ? this.notesRead.value() : []));

  protected readonly topics = rxResource({
    stream: () =>
      forkJoin({
        topics: this.api.components({ kind: 'topic', limit: 500 }),
        publications: this.api.publications(),
      }),
  });
  private readonly topicRows = computed(() => (this.topics.hasValue() ? this.topics.value().topics.items : []));
  protected readonly titles = computed(
    () =>
      new Map<string, string>([
        ...this.topicRows().map((row) => [`topic:${row.key}`, row.title] as const),
        ...[...this.lens.publicationTitles()].map(([key, title]) => [`publication:${key}`, title] as const),
      ]),
  );
  protected readonly variants = computed(() =>
    this.lens.variants().filter((variant) => variant.publication === this.key()),
  );
  /** For each variant, the entries whose own and outer conditions hold. */
  protected readonly coverage = computed<readonly Column[]>(() => {
    const entries = this.publication()?.entries ?? [];
    return this.variants().flatMap((variant) => {
      const profile = this.lens.variation().profiles.find((each) => each.key === variant.profile);
      if (!profile) return [];
      const selector = new Selector(this.lens.axes(), profile);
      return [{ variant, covered: entriesIn(entries, selector) }];
    });
  });
  /** What each variant has of each entry of the outline as it is saved, blocks counted. */
  private readonly saved = rxResource({
    params: () => {
      const base = this.editing.base();
      return base ? { key: base.key, revision: base.revision, variants: this.variants() } : undefined;
    },
    stream: ({ params }) => this.api.coverage(params.key).pipe(catchError(() => of(null))),
  });
  private readonly savedCoverage = computed(() => (this.saved.hasValue() ? this.saved.value() : null));
  protected readonly findings = computed(() =>
    (this.savedCoverage()?.findings ?? []).map(({ message, when, component, place }) =>
      component === null
        ? { message, when, where: 'the entry', commands: ['/publications', this.key()], query: { entry: place } }
        : { message, when, where: component, commands: ['/edit', component], query: { block: place } },
    ),
  );
  /** Entries that the lens leaves out; null without a lens. */
  private readonly throughLens = computed(() => {
    const selector = this.lens.selector();
    return selector ? entriesIn(this.publication()?.entries ?? [], selector) : null;
  });
  protected readonly tree = computed<TreeNode<OutlineEntry>[]>(() => this.asTree(this.publication()?.entries ?? []));
  protected readonly chosen = computed(
    () =>
      flattenEntries(this.publication()?.entries ?? []).find(({ entry }) => entry.id === this.chosenId())?.entry ??
      null,
  );
  protected readonly offered = computed<readonly ComponentRow[]>(() => {
    const wanted = this.find().trim().toLowerCase();
    return this.topicRows().filter(
      (row) => wanted === '' || `${row.title} ${row.excerpt}`.toLowerCase().includes(wanted),
    );
  });
  protected readonly offeredPublications = computed(() => {
    const wanted = this.find().trim().toLowerCase();
    return [...this.lens.publicationTitles()].filter(
      ([key, title]) => key !== this.key() && wanted !== '' && title.toLowerCase().includes(wanted),
    );
  });
  private readonly used = computed(
    () => new Set(flattenEntries(this.publication()?.entries ?? []).flatMap(({ entry }) => entry.topic ?? [])),
  );
  protected readonly preview = rxResource({
    params: () => this.chosen()?.topic,
    stream: ({ params }) => this.api.closure(params).pipe(catchError(() => of(null))),
  });

  constructor() {
    effect(() => {
      const key = this.key();
      untracked(() => this.load(key));
    });
    inject(ServerEvents)
      .of('publication')
      .pipe(takeUntilDestroyed())
      .subscribe(({ key, revision }) => {
        if (key === this.key() && revision > (this.newest()?.revision ?? 0)) this.load(key);
      });
    effect(() => {
      const entry = this.entry();
      if (entry !== undefined) this.chosenId.set(entry);
    });
    effect(() => {
      const shown = this.throughLens();
      const all = flattenEntries(this.publication()?.entries ?? []).length;
      this.lens.hidden.set(shown ? { count: all - shown.size, what: 'entry' } : null);
    });
  }

  hasUnsavedWork(): boolean {
    return this.dirty();
  }

  discardWork(): void {
    this.editing.discard();
  }

  @HostListener('window:beforeunload', ['$event'])
  protected closing(event: BeforeUnloadEvent): void {
    if (this.dirty()) event.preventDefault();
  }

  @HostListener('document:keydown', ['$event'])
  protected keys(event: KeyboardEvent): void {
    if (!isSaveKey(event)) return;
    event.preventDefault();
    this.save();
  }

  protected isOut(entry: OutlineEntry): boolean {
    return this.throughLens()?.has(entry.id) === false;
  }

  protected titleOf(entry: OutlineEntry): string {
    if (entry.title) return entry.title;
    const key = entry.topic === undefined ? `publication:${entry.publication ?? ''}` : `topic:${entry.topic}`;
    return this.titles().get(key) ?? entry.topic ?? entry.publication ?? '';
  }

  protected isUsed(row: ComponentRow): boolean {
    return this.used().has(row.key);
  }

  /**
   * How much of an entry one variant has. While the outline is being changed only the entry's own and
   * outer conditions are known here; content is counted again when it is saved.
   */
  protected cellOf(column: Column, entry: string): Cell {
    const { variant, covered } = column;
    if (!covered.has(entry)) {
      return { share: 0, word: 'out', title: `${variant.title}: left out by a condition on this entry or above` };
    }
    const coverage = this.savedCoverage();
    const row = coverage?.rows.find((each) => each.entry === entry);
    const blocks = row?.cells[coverage?.variants.indexOf(variant.id) ?? -1]?.blocks;
    if (!row || blocks === undefined || row.blocks === 0 || blocks === row.blocks) {
      return { share: 1, word: 'in', title: `${variant.title}: wholly in` };
    }
    const count = `${blocks} of ${row.blocks} blocks`;
    return {
      share: blocks / row.blocks,
      word: `in, ${count}`,
      title: `${variant.title}: ${count}; conditions inside leave out the rest`,
    };
  }

  /** Reads the outline back from the tree after a drag. */
  protected dropped(): void {
    const read = (nodes: readonly TreeNode<OutlineEntry>[]): OutlineEntry[] =>
      nodes.flatMap((node) => {
        if (!node.data) return [];
        const below = read(node.children ?? []);
        return [{ ...node.data, entries: below.length > 0 ? below : undefined }];
      });
    this.setEntries(read(this.tree()));
  }

  protected add(target: { readonly topic: string } | { readonly publication: string }): void {
    const entries = this.publication()?.entries ?? [];
    const id = freshEntryId(entries);
    this.setEntries(addEntry(entries, this.chosenId(), { id, ...target }));
    this.chosenId.set(id);
  }

  protected change(change: Partial<OutlineEntry>): void {
    const id = this.chosenId();
    if (id !== null) this.setEntries(changeEntry(this.publication()?.entries ?? [], id, change));
  }

  protected move(to: EntryMove): void {
    const id = this.chosenId();
    if (id !== null && this.session.mayKeep()) this.setEntries(moveEntry(this.publication()?.entries ?? [], id, to));
  }

  protected remove(): void {
    const id = this.chosenId();
    if (id === null) return;
    this.setEntries(removeEntry(this.publication()?.entries ?? [], id));
    this.chosenId.set(null);
  }

  protected retitle(title: string): void {
    this.patch({ title });
  }

  protected patch(change: Partial<OutlineParts>): void {
    this.editing.change(change);
  }

  protected save(): void {
    this.editing.save((saved) => this.wasSaved(saved));
  }

  protected wasSaved(saved: StoredPublication): void {
    this.newest.set(saved);
    this.refresh();
  }

  protected build(variants: readonly StoredVariant[]): void {
    this.api.startBuilds(variants.map((variant) => variant.id)).subscribe({
      next: ({ builds }) => void this.router.navigate(['/builds'], { queryParams: { build: builds[0] } }),
      error: (error: unknown) => this.notices.failed(error),
    });
  }

  protected removeVariant(variant: StoredVariant): void {
    this.deletion.ask(
      `Delete the variant “${variant.title}”?`,
      'Its builds and deliverables go with it.',
      () => this.api.deleteVariant(variant.id),
      () => this.refresh(),
    );
  }

  protected removePublication(): void {
    const publication = this.publication();
    if (!publication) return;
    this.deletion.ask(
      `Delete “${publication.title}”?`,
      `Its outline, ${this.variants().length} variants and their builds go with it; topics stay in the library.`,
      () => this.api.deletePublication(publication.key),
      () => {
        this.editing.discard();
        this.refresh();
        void this.router.navigate(['/publications']);
      },
    );
  }

  protected profileTitle(key: string): string {
    return this.lens.variation().profiles.find((profile) => profile.key === key)?.title ?? key;
  }

  protected refresh(): void {
    this.asked.set(null);
    this.lens.refresh().subscribe({ error: (error: unknown) => this.notices.failed(error) });
  }

  private setEntries(entries: readonly OutlineEntry[]): void {
    this.patch({ entries });
  }

  private load(key: string): void {
    this.problem.set('');
    this.api.publication(key).subscribe({
      next: (publication) => {
        if (publication.key !== this.key()) return;
        this.newest.set(publication);
        void this.editing.show(publication);
      },
      error: (error: unknown) => this.problem.set(problemText(error)),
    });
  }

  private asTree(entries: readonly OutlineEntry[]): TreeNode<OutlineEntry>[] {
    return entries.map((entry) => ({
      key: entry.id,
      label: this.titleOf(entry),
      data: entry,
      expanded: true,
      children: this.asTree(entry.entries ?? []),
      leaf: !entry.entries?.length,
    }));
  }
}

/** The ids of the entries that a selector lets through, with all entries above them. */
function entriesIn(entries: readonly OutlineEntry[], selector: Selector): ReadonlySet<string> {
  const found = new Set<string>();
  const visit = (list: readonly OutlineEntry[]): void => {
    for (const entry of list) {
      if (!selector.holds(entry.when ?? null)) continue;
      found.add(entry.id);
      visit(entry.entries ?? []);
    }
  };
  visit(entries);
  return found;
}
