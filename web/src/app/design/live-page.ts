import { ChangeDetectionStrategy, Component, computed, effect, inject, input, signal, untracked } from '@angular/core';
import { takeUntilDestroyed, toObservable } from '@angular/core/rxjs-interop';
import { FormsModule } from '@angular/forms';
import { DomSanitizer } from '@angular/platform-browser';
import type { Preview, StoredDesign } from '@allomorph/core';
import { Button } from 'primeng/button';
import { Select } from 'primeng/select';
import { SelectButton } from 'primeng/selectbutton';
import { catchError, debounceTime, filter, map, of, switchMap, tap } from 'rxjs';
import { addressState } from '../shared/address-state';
import { Api, problemText } from '../shared/api';
import { Lens } from '../shared/lens';

/** The first pages of a variant as a design would make them, made anew with every change. */
@Component({
  selector: 'al-live-page',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [FormsModule, Button, Select, SelectButton],
  template: `
    <div class="bar">
      <p-selectbutton
        [options]="media"
        optionLabel="title"
        optionValue="value"
        [allowEmpty]="false"
        ariaLabelledBy="live-medium"
        [ngModel]="medium.value()"
        (ngModelChange)="medium.set($event)"
      />
      <span id="live-medium" class="sr-only">Shown as</span>
      <p-select
        ariaLabel="Variant that is shown"
        [options]="variants()"
        optionLabel="title"
        optionValue="id"
        [group]="true"
        optionGroupLabel="title"
        optionGroupChildren="items"
        [filter]="variants().length > 3"
        filterBy="title"
        placeholder="Variant"
        appendTo="body"
        [ngModel]="variant()"
        (ngModelChange)="chosen.set($event)"
      />
      @if (medium.value() === 'web' && shown()?.pages; as pages) {
        <p-select
          ariaLabel="Page that is shown"
          [options]="pageChoices()"
          optionLabel="title"
          optionValue="value"
          appendTo="body"
          [ngModel]="at()"
          (ngModelChange)="at.set($event)"
        />
      }
      @if (medium.value() === 'paper') {
        <span class="zoom">
          <p-button
            icon="pi pi-search-minus"
            ariaLabel="Smaller"
            [text]="true"
            severity="secondary"
            [disabled]="zoom() === zooms[0]"
            (onClick)="turnZoom(-1)"
          />
          <p-button
            icon="pi pi-search-plus"
            ariaLabel="Larger"
            [text]="true"
            severity="secondary"
            [disabled]="zoom() === zooms[zooms.length - 1]"
            (onClick)="turnZoom(1)"
          />
        </span>
      }
      <span class="state" role="status">{{ state() }}</span>
    </div>
    @for (problem of shown()?.problems ?? []; track $index) {
      <p class="problem">{{ problem }}</p>
    }
    @if (failed(); as text) {
      <p class="problem" role="alert">{{ text }}</p>
    }
    @if (shown(); as preview) {
      @if (shownMedium() === 'paper') {
        <div class="desk" tabindex="0" role="region" aria-label="Pages on paper">
          <img
            [src]="preview.address"
            [style.width.%]="zoom()"
            alt="The first pages on paper"
            (load)="loading.set(false)"
          />
        </div>
      } @else {
        <iframe
          [src]="frame()"
          title="A page of the web site"
          sandbox="allow-popups"
          (load)="loading.set(false)"
        ></iframe>
      }
    } @else if (variants().length === 0) {
      <p class="none">There is no variant yet that could be shown. Publications have them.</p>
    }
  `,
  styleUrl: './live-page.css',
})
export class LivePage {
  private readonly api = inject(Api);
  private readonly lens = inject(Lens);
  private readonly sanitizer = inject(DomSanitizer);

  /** The design as it stands in the form. */
  readonly design = input.required<StoredDesign>();
  /** Whether everything in the form can be. */
  readonly isSound = input(true);

  protected readonly media = [
    { value: 'paper', title: 'Paper' },
    { value: 'web', title: 'Web' },
  ];
  protected readonly medium = addressState('as', 'paper');
  protected readonly chosen = signal<string | null>(null);
  protected readonly at = signal(1);
  /** In percent of the pane. */
  protected readonly zooms = [45, 70, 100, 150];
  protected readonly zoom = signal(70);
  protected readonly shown = signal<Preview | null>(null);
  protected readonly shownMedium = signal('paper');
  protected readonly failed = signal('');
  protected readonly loading = signal(false);
  protected readonly variants = computed(() => {
    const titles = this.lens.publicationTitles();
    const groups = new Map<string, { id: string; title: string }[]>();
    for (const { id, title, publication } of this.lens.variants()) {
      const items = groups.get(publication) ?? [];
      groups.set(publication, [...items, { id, title }]);
    }
    return [...groups].map(([key, items]) => ({ title: titles.get(key) ?? key, items }));
  });
  /** One that is chosen, the lens's, one that has this design, or the first. */
  protected readonly variant = computed(() => {
    const all = this.lens.variants();
    const wanted = [
      all.find(({ id }) => id === this.chosen()),
      this.lens.current()?.variant,
      all.find(({ design }) => design === this.design().key),
      all[0],
    ];
    return wanted.find((each) => each)?.id ?? null;
  });
  protected readonly pageChoices = computed(() =>
    (this.shown()?.pages ?? []).map((title, value) => ({ title: value === 0 ? `${title} (start)` : title, value })),
  );
  protected readonly state = computed(() => (this.loading() ? 'being made …' : ''));
  protected readonly frame = computed(() =>
    // Comes from our own server, which shows what authors wrote in an origin of its own.
    this.sanitizer.bypassSecurityTrustResourceUrl(this.shown()?.address ?? 'about:blank'),
  );

  protected turnZoom(by: -1 | 1): void {
    this.zoom.update((now) => this.zooms[this.zooms.indexOf(now) + by] ?? now);
  }

  constructor() {
    const wanted = computed(() => {
      const [variant, { key, title, from, settings }] = [this.variant(), this.design()];
      const medium = this.medium.value() === 'web' ? ('web' as const) : ('paper' as const);
      return variant === null || !this.isSound()
        ? null
        : {
            variant,
            medium,
            at: medium === 'web' ? this.at() : 0,
            design: { key, title: title || key, from, settings },
          };
    });
    toObservable(wanted)
      .pipe(
        filter((order) => order !== null),
        debounceTime(250),
        tap(() => this.loading.set(true)),
        switchMap((order) =>
          this.api.previewDesign(order).pipe(
            map((preview) => ({ preview, medium: order.medium, fault: '' })),
            catchError((error: unknown) => of({ preview: null, medium: order.medium, fault: problemText(error) })),
          ),
        ),
        takeUntilDestroyed(),
      )
      .subscribe(({ preview, medium, fault }) => {
        this.failed.set(fault);
        if (!preview) {
          this.loading.set(false);
          return;
        }
        this.shownMedium.set(medium);
        this.shown.set(preview);
      });
    effect(() => {
      const count = this.shown()?.pages.length ?? 0;
      untracked(() => {
        if (this.medium.value() === 'web' && count > 0 && this.at() >= count) this.at.set(0);
      });
    });
  }
}
