import { ChangeDetectionStrategy, Component, computed, inject, input, signal } from '@angular/core';
import { rxResource, takeUntilDestroyed, toObservable, toSignal } from '@angular/core/rxjs-interop';
import { FormsModule } from '@angular/forms';
import { Router, RouterLink } from '@angular/router';
import {
  addressOfRoute,
  buildStates,
  factsOf,
  opensInBrowser,
  routes,
  type BuildDetail,
  type BuildRow,
  type BuiltFormat,
  type BuildState,
  type Given,
  type Problem,
} from '@allomorph/core';
import { Button } from 'primeng/button';
import { Dialog } from 'primeng/dialog';
import { InputText } from 'primeng/inputtext';
import { Listbox } from 'primeng/listbox';
import { Select } from 'primeng/select';
import { TableModule } from 'primeng/table';
import { debounceTime, distinctUntilChanged } from 'rxjs';
import { addressState } from '../shared/address-state';
import { Api, problemText } from '../shared/api';
import { LazyRows } from '../shared/lazy-rows';
import { Lens } from '../shared/lens';
import { Notices } from '../shared/notices';
import { ServerEvents } from '../shared/server-events';
import { Session } from '../shared/session';
import { SidePane } from '../shared/side-pane';
import { Viewport } from '../shared/viewport';
import { TimePipe, Wording } from '../shared/wording';
import { BuildBoard } from './build-board';
import { Freshness } from './freshness';
import { HandedOver } from './handed-over';
import { StorageLine } from './storage-line';

type BuildOrder = NonNullable<Given<typeof routes.builds>['query']['order']>;

/** Of so many builds it is remembered what was heard of them. */
const mostHeard = 200;

/** What each state is called. */
const stateNames: Readonly<Record<BuildState, string>> = {
  queued: 'Waiting',
  running: 'Being built',
  done: 'Done',
  failed: 'Failed',
  'broken off': 'Broken off',
};

/** What was made of one format, and where it is found. */
interface ShownFormat {
  readonly made: BuiltFormat;
  readonly title: string;
  readonly first: string;
  /** Whether browsers show it. */
  readonly opens: boolean;
  /** Null: it is one file. */
  readonly zip: string | null;
}

interface ShownProblem {
  readonly problem: Problem;
  readonly commands: readonly unknown[] | null;
  readonly query: Readonly<Record<string, string>>;
}

/** All builds with their progress; the chosen one with its problems and its deliverable. */
@Component({
  selector: 'al-builds',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [
    FormsModule,
    InputText,
    Select,
    SidePane,
    TimePipe,
    RouterLink,
    Button,
    Dialog,
    Listbox,
    TableModule,
    BuildBoard,
    Freshness,
    HandedOver,
    StorageLine,
  ],
  templateUrl: './builds.html',
  styleUrl: './builds.css',
})
export class BuildsPlace {
  private readonly api = inject(Api);
  private readonly router = inject(Router);
  private readonly notices = inject(Notices);
  protected readonly lens = inject(Lens);
  protected readonly session = inject(Session);

  /** The build to show, from the address. */
  readonly build = input<string>();

  /** Grows when builds ended: what was stale may be fresh now. */
  protected readonly readings = signal(0);
  protected readonly viewport = inject(Viewport);
  protected readonly wording = inject(Wording);
  protected readonly view = addressState('view', 'board');
  protected readonly find = addressState('find');
  protected readonly state = addressState('state');
  protected readonly publication = addressState('publication');
  protected readonly shipped = addressState('shipped');
  protected readonly handedOver = [
    { label: 'Shipped or not', value: '' },
    { label: 'Shipped', value: 'yes' },
  ];
  protected readonly order = addressState('order', 'newest');
  protected readonly detailOpen = signal(false);
  protected readonly states = [
    { label: 'Every state', value: '' },
    ...buildStates.map((value) => ({ label: stateNames[value], value })),
  ];
  protected readonly publications = computed(() => [
    { label: 'Every publication', value: '' },
    ...[...this.lens.publicationTitles()].map(([value, label]) => ({ label, value })),
  ]);
  protected readonly orders: readonly { readonly label: string; readonly value: BuildOrder }[] = [
    { label: 'Newest first', value: 'newest' },
    { label: 'By variant', value: 'variant' },
    { label: 'Most problems first', value: 'problems' },
  ];
  private readonly settledFind = toSignal(
    toObservable(this.find.value).pipe(debounceTime(200), distinctUntilChanged()),
    { initialValue: this.find.value() },
  );
  private readonly filter = computed(() => ({
    find: this.settledFind(),
    state: buildStates.find((state) => state === this.state.value()),
    publication: this.publication.value() || undefined,
    shipped: this.shipped.value() === 'yes' ? ('yes' as const) : undefined,
    order: this.orders.find(({ value }) => value === this.order.value())?.value ?? 'newest',
  }));
  protected readonly list = new LazyRows(this.filter, (filter, offset, limit) =>
    this.api.builds({ ...filter, offset, limit }),
  );
  private readonly chosenRow = computed(() => this.list.rows().find((row) => row?.id === this.build()) ?? null);
  /** In which state builds were heard to be: the one that is shown need not be in the list. */
  private readonly heard = signal<ReadonlyMap<string, BuildState>>(new Map());
  private readonly shownState = computed(() => this.heard().get(this.build() ?? '') ?? this.chosenRow()?.state);
  protected readonly detail = rxResource({
    params: () => {
      const id = this.build();
      return id === undefined ? undefined : { id, state: this.shownState() };
    },
    stream: ({ params }) => this.api.build(params.id),
  });
  protected readonly startOpen = signal(false);
  protected wanted: string[] = [];
  protected readonly choices = computed(() =>
    this.lens.variants().map((variant) => ({
      label: `${this.lens.publicationTitles().get(variant.publication) ?? variant.publication}: ${variant.title}`,
      value: variant.id,
    })),
  );
  protected readonly names = stateNames;
  protected readonly text = problemText;

