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
  entryRoles,
  flattenEntries,
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
import { describeCondition } from '../shared/lanes';
import { Lens } from '../shared/lens';
import { NotOpened } from '../shared/not-opened';
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
import { OutlineGrid, type GridColumn } from './outline-grid';
import { TopicOffer } from './topic-offer';
import { isHeading, OutlineActs } from './outline-acts';
import { OutlineCoverage } from './outline-coverage';
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
    NotOpened,
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
  protected readonly sideOpen = signal(false);
  private readonly grid = viewChild(OutlineGrid);
  protected readonly asked = signal<{ variant: StoredVariant | null } | null>(null);
  protected readonly isHeading = isHeading;
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
  protected readonly coverage = new OutlineCoverage({
    base: this.editing.base,
    entries: this.entries,
    variants: this.variants,
  });
  /** How many findings are shown; the list goes on as it is scrolled. */
  protected readonly findingsShown = signal(findingsAtOnce);
  protected readonly findingCount = computed(() => this.coverage.saved()?.findings.length ?? 0);
  protected readonly findings = computed(() =>
    (this.coverage.saved()?.findings ?? []).slice(0, this.findingsShown()).map(({ message, when, component, place }) =>
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
      untracked(() => {
        this.acts.begin();
        this.findingsShown.set(findingsAtOnce);
        this.load(key);
      });
    });
    const events = inject(ServerEvents);
    events
      .of('missed')
      .pipe(takeUntilDestroyed())
      .subscribe(() => this.load(this.key()));
    events
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
      const shown = (this.coverage.saved()?.findings ?? []).slice(0, this.findingsShown());
      this.titles.read(shown.flatMap(({ component }) => component ?? []));
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

  protected readonly titleOf = computed(() => {
    const publications = this.lens.publicationTitles();
    return (entry: OutlineEntry): string => {
      if (entry.title) return entry.title;
      const shown = entry.topic ?? entry.link;
      if (shown !== undefined) return this.titles.of(shown);
      return publications.get(entry.publication ?? '') ?? entry.publication ?? '';
    };
  });
  protected readonly acts = new OutlineActs({
    entries: this.entries,
    chosenId: this.chosenId,
    titleOf: this.titleOf,
    choose: (id) => this.entryState.set(id ?? ''),
    put: (entries) => this.editing.change({ entries }),
    focus: () => this.grid()?.focus(),
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
    if (saved.key === this.key()) this.newest.set(saved);
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

  protected load(key: string): void {
    this.problem.set('');
    this.api.publication(key).subscribe({
      next: (publication) => {
        if (publication.key !== this.key()) return;
        this.newest.set(publication);
        void this.editing.show(publication);
      },
      error: (error: unknown) => {
        if (key !== this.key()) return;
        // What is being written stays on the page.
        if (this.publication()?.key === key) this.notices.failed(error);
        else this.problem.set(problemText(error));
      },
    });
  }
}
