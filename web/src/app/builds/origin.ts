import {
  ChangeDetectionStrategy,
  Component,
  computed,
  DestroyRef,
  effect,
  type ElementRef,
  inject,
  input,
  linkedSignal,
  type ResourceRef,
  signal,
  type Signal,
  untracked,
  viewChild,
} from '@angular/core';
import { rxResource } from '@angular/core/rxjs-interop';
import { FormsModule } from '@angular/forms';
import { DomSanitizer } from '@angular/platform-browser';
import { RouterLink } from '@angular/router';
import type { OriginAnswer } from '@allomorph/core';
import { Button } from 'primeng/button';
import { Select } from 'primeng/select';
import { ToggleSwitch } from 'primeng/toggleswitch';
import { addressState } from '../shared/address-state';
import { Api, problemText } from '../shared/api';
import { describeCondition } from '../shared/lanes';
import { Lens } from '../shared/lens';
import { PageTitle } from '../shared/page-title';
import { SidePane } from '../shared/side-pane';
import { Viewport } from '../shared/viewport';
import { TimePipe } from '../shared/wording';
import { OriginWay } from './origin-way';

/** A page of a deliverable whose passages tell where they come from, with what the variant left out where that is wanted. */
@Component({
  selector: 'al-origin',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [FormsModule, RouterLink, Button, Select, ToggleSwitch, SidePane, TimePipe, OriginWay],
  templateUrl: './origin.html',
  styleUrl: './origin.css',
})
export class OriginPlace {
  private readonly api = inject(Api);
  private readonly sanitizer = inject(DomSanitizer);
  private readonly frame = viewChild<ElementRef<HTMLIFrameElement>>('frame');
  private readonly lens = inject(Lens);
  protected readonly viewport = inject(Viewport);

  /** The build, from the address. */
  readonly build = input.required<string>();

  protected readonly entry = addressState('entry');
  protected readonly passage = addressState('passage');
  private readonly out = addressState('out');
  protected readonly showsLeftOut = computed(() => this.out.value() === 'shown');
  protected readonly detailOpen = signal(false);
  /** The address of the page that what was clicked leads to. */
  protected readonly leadsTo = signal<string | null>(null);
  protected readonly text = problemText;

  protected readonly detail = rxResource({
    params: () => this.build(),
    stream: ({ params }) => this.api.build(params),
  });
  protected readonly answer: ResourceRef<OriginAnswer | undefined> = rxResource({
    params: () => ({ build: this.build(), entry: this.entry.value() || null, leftOut: this.showsLeftOut() }),
    stream: ({ params: { build, entry, leftOut } }) =>
      this.api.buildOrigin(build, { entry, leftOut, outline: untracked(this.outline) === null }),
  });
  /** What is shown until the next page is there. */
  protected readonly shown: Signal<OriginAnswer | null> = linkedSignal<OriginAnswer | undefined, OriginAnswer | null>({
    source: () => (this.answer.hasValue() ? this.answer.value() : undefined),
    computation: (now, before) => now ?? before?.value ?? null,
  });
  /** The pages of the build, and what its outline left out: asked for once. */
  protected readonly outline: Signal<OriginAnswer['outline']> = linkedSignal<
    OriginAnswer['outline'],
    OriginAnswer['outline']
  >({
    source: () => this.shown()?.outline ?? null,
    computation: (now, before) => now ?? before?.value ?? null,
  });
  protected readonly pages = computed(() =>
    (this.outline()?.pages ?? []).map((page) => ({ ...page, label: '\u2003'.repeat(page.depth) + page.title })),
  );
  private readonly at = computed(() => this.pages().findIndex(({ entry }) => entry === this.shown()?.entry));
  protected readonly before = computed(() => this.pages()[this.at() - 1] ?? null);
  protected readonly after = computed(() => (this.at() < 0 ? null : (this.pages()[this.at() + 1] ?? null)));
  protected readonly title = computed(() => this.pages()[this.at()]?.title ?? '');
  /** Null: the passage is not on the page. */
  protected readonly origin = computed(() => this.shown()?.origins[this.passage.value()] ?? null);
  protected readonly page = computed(() => {
    const file = this.leadsTo()?.split('#')[0];
    return file ? (this.pages().find((each) => encodeURIComponent(each.file) === file) ?? null) : null;
  });
  protected readonly address = computed(() =>
    // Comes from our own server, which shows what authors wrote in an origin of its own.
    this.sanitizer.bypassSecurityTrustResourceUrl(this.shown()?.address ?? 'about:blank'),
  );

  constructor() {
    inject(PageTitle).name(() => this.title());
    const heard = ({ source, data }: MessageEvent<unknown>): void => {
      if (source !== this.frame()?.nativeElement.contentWindow || !isChoice(data)) return;
      this.passage.set(data.passage);
      this.leadsTo.set(data.href);
      this.detailOpen.set(true);
    };
    window.addEventListener('message', heard);
    inject(DestroyRef).onDestroy(() => window.removeEventListener('message', heard));
    effect(() => {
      if (this.shown()?.entry !== undefined) untracked(() => this.leadsTo.set(null));
    });
  }

  /** A condition in words. */
  protected inWords(when: string): string {
    return describeCondition(when, this.lens.vocabulary());
  }

  protected open(entry: string): void {
    this.passage.set('');
    this.entry.set(entry, true);
  }

  protected showLeftOut(shows: boolean): void {
    this.out.set(shows ? 'shown' : '');
  }

  /** Shows the passage of the address in the page that has been loaded. */
  protected loaded(): void {
    // What is shown has an origin of its own, which has no name.
    this.frame()?.nativeElement.contentWindow?.postMessage({ show: this.passage.value() }, '*');
  }
}

function isChoice(data: unknown): data is { readonly passage: string; readonly href: string | null } {
  return typeof data === 'object' && data !== null && 'passage' in data && typeof data.passage === 'string';
}
