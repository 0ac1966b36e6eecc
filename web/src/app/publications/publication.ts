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
  viewChild,
} from '@angular/core';
import { rxResource, takeUntilDestroyed } from '@angular/core/rxjs-interop';
import { FormsModule } from '@angular/forms';
import { Router, RouterLink } from '@angular/router';
import {
  conditionOfTopic,
  entryRoles,
  flattenEntries,
  Selector,
  type ConditionTest,
  type EntryRole,
  type OutlineEntry,
  type StoredPublication,
  type StoredVariant,
} from '@allomorph/core';
import { Button } from 'primeng/button';
import { Dialog } from 'primeng/dialog';
import { InputText } from 'primeng/inputtext';
import { Select } from 'primeng/select';
import { Listbox } from 'primeng/listbox';
import { Popover } from 'primeng/popover';
import { catchError, of } from 'rxjs';
import { EditorLibrary } from '../editor/editor-library';
import { addressState } from '../shared/address-state';
import { Api, problemText } from '../shared/api';
import { ConditionField } from '../shared/condition-field';
import { Deletion } from '../shared/deletion';
import { ComponentTitles } from '../shared/component-titles';
import { Edits } from '../shared/editing';
import { EditingBands } from '../shared/editing-bands';
import { latest } from '../shared/latest';
import { describeCondition } from '../shared/lanes';
import { Lens } from '../shared/lens';
import { Notices } from '../shared/notices';
import { More } from '../shared/more';
import { PageTitle } from '../shared/page-title';
import { ReadingView } from '../shared/reading-view';
import { Bindings } from '../shared/bindings';
import { ServerEvents } from '../shared/server-events';
import { SidePane } from '../shared/side-pane';
import { Session } from '../shared/session';
import { Viewport } from '../shared/viewport';
import { Wording } from '../shared/wording';
import type { HoldsWork } from '../shared/unsaved.guard';
import { OutlineGrid, type GridCell, type GridColumn } from './outline-grid';
import { TopicOffer } from './topic-offer';
import {
  addEntries,
  changeEntries,
  cutEntries,
  moveEntries,
  pickedEntries,
  putEntries,
  removeEntries,
  withFreshIds,
  type DropPlace,
  type EntryMove,
} from './outline';
import { entriesOnClipboard, putOnClipboard } from './outline-clipboard';
import { OutlineHistory } from './outline-history';
import { OutlineKeys } from './outline-keys';
import { ValuesEditor } from './values-editor';
import { ImportNotes } from './import-notes';
import { VariantDialog } from './variant-dialog';

const roleNames: Readonly<Record<EntryRole, string>> = {
  auto: 'By its place',
  book: 'Book of a set',
  front: 'Front matter',
  back: 'Back matter',
  part: 'Part',
  chapter: 'Chapter',
  appendix: 'Appendix',
  section: 'Section',
};

const findingsAtOnce = 40;

