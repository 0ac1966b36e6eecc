import { ChangeDetectionStrategy, Component, computed, inject, input, output } from '@angular/core';
import { toObservable, toSignal } from '@angular/core/rxjs-interop';
import { FormsModule } from '@angular/forms';
import type { ComponentRow } from '@allomorph/core';
import { InputText } from 'primeng/inputtext';
import { debounceTime, distinctUntilChanged, tap } from 'rxjs';
import { addressState } from '../shared/address-state';
import { Api } from '../shared/api';
import { ComponentTitles } from '../shared/component-titles';
import { Lens } from '../shared/lens';
import { More } from '../shared/more';
import { Paged } from '../shared/paged';
import { Wording } from '../shared/wording';

/** Topics and publications to put into an outline, found on the server. */
@Component({
  selector: 'al-topic-offer',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [FormsModule, InputText, More],
  template: `
    <h2>
      Topics <span class="soft" aria-live="polite">{{ topics.isRead() ? wording.number(topics.total()) : '' }}</span>
    </h2>
    <input
      pInputText
      type="search"
      class="find"
      aria-label="Find a topic to add"
      placeholder="Find a topic to add"
      [ngModel]="find.value()"
      (ngModelChange)="find.set($event)"
    />
    @if (topics.problem(); as text) {
      <p class="problem-text">{{ text }}</p>
    }
    <ul>
      @for (book of publications(); track book.key) {
        <li>
          <span class="what"
            ><i class="pi pi-book" aria-hidden="true"></i> <b>{{ book.title }}</b></span
          >
          @if (mayAdd()) {
            <button type="button" class="act" (click)="added.emit({ publication: book.key })">
              Add<span class="sr-only"> {{ book.title }}</span>
            </button>
          }
        </li>
      }
      @for (row of topics.items(); track row.key) {
        <li>
          <span class="what">
            <b>{{ row.title }}</b>
            @if (used().has(row.key)) {
              <span class="soft">in the outline</span>
            }
          </span>
          @if (mayAdd()) {
            <button type="button" class="act" (click)="added.emit({ topic: row.key })">
              Add<span class="sr-only"> {{ row.title }}</span>
            </button>
          }
        </li>
      } @empty {
        <li class="soft">{{ topics.isRead() ? 'No topic fits.' : 'Reading the topics …' }}</li>
      }
      @if (topics.hasMore()) {
        <li class="soft" (alMore)="topics.more()">Reading more …</li>
      }
    </ul>
  `,
  styles: `
    :host {
      display: flex;
      flex-direction: column;
      min-height: 0;
    }
    h2 {
      font: 600 1.15rem/1.2 var(--serif);
      margin: 0.3rem 0;
    }
    .soft {
      color: var(--soft);
      font-size: 0.88rem;
    }
    .find {
      width: 100%;
      margin: 0.3rem 0 0.6rem;
    }
    ul {
      list-style: none;
      padding: 0;
      margin: 0;
      max-height: 55vh;
      overflow: auto;
    }
    li {
      display: flex;
      justify-content: space-between;
      align-items: baseline;
      gap: 0.6rem;
      border-bottom: 1px solid var(--line);
      padding: 0.1rem 0;
    }
    .what {
      min-width: 0;
      overflow-wrap: anywhere;
    }
    .what .soft {
      margin-left: 0.5rem;
    }
    b {
      font-weight: 550;
    }
  `,
})
export class TopicOffer {
  private readonly api = inject(Api);
  private readonly lens = inject(Lens);
  private readonly titles = inject(ComponentTitles);
  protected readonly wording = inject(Wording);

  /** The publication whose outline it is. */
  readonly publication = input.required<string>();
  /** The keys of topics that stand in it. */
  readonly used = input.required<ReadonlySet<string>>();
  readonly mayAdd = input(false);
  readonly added = output<{ readonly topic: string } | { readonly publication: string }>();

  protected readonly find = addressState('topic');
  private readonly settled = toSignal(toObservable(this.find.value).pipe(debounceTime(200), distinctUntilChanged()));
  protected readonly topics = new Paged<string, ComponentRow>(this.settled, (find, offset) =>
    this.api.components({ find, kind: 'topic', offset, limit: 100 }).pipe(tap(({ items }) => this.titles.add(items))),
  );
  protected readonly publications = computed(() => {
    const wanted = this.find.value().trim().toLowerCase();
    return [...this.lens.publicationTitles()]
      .filter(([key, title]) => key !== this.publication() && wanted !== '' && title.toLowerCase().includes(wanted))
      .map(([key, title]) => ({ key, title }));
  });
}
