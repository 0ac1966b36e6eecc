import { ChangeDetectionStrategy, Component, computed, inject, input, output, signal } from '@angular/core';
import { rxResource, toObservable, toSignal } from '@angular/core/rxjs-interop';
import { FormsModule } from '@angular/forms';
import {
  makeNode,
  makeText,
  safeAddress,
  type ComponentRow,
  type NewComponent,
  type OutlineEntry,
} from '@allomorph/core';
import { Button } from 'primeng/button';
import { InputText } from 'primeng/inputtext';
import { debounceTime, distinctUntilChanged, tap } from 'rxjs';
import { addressState } from '../shared/address-state';
import { Api } from '../shared/api';
import { ComponentTitles } from '../shared/component-titles';
import { Lens } from '../shared/lens';
import { More } from '../shared/more';
import { Notices } from '../shared/notices';
import { Paged } from '../shared/paged';
import { Wording } from '../shared/wording';
import { topicsType } from '../shared/dragged-components';

/** Topics, links and publications to put into an outline, found on the server. */
@Component({
  selector: 'al-topic-offer',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [FormsModule, Button, InputText, More],
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
      @for (link of links(); track link.key) {
        <li>
          <span class="what"
            ><i class="pi pi-external-link" role="img" aria-label="Link:"></i> <b>{{ link.title }}</b>
            @if (used().has(link.key)) {
              <span class="soft">in the outline</span>
            }
          </span>
          @if (mayAdd()) {
            <button type="button" class="act" (click)="added.emit({ link: link.key })">
              Add<span class="sr-only"> {{ link.title }}</span>
            </button>
          }
        </li>
      }
      @for (row of topics.items(); track row.key) {
        <li [draggable]="mayAdd()" (dragstart)="dragBegins($event, row)">
          @if (mayAdd()) {
            <input
              type="checkbox"
              [id]="'offer-' + row.key"
              [checked]="ticked().has(row.key)"
              (change)="tick(row.key)"
            />
          }
          <label class="what" [for]="'offer-' + row.key">
            <b>{{ row.title }}</b>
            @if (used().has(row.key)) {
              <span class="soft">in the outline</span>
            }
          </label>
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
    @if (mayAdd()) {
      <p class="together">
        @if (ticked().size > 0) {
          <p-button
            size="small"
            [label]="'Add ' + wording.count(ticked().size, 'topic', 'topics')"
            icon="pi pi-plus"
            (onClick)="addTicked()"
          />
          <button type="button" class="act" (click)="ticked.set(none)">None</button>
        }
        @if (newTitle(); as title) {
          <button type="button" class="act" [disabled]="making()" (click)="make(title)">New topic “{{ title }}”</button>
        }
        @if (find.value().trim(); as title) {
          <button
            type="button"
            class="act"
            title="An entry without a topic, for what stands below it"
            (click)="addHeading(title)"
          >
            Heading “{{ title }}”
          </button>
        }
        @if (newAddress(); as href) {
          <button
            type="button"
            class="act"
            title="A link of the library, and an entry that says where it leads"
            [disabled]="making()"
            (click)="makeLink(href)"
          >
            Outside address “{{ href }}”
          </button>
        }
      </p>
    }
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
    .together {
      display: flex;
      flex-wrap: wrap;
      align-items: center;
      gap: 0.3rem 0.8rem;
      margin: 0.5rem 0;
    }
    .what {
      flex: 1;
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
  private readonly notices = inject(Notices);
  protected readonly wording = inject(Wording);

  /** The publication whose outline it is. */
  readonly publication = input.required<string>();
  /** The keys of topics that stand in it. */
  readonly used = input.required<ReadonlySet<string>>();
  readonly mayAdd = input(false);
  /** A topic, another publication, an outside address, or only a heading. */
  readonly added = output<Omit<OutlineEntry, 'id'>>();
  /** Several topics, in the order in which they are to stand. */
  readonly addedMany = output<readonly string[]>();

  /** The topics that are to be added together, in the order in which they were ticked. */
  protected readonly none: ReadonlySet<string> = new Set();
  protected readonly ticked = signal<ReadonlySet<string>>(this.none);
  protected readonly making = signal(false);

  protected readonly find = addressState('topic');
  private readonly settled = toSignal(toObservable(this.find.value).pipe(debounceTime(200), distinctUntilChanged()));
  protected readonly topics = new Paged<string, ComponentRow>(this.settled, (find, offset) =>
    this.api.components({ find, kind: 'topic', offset, limit: 100 }).pipe(tap(({ items }) => this.titles.add(items))),
  );
  /** What a new topic would be called: what is looked for, where no topic is called so. */
  protected readonly newTitle = computed(() => {
    const title = this.find.value().trim();
    const isTaken = this.topics.items().some((row) => row.title.toLowerCase() === title.toLowerCase());
    return title !== '' && this.topics.isRead() && !isTaken ? title : null;
  });
  private readonly linksFound = rxResource({
    params: () => this.settled()?.trim() || undefined,
    stream: ({ params: find }) => this.api.components({ find, kind: 'link', offset: 0, limit: 20 }),
  });
  /** Links are many, and seldom wanted in an outline: they are listed once they are looked for. */
  protected readonly links = computed(() =>
    this.settled()?.trim() && this.linksFound.hasValue() ? this.linksFound.value().items : [],
  );
  /** What is looked for, where it is an address. */
  protected readonly newAddress = computed(() => {
    const href = this.find.value().trim();
    return /^[a-z][a-z0-9+.-]*:\S+$/i.test(href) && safeAddress(href) !== null ? href : null;
  });
  protected readonly publications = computed(() => {
    const wanted = this.find.value().trim().toLowerCase();
    return [...this.lens.publicationTitles()]
      .filter(([key, title]) => key !== this.publication() && wanted !== '' && title.toLowerCase().includes(wanted))
      .map(([key, title]) => ({ key, title }));
  });

  protected tick(key: string): void {
    this.ticked.update((before) => {
      const after = new Set(before);
      if (!after.delete(key)) after.add(key);
      return after;
    });
  }

  protected addHeading(title: string): void {
    this.find.set('');
    this.added.emit({ title });
  }

  /** What is ticked is dragged together. */
  protected dragBegins(event: DragEvent, { key, title }: ComponentRow): void {
    const topics = this.ticked().has(key) ? [...this.ticked()] : [key];
    event.dataTransfer?.setData(topicsType, JSON.stringify(topics));
    event.dataTransfer?.setData('text/plain', title);
    if (event.dataTransfer) event.dataTransfer.effectAllowed = 'copy';
  }

  protected addTicked(): void {
    this.addedMany.emit([...this.ticked()]);
    this.ticked.set(this.none);
  }

  /** Makes a topic, empty but for its title, and puts it into the outline. */
  protected make(title: string): void {
    const body = makeNode('topic', null, [makeNode('title', null, [makeText(title)]), makeNode('paragraph')]);
    this.create({ kind: 'topic', title, body }, (topic) => this.addedMany.emit([topic]));
  }

  /** Makes a link of an address, called as it reads without its scheme, and puts it into the outline. */
  protected makeLink(href: string): void {
    const title = href
      .replace(/^[a-z]+:(\/\/)?/i, '')
      .replace(/\/$/, '')
      .slice(0, 300);
    this.create({ kind: 'link', title, body: { type: 'link', href, label: '' } }, (link) => this.added.emit({ link }));
  }

  private create(made: NewComponent, then: (key: string) => void): void {
    const { title } = made;
    this.making.set(true);
    this.api.createComponent(made).subscribe({
      next: ({ key }) => {
        this.making.set(false);
        this.find.set('');
        this.titles.add([{ key, title }]);
        then(key);
        this.notices.done(`“${title}” is in the library, and in the outline once it is saved.`);
      },
      error: (error: unknown) => {
        this.making.set(false);
        this.notices.failed(error);
      },
    });
  }
}