/** What is changed of a publication, each part by itself. */
type OutlineParts = Pick<StoredPublication, 'title' | 'values' | 'entries'>;

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
    Listbox,
    More,
    Popover,
    ConditionField,
    OutlineGrid,
    OutlineKeys,
    SidePane,
    TopicOffer,
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
  private readonly bindings = inject(Bindings);
  protected readonly lens = inject(Lens);
  protected readonly session = inject(Session);
  private readonly notices = inject(Notices);
  private readonly router = inject(Router);
  private readonly deletion = inject(Deletion);

  readonly key = input.required<string>();

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
  /** The outline by itself: another title changes nothing of it. */
  protected readonly entries = computed<readonly OutlineEntry[]>(() => this.editing.parts()?.entries ?? []);
  protected readonly problem = signal('');
  protected readonly dirty = this.editing.dirty;
  protected readonly saving = this.editing.saving;
  private readonly titles = inject(ComponentTitles);
  protected readonly viewport = inject(Viewport);
  protected readonly wording = inject(Wording);
  /** The entry that is chosen, in the address. */
  private readonly entryState = addressState('entry');
  protected readonly chosenId = computed(() => this.entryState.value() || null);
  /** The entries that are picked; acts are for all of them. */
  protected readonly picked = signal<ReadonlySet<string>>(new Set());
  protected readonly pickedNow = computed<ReadonlySet<string>>(() => {
    const [chosen, picked] = [this.chosenId(), this.picked()];
    return chosen === null || picked.has(chosen) ? picked : new Set([chosen]);
  });
  protected readonly history = new OutlineHistory();
  protected readonly sideOpen = signal(false);
  private readonly grid = viewChild(OutlineGrid);
  protected readonly asked = signal<{ variant: StoredVariant | null } | null>(null);
  protected readonly roles = entryRoles.map((value) => ({ value, label: roleNames[value] }));
  protected readonly text = problemText;
  protected readonly notesOpen = signal(false);
  private readonly notesRead = rxResource({
    params: () => this.key(),
    stream: ({ params }) => this.api.importNotes(params),
  });
  protected readonly importNotes = computed(() => (this.notesRead.hasValue() ? this.notesRead.value() : []));

  protected readonly variants = computed(() =>
    this.lens.variants().filter((variant) => variant.publication === this.key()),
  );
  protected readonly findVariant = addressState('variant');
  protected readonly groupBy = addressState('by');
  protected readonly groupings: { label: string; value: string }[] = [
    { label: 'Not grouped', value: '' },
    { label: 'By profile', value: 'profile' },
    { label: 'By language', value: 'language' },
  ];
  /** The ids of the variants that are picked; none: all. */
  protected readonly shownColumns = addressState('columns');
  protected readonly shownColumnIds = computed(() =>
    this.shownColumns
      .value()
      .split(' ')
      .filter((id) => id !== ''),
  );
  protected readonly variantChoices = computed(() => this.variants().map(({ id, title }) => ({ id, title })));
  protected readonly columns = computed<readonly GridColumn[]>(() => {
    const wanted = this.findVariant.value().trim().toLowerCase();
    const picked = new Set(this.shownColumnIds());
    const by = this.groupBy.value();
    return this.variants()
      .filter(({ id, title }) => (picked.size === 0 || picked.has(id)) && title.toLowerCase().includes(wanted))
      .map(({ id, title, profile, language }) => ({
        id,
        title,
        group: by === 'profile' ? this.profileTitle(profile) : by === 'language' ? language : '',
      }))
      .sort((a, b) => a.group.localeCompare(b.group));
  });
  /** For each variant, the entries whose own and outer conditions hold; worked out for those that are in view. */
  private readonly covered = computed(() => {
    const entries = this.entries();
    const [profiles, vocabulary] = [this.lens.variation().profiles, this.lens.vocabulary()];
    const own = this.ownConditions();
    const known = new Map<string, ReadonlySet<string>>();
    return (variant: StoredVariant): ReadonlySet<string> => {
      let found = known.get(variant.profile);
      if (!found) {
        const profile = profiles.find((each) => each.key === variant.profile);
        found = profile ? entriesIn(entries, new Selector(vocabulary, profile), own) : new Set();
        known.set(variant.profile, found);
      }
      return found;
    };
  });
  /** What each variant has of each entry of the outline as it is saved, blocks counted. */
  private readonly saved = rxResource({
    params: () => {
      const base = this.editing.base();
      return base ? { key: base.key, revision: base.revision, variants: this.variants() } : undefined;
    },
    stream: ({ params }) => this.api.coverage(params.key).pipe(catchError(() => of(null))),
  });
  private readonly savedCoverage = latest(this.saved, null);
  /** What topics of the outline say of themselves, as they are saved. */
  protected readonly ownConditions = computed(() => this.savedCoverage()?.ownConditions ?? {});
  /** The same, to look up by variant and entry. */
  private readonly savedCells = computed(() => {
    const coverage = this.savedCoverage();
    return {
      column: new Map(coverage?.variants.map((id, at) => [id, at] as const)),
      row: new Map(coverage?.rows.map((row) => [row.entry, row] as const)),
    };
  });
  /** How many findings are shown; the list goes on as it is scrolled. */
  protected readonly findingsShown = signal(findingsAtOnce);
  protected readonly findingCount = computed(() => this.savedCoverage()?.findings.length ?? 0);
  protected readonly findings = computed(() =>
    (this.savedCoverage()?.findings ?? []).slice(0, this.findingsShown()).map(({ message, when, component, place }) =>
      component === null
        ? { message, when, where: 'the entry', commands: ['/publications', this.key()], query: { entry: place } }
        : {
            message,
            when,
            where: this.titles.of(component),
            commands: ['/edit', component],
            query: { block: place },
          },
    ),
  );
  /** Entries that the lens leaves out; null without a lens. */
  private readonly throughLens = computed(() => {
    const selector = this.lens.selector();
    return selector ? entriesIn(this.entries(), selector, this.ownConditions()) : null;
  });
  protected readonly chosen = computed(
    () => flattenEntries(this.entries()).find(({ entry }) => entry.id === this.chosenId())?.entry ?? null,
  );
  protected readonly used = computed<ReadonlySet<string>>(
    () => new Set(flattenEntries(this.entries()).flatMap(({ entry }) => entry.topic ?? entry.link ?? [])),
  );
  protected readonly preview = rxResource({
    params: () => this.chosen()?.topic,
    stream: ({ params }) => this.api.closure(params).pipe(catchError(() => of(null))),
  });

  constructor() {
    effect(() => {
      const key = this.key();
      this.history.forget();
      untracked(() => this.load(key));
    });
    inject(ServerEvents)
      .of('publication')
      .pipe(takeUntilDestroyed())
      .subscribe(({ key, revision }) => {
        if (key === this.key() && revision > (this.newest()?.revision ?? 0)) this.load(key);
      });
    effect(() =>
      this.titles.read(flattenEntries(this.entries()).flatMap(({ entry }) => entry.topic ?? entry.link ?? [])),
    );
    inject(PageTitle).name(() => this.publication()?.title ?? '');
    effect(() => {
      const shown = (this.savedCoverage()?.findings ?? []).slice(0, this.findingsShown());
      this.titles.read(shown.flatMap(({ component }) => component ?? []));
    });
    effect(() => {
      const shown = this.throughLens();
      const all = flattenEntries(this.entries()).length;
      this.lens.hidden.set(shown ? { count: all - shown.size, what: 'entry', open: this.openEntries().size } : null);
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
    if (event.defaultPrevented || this.bindings.meant(event) !== 'save') return;
    event.preventDefault();
    this.save();
  }

  /**
   * How much of an entry one variant has. While the outline is being changed only the entry's own and
   * outer conditions are known here; content is counted again when it is saved.
   */
  protected readonly cellOf = computed(() => {
    const variants = new Map(this.variants().map((variant) => [variant.id, variant]));
    const [covered, cells] = [this.covered(), this.savedCells()];
    return (column: string, entry: string): GridCell => {
      const variant = variants.get(column);
      const title = variant?.title ?? '';
      if (!variant || !covered(variant).has(entry))
        return { share: 0, word: 'out', title: `${title}: left out by a condition on this entry, its topic or above` };
      const row = cells.row.get(entry);
      const blocks = row?.cells[cells.column.get(column) ?? -1]?.blocks;
      if (!row || blocks === undefined || row.blocks === 0 || blocks === row.blocks)
        return { share: 1, word: 'in', title: `${title}: wholly in` };
      const count = `${blocks} of ${row.blocks} blocks`;
      return {
        share: blocks / row.blocks,
        word: `in, ${count}`,
        title: `${title}: ${count}; conditions inside leave out the rest`,
      };
    };
  });
  protected readonly titleOf = computed(() => {
    const publications = this.lens.publicationTitles();
    return (entry: OutlineEntry): string => {
      if (entry.title) return entry.title;
      const shown = entry.topic ?? entry.link;
      if (shown !== undefined) return this.titles.of(shown);
      return publications.get(entry.publication ?? '') ?? entry.publication ?? '';
    };
  });
  protected readonly isOut = computed(() => {
    const shown = this.throughLens();
    return (entry: OutlineEntry): boolean => shown?.has(entry.id) === false;
  });

  /** Entries that hang on axes which the lens leaves open, by their own condition or that of their topic. */
  private readonly openEntries = computed<ReadonlySet<string>>(() => {
    const [open, own] = [this.lens.open(), this.ownConditions()];
    if (!open) return new Set();
    const hangs = (entry: OutlineEntry): boolean =>
      open.state(entry.when ?? null) === 'open' ||
      open.state(conditionOfTopic(entry, (topic) => own[topic] ?? null)) === 'open';
    const found = flattenEntries(this.entries()).filter(({ entry }) => hangs(entry) && !this.isOut()(entry));
    return new Set(found.map(({ entry }) => entry.id));
  });
  protected readonly isOpen = computed(() => {
    const open = this.openEntries();
    return (entry: OutlineEntry): boolean => open.has(entry.id);
  });

  private readonly rows = rxResource({
    params: () => ({ key: this.key(), title: this.newest()?.title }),
    stream: () => this.api.publications().pipe(catchError(() => of([]))),
    defaultValue: [],
  });
  private readonly mainKey = computed(() => this.publication()?.outlineOf ?? this.key());
  /** The publication and the outlines over it, this one among them. */
  protected readonly outlines = computed(() => {
    const main = this.mainKey();
    const rows = this.rows.value();
    return [...rows.filter(({ key }) => key === main), ...rows.filter(({ outlineOf }) => outlineOf === main)];
  });
  protected readonly mainTitle = computed(() => this.lens.publicationTitles().get(this.mainKey()) ?? this.mainKey());

  /** Makes another outline over the same publication, which begins as this one stands, and opens it. */
  protected addOutline(): void {
    const title = `${this.mainTitle()}, outline ${this.outlines().length + 1}`.slice(-300);
    this.api.createPublication(title, this.key()).subscribe({
      next: ({ key }) => {
        this.refresh();
        void this.router.navigate(['/publications', key]);
      },
      error: (error: unknown) => this.notices.failed(error),
    });
  }

  protected choose(id: string | null): void {
    this.entryState.set(id ?? '');
    this.picked.set(new Set(id === null ? [] : [id]));
  }

  protected add(target: Omit<OutlineEntry, 'id'>): void {
    this.put('Add an entry', [{ id: '', ...target }]);
  }

  /** Adds several topics behind the last entry; the list that they were chosen from stays. */
  protected addMany(topics: readonly string[]): void {
    this.setEntries(`Add ${this.entryCount(topics.length)}`, addEntries(this.entries(), null, this.entriesOf(topics)));
  }

  protected dropTopics(dropped: {
    readonly topics: readonly string[];
    readonly target: string;
    readonly place: DropPlace;
  }): void {
    const { topics, target, place } = dropped;
    this.setEntries(
      `Add ${this.entryCount(topics.length)}`,
      putEntries(this.entries(), this.entriesOf(topics), target, place),
    );
  }

  private entriesOf(topics: readonly string[]): readonly OutlineEntry[] {
    return withFreshIds(
      topics.map((topic) => ({ id: '', topic })),
      this.entries(),
    );
  }

  protected change(change: Partial<OutlineEntry>): void {
    const picked = this.pickedNow();
    if (picked.size === 0) return;
    const what = 'title' in change ? 'Title' : 'role' in change ? 'Role' : 'when' in change ? 'Condition' : 'Values';
    const joins = what === 'Title' ? `title of ${[...picked].join()}` : null;
    this.setEntries(`${what} of ${this.entryCount(picked.size)}`, changeEntries(this.entries(), picked, change), joins);
  }

  protected isHeading({ topic, publication, link }: OutlineEntry): boolean {
    return topic === undefined && publication === undefined && link === undefined;
  }

  /** A heading keeps its last sign: without a title it would be nothing. */
  protected retitleEntry(entry: OutlineEntry, title: string): void {
    if (title.trim() !== '' || !this.isHeading(entry)) this.change({ title: title || null });
  }

  protected move(to: EntryMove): void {
    if (!this.session.mayOutline()) return;
    const picked = this.pickedNow();
    const moved = moveEntries(this.entries(), picked, to);
    if (moved !== this.entries()) this.setEntries(`Move ${this.entryCount(picked.size)}`, moved);
    // The next key moves it on.
    this.grid()?.focus();
  }

  protected remove(): void {
    const picked = this.pickedNow();
    if (picked.size === 0) return;
    this.setEntries(`Take out ${this.entryCount(picked.size)}`, removeEntries(this.entries(), picked));
    this.choose(null);
  }

  protected copy(event: ClipboardEvent): void {
    const entries = pickedEntries(this.entries(), this.pickedNow());
    if (entries.length === 0 || !event.clipboardData) return;
    event.preventDefault();
    putOnClipboard(event.clipboardData, entries, this.titleOf());
    if (event.type !== 'cut' || !this.session.mayOutline()) return;
    this.setEntries(`Cut ${this.entryCount(entries.length)}`, cutEntries(this.entries(), this.pickedNow()));
    this.choose(null);
  }

  protected paste(event: ClipboardEvent): void {
    const entries = event.clipboardData ? entriesOnClipboard(event.clipboardData) : [];
    if (entries.length === 0 || !this.session.mayOutline()) return;
    event.preventDefault();
    this.put(`Paste ${this.entryCount(entries.length)}`, entries);
    this.grid()?.focus();
  }

  protected undo(): void {
    this.showEntries(this.history.undo(this.entries()));
  }

  protected redo(): void {
    this.showEntries(this.history.redo(this.entries()));
  }

  /** Puts entries behind the last picked one, or at the end, and picks them. */
  private put(what: string, entries: readonly OutlineEntry[]): void {
    const added = withFreshIds(entries, this.entries());
    const last = pickedEntries(this.entries(), this.pickedNow()).at(-1);
    this.setEntries(what, addEntries(this.entries(), last?.id ?? null, added));
    this.choose(added[0]?.id ?? null);
    this.picked.set(new Set(added.map(({ id }) => id)));
  }

  protected entryCount(count: number): string {
    return this.wording.count(count, 'entry', 'entries');
  }

  private showEntries(entries: readonly OutlineEntry[] | null): void {
    if (entries) this.patch({ entries });
    const there = new Set(flattenEntries(this.entries()).map(({ entry }) => entry.id));
    if (!there.has(this.chosenId() ?? '')) this.choose(null);
    this.picked.update((picked) => new Set([...picked].filter((id) => there.has(id))));
    this.grid()?.focus();
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
    this.deletion.toBin(
      'variant',
      { key: variant.id, title: variant.title },
      'Its builds and deliverables go with it.',
      () => this.api.deleteVariant(variant.id),
      () => this.refresh(),
    );
  }

  protected removePublication(): void {
    const publication = this.publication();
    if (!publication) return;
    this.deletion.toBin(
      'publication',
      publication,
      `Its outline, ${this.variants().length} variants and their builds go with it; topics stay in the library.`,
      () => this.api.deletePublication(publication.key),
      () => {
        this.editing.discard();
        this.refresh();
        if (this.key() === publication.key) void this.router.navigate(['/publications']);
      },
    );
  }

  protected inWords(when: string): string {
    return describeCondition(when, this.lens.vocabulary());
  }

  protected profileTitle(key: string): string {
    return this.lens.variation().profiles.find((profile) => profile.key === key)?.title ?? key;
  }

  protected refresh(): void {
    this.asked.set(null);
    this.lens.refresh().subscribe({ error: (error: unknown) => this.notices.failed(error) });
  }

  protected moreFindings(): void {
    this.findingsShown.update((count) => count + findingsAtOnce);
  }

  /** @param what said by the button that undoes it */
  protected setEntries(what: string, entries: readonly OutlineEntry[], joins: string | null = null): void {
    this.history.keep(what, this.entries(), entries, joins);
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
}

/**
 * The ids of the entries that a selector lets through, with all entries above them.
 * @param own the conditions that topics bear wherever they stand, by their keys
 */
function entriesIn(
  entries: readonly OutlineEntry[],
  selector: ConditionTest,
  own: Readonly<Record<string, string>>,
): ReadonlySet<string> {
  const found = new Set<string>();
  const visit = (list: readonly OutlineEntry[]): void => {
    for (const entry of list) {
      const ofTopic = conditionOfTopic(entry, (topic) => own[topic] ?? null);
      if (!selector.holds(entry.when ?? null) || !selector.holds(ofTopic)) continue;
      found.add(entry.id);
      visit(entry.entries ?? []);
    }
  };
  visit(entries);
  return found;
}
