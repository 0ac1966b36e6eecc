import { DatePipe } from '@angular/common';
import { ChangeDetectionStrategy, Component, computed, inject, input, linkedSignal, signal } from '@angular/core';
import { rxResource, takeUntilDestroyed } from '@angular/core/rxjs-interop';
import { FormsModule } from '@angular/forms';
import { Router, RouterLink } from '@angular/router';
import { addressOfRoute, formatsOf, routes, type BuildDetail, type BuildRow, type Problem } from '@allomorph/core';
import { Button } from 'primeng/button';
import { Dialog } from 'primeng/dialog';
import { MultiSelect } from 'primeng/multiselect';
import { ProgressBar } from 'primeng/progressbar';
import { TableModule } from 'primeng/table';
import { Api, problemText } from '../shared/api';
import { Lens } from '../shared/lens';
import { Notices } from '../shared/notices';
import { ServerEvents } from '../shared/server-events';
import { Session } from '../shared/session';
import { Freshness } from './freshness';

interface ShownProblem {
  readonly problem: Problem;
  readonly commands: readonly unknown[] | null;
  readonly query: Readonly<Record<string, string>>;
}

/** All builds with their progress; the chosen one with its problems and its deliverable. */
@Component({
  selector: 'al-builds',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [DatePipe, FormsModule, RouterLink, Button, Dialog, MultiSelect, ProgressBar, TableModule, Freshness],
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

  protected readonly readings = signal(0);
  protected readonly read = rxResource({ params: () => this.readings(), stream: () => this.api.builds() });
  protected readonly rows = linkedSignal<readonly BuildRow[] | undefined, readonly BuildRow[]>({
    source: () => (this.read.hasValue() ? this.read.value() : undefined),
    computation: (rows, previous) => rows ?? previous?.value ?? [],
  });
  protected readonly error = computed(() => (this.read.error() ? problemText(this.read.error()) : null));
  protected readonly detail = rxResource({
    params: () => {
      const id = this.build();
      const row = this.rows().find((each) => each.id === id);
      return id === undefined ? undefined : { id, state: row?.state };
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
  protected readonly text = problemText;

  constructor() {
    this.lens.hidden.set(null);
    inject(ServerEvents)
      .of('build')
      .pipe(takeUntilDestroyed())
      .subscribe(({ id, state, stage, progress }) => {
        const known = this.rows().some((row) => row.id === id);
        if (!known || state === 'done' || state === 'failed' || state === 'broken off') {
          this.readings.update((count) => count + 1);
        } else
          this.rows.update((rows) => rows.map((row) => (row.id === id ? { ...row, state, stage, progress } : row)));
      });
  }

  protected chosen(): BuildRow | null {
    return this.rows().find((row) => row.id === this.build()) ?? null;
  }

  /** Shows a build; a second click on it changes nothing. */
  protected choose(row: BuildRow | null): void {
    if (row) void this.router.navigate(['/builds'], { queryParams: { build: row.id } });
  }

  protected start(): void {
    if (this.wanted.length === 0) return;
    this.run(this.wanted);
  }

  protected again(build: BuildRow): void {
    this.run([build.variant]);
  }

  protected percent(row: BuildRow): number {
    return Math.round(row.progress * 100);
  }

  protected formatTitles(names: readonly string[]): string {
    return formatsOf(names)
      .map(({ title }) => title)
      .join(', ');
  }

  protected size(bytes: number): string {
    return bytes > 1 << 20 ? `${(bytes / (1 << 20)).toFixed(1)} MB` : `${Math.max(1, Math.round(bytes / 1024))} kB`;
  }

  protected seconds(row: BuildRow): string {
    return row.endedAt ? `${((Date.parse(row.endedAt) - Date.parse(row.queuedAt)) / 1000).toFixed(1)} s` : '';
  }

  protected firstPage(id: string): string {
    return addressOfRoute(routes.deliverableFile, { id, path: ['index.html'] });
  }

  protected zip(id: string): string {
    return addressOfRoute(routes.deliverableZip, { id });
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

  protected run(variants: readonly string[]): void {
    this.api.startBuilds(variants).subscribe({
      next: ({ builds }) => {
        this.startOpen.set(false);
        this.wanted = [];
        this.readings.update((count) => count + 1);
        const [first] = builds;
        if (first !== undefined) void this.router.navigate(['/builds'], { queryParams: { build: first } });
      },
      error: (error: unknown) => this.notices.failed(error),
    });
  }
}
