import { ChangeDetectionStrategy, Component, computed, inject, input, output, signal } from '@angular/core';
import { rxResource, takeUntilDestroyed } from '@angular/core/rxjs-interop';
import { FormsModule } from '@angular/forms';
import { RouterLink } from '@angular/router';
import {
  addressOfRoute,
  factsOf,
  formatNames,
  routes,
  type BuildRow,
  type FormatFacts,
  type VariantFreshness,
} from '@allomorph/core';
import { Button } from 'primeng/button';
import { InputText } from 'primeng/inputtext';
import { Api, problemText } from '../shared/api';
import { latest } from '../shared/latest';
import { Lens } from '../shared/lens';
import { ServerEvents } from '../shared/server-events';
import { Session } from '../shared/session';
import { Wording } from '../shared/wording';

/** How a format of a variant stands. */
type CellState = 'fresh' | 'stale' | 'failed' | 'none' | 'not wanted';

interface Cell {
  readonly format: FormatFacts;
  readonly state: CellState;
  /** Where it is read; null: nowhere. */
  readonly address: string | null;
  readonly told: string;
}

interface Row {
  readonly variant: VariantFreshness;
  readonly cells: readonly Cell[];
  /** What is being built of it, or waits. */
  readonly active: Pick<BuildRow, 'id' | 'state' | 'progress'> | null;
  /** The build that failed after the last one that made something. */
  readonly failed: string | null;
}

interface Group {
  readonly publication: string;
  readonly title: string;
  readonly rows: readonly Row[];
  /** Where all that its variants made is found; null: nothing yet. */
  readonly zip: string | null;
}

const words: Readonly<Record<CellState, string>> = {
  fresh: 'fresh',
  stale: 'stale',
  failed: 'failed',
  none: 'none',
  'not wanted': '',
};

/** All variants by publication, a column a format: what is fresh, stale, being built or missing, and building it. */
@Component({
  selector: 'al-build-board',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [FormsModule, RouterLink, Button, InputText],
  templateUrl: './build-board.html',
  styleUrl: './build-board.css',
})
export class BuildBoard {
  private readonly api = inject(Api);
  private readonly lens = inject(Lens);
  protected readonly session = inject(Session);
  protected readonly wording = inject(Wording);

  /** Grows when builds ended. */
  readonly readings = input.required<number>();
  readonly build = output<readonly string[]>();
  /** Asks to stop a build. */
  readonly stop = output<string>();

  protected readonly find = signal('');
  protected readonly chosen = signal<ReadonlySet<string>>(new Set());
  private readonly freshness = rxResource({ params: () => this.readings(), stream: () => this.api.freshness() });
  private readonly newest = rxResource({
    params: () => this.readings(),
    stream: () => this.api.builds({ limit: 500, order: 'newest' }),
  });
  private readonly variants = latest<readonly VariantFreshness[] | null>(this.freshness, null);
  private readonly builds = latest<{ readonly items: readonly BuildRow[] }>(this.newest, { items: [] });
  /** How builds went on since they were read, by their ids. */
  private readonly progress = signal<ReadonlyMap<string, Pick<BuildRow, 'state' | 'progress'>>>(new Map());

  protected readonly isRead = computed(() => this.variants() !== null);
  protected readonly problem = computed(() => (this.freshness.error() ? problemText(this.freshness.error()) : ''));
  /** The formats that some variant is built in. */
  protected readonly formats = computed(() => {
    const wanted = new Set(this.lens.variants().flatMap(({ formats }) => formats));
    return formatNames.filter((name) => wanted.has(name)).flatMap((name) => factsOf(name) ?? []);
  });
  protected readonly groups = computed<readonly Group[]>(() => {
    const looked = this.find().trim().toLowerCase();
    const fits = ({ title, publicationTitle }: VariantFreshness): boolean =>
      `${title} ${publicationTitle}`.toLowerCase().includes(looked);
    const groups = new Map<string, { title: string; rows: Row[] }>();
    for (const variant of this.variants() ?? []) {
      if (!fits(variant)) continue;
      let group = groups.get(variant.publication);
      if (!group) groups.set(variant.publication, (group = { title: variant.publicationTitle, rows: [] }));
      group.rows.push(this.row(variant));
    }
    return [...groups].map(([publication, group]) => {
      const isBuilt = group.rows.some(({ variant }) => variant.build !== null);
      const zip = isBuilt ? addressOfRoute(routes.publicationZip, { key: publication }) : null;
      return { publication, ...group, zip };
    });
  });
  protected readonly shown = computed(() => this.groups().flatMap(({ rows }) => rows.map(({ variant }) => variant)));

  constructor() {
    const events = inject(ServerEvents);
    // What is shown is read anew by whoever holds the board.
    events
      .of('missed')
      .pipe(takeUntilDestroyed())
      .subscribe(() => this.progress.set(new Map()));
    events
      .of('build')
      .pipe(takeUntilDestroyed())
      .subscribe(({ id, state, progress }) => {
        if (!this.builds().items.some((each) => each.id === id)) this.newest.reload();
        this.progress.update((all) => new Map([...all, [id, { state, progress }]]));
      });
  }

  protected word(state: CellState): string {
    return words[state];
  }

  protected toggle(variant: string): void {
    this.chosen.update((all) => {
      const next = new Set(all);
      if (!next.delete(variant)) next.add(variant);
      return next;
    });
  }

  protected choosesAll(): boolean {
    return this.shown().length > 0 && this.shown().every(({ variant }) => this.chosen().has(variant));
  }

  protected chooseAll(): void {
    this.chosen.set(this.choosesAll() ? new Set() : new Set(this.shown().map(({ variant }) => variant)));
  }

  protected buildChosen(): void {
    this.build.emit([...this.chosen()]);
    this.chosen.set(new Set());
  }

  protected percent(share: number): string {
    return `${Math.round(share * 100)} %`;
  }

  private row(variant: VariantFreshness): Row {
    const last = this.builds().items.find((each) => each.variant === variant.variant);
    const now = last && { ...last, ...this.progress().get(last.id) };
    const isActive = now?.state === 'queued' || now?.state === 'running';
    const hasFailed = now?.state === 'failed' || now?.state === 'broken off';
    const wanted = this.lens.variants().find(({ id }) => id === variant.variant)?.formats ?? [];
    return {
      variant,
      active: isActive ? now : null,
      failed: hasFailed ? now.id : null,
      cells: this.formats().map((format) =>
        this.cell(
          variant,
          format,
          wanted.some((name) => name === format.name),
        ),
      ),
    };
  }

  private cell(variant: VariantFreshness, format: FormatFacts, isWanted: boolean): Cell {
    const made = variant.formats.find((each) => each.format === format.name);
    if (!made) {
      const state = isWanted ? 'none' : 'not wanted';
      return { format, state, address: null, told: isWanted ? `${format.title}: not built yet` : '' };
    }
    const size = [
      ...(made.pages === null ? [] : [this.wording.count(made.pages, 'page', 'pages')]),
      this.wording.size(made.bytes),
    ].join(', ');
    if (made.state === 'failed')
      return { format, state: 'failed', address: null, told: `${format.title}: ${made.message ?? 'failed'}` };
    const state = variant.staleFormats.includes(format.name) ? 'stale' : 'fresh';
    const address = addressOfRoute(routes.deliverableFile, {
      id: variant.build ?? '',
      format: format.name,
      path: [format.start],
    });
    return { format, state, address, told: `${format.title}, ${state}, ${size}` };
  }
}