  constructor() {
    this.lens.hidden.set(null);
    const events = inject(ServerEvents);
    events
      .of('missed')
      .pipe(takeUntilDestroyed())
      .subscribe(() => {
        this.heard.set(new Map());
        this.readings.update((count) => count + 1);
        this.list.again();
      });
    events
      .of('build')
      .pipe(takeUntilDestroyed())
      .subscribe(({ id, state, stage, progress }) => {
        this.heard.update((all) => new Map([...all, [id, state] as const].slice(-mostHeard)));
        const isOver = state === 'done' || state === 'failed' || state === 'broken off';
        const isKnown = this.list.change(
          (row) => row.id === id,
          (row) => ({ ...row, state, stage, progress }),
        );
        if (isOver) this.readings.update((count) => count + 1);
        if (isOver || !isKnown) this.list.again();
      });
  }

  protected profileTitle(key: string): string {
    return this.lens.variation().profiles.find((profile) => profile.key === key)?.title ?? key;
  }

  protected designTitle(key: string): string {
    return this.lens.designTitle(key);
  }

  protected asRow(row: unknown): BuildRow {
    return row as BuildRow;
  }

  protected chosen(): BuildRow | null {
    return this.chosenRow();
  }

  /** Shows a build; a second click on it changes nothing. */
  protected choose(row: BuildRow | null): void {
    if (!row) return;
    this.detailOpen.set(true);
    void this.router.navigate(['/builds'], { queryParams: { build: row.id }, queryParamsHandling: 'merge' });
  }

  protected start(): void {
    if (this.wanted.length === 0) return;
    this.run(this.wanted);
  }

  protected again(build: BuildRow): void {
    this.run([build.variant]);
  }

  protected isActive({ state }: BuildRow): boolean {
    return state === 'queued' || state === 'running';
  }

  protected stop({ id }: Pick<BuildRow, 'id'>): void {
    this.api.stopBuild(id).subscribe({ error: (error: unknown) => this.notices.failed(error) });
  }

  protected percent(row: BuildRow): number {
    return Math.round(row.progress * 100);
  }

  protected formatTitles(names: readonly string[]): string {
    return names.map((name) => factsOf(name)?.title ?? name).join(', ');
  }

  protected seconds(row: BuildRow): string {
    return row.endedAt ? `${((Date.parse(row.endedAt) - Date.parse(row.queuedAt)) / 1000).toFixed(1)} s` : '';
  }

  /** What was made, format by format. */
  protected formatsOf({ id, formats }: BuildDetail): readonly ShownFormat[] {
    return formats.flatMap((made): ShownFormat[] => {
      const format = factsOf(made.format);
      if (!format) return [];
      const first = addressOfRoute(routes.deliverableFile, { id, format: format.name, path: [format.start] });
      const isFolder = format.container === 'folder' || made.hasSeveralFiles;
      const zip = isFolder ? this.zip(id, format.name) : null;
      return [{ made, title: format.title, first, opens: opensInBrowser(format), zip }];
    });
  }

  /** @param format one format alone; without it all of them */
  protected zip(id: string, format?: string): string {
    const address = addressOfRoute(routes.deliverableZip, { id });
    return format === undefined ? address : `${address}?format=${encodeURIComponent(format)}`;
  }

  /** Each problem with the way to where it can be mended. */
  protected problemsOf(build: BuildDetail): readonly ShownProblem[] {
    return build.problems.map((problem): ShownProblem => {
      const { component, block, entry } = problem.place;
      if (component !== null) {
        return { problem, commands: ['/edit', component], query: block === null ? {} : { block } };
      }
      if (entry !== null) return { problem, commands: ['/publications', build.publication], query: { entry } };
      return { problem, commands: null, query: {} };
    });
  }

  /** Shows the first of some builds that were started. */
  protected follow(builds: readonly string[]): void {
    this.list.again();
    const [first] = builds;
    if (first !== undefined)
      void this.router.navigate(['/builds'], { queryParams: { build: first }, queryParamsHandling: 'merge' });
  }

  protected run(variants: readonly string[]): void {
    this.api.startBuilds(variants).subscribe({
      next: ({ builds }) => {
        this.startOpen.set(false);
        this.wanted = [];
        this.follow(builds);
      },
      error: (error: unknown) => this.notices.failed(error),
    });
  }
}
