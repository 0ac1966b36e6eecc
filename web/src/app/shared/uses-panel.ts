import { ChangeDetectionStrategy, Component, computed, inject, input, linkedSignal, signal } from '@angular/core';
import { toObservable, toSignal } from '@angular/core/rxjs-interop';
import { FormsModule } from '@angular/forms';
import { RouterLink } from '@angular/router';
import {
  referenceKinds,
  settingOf,
  type Given,
  type ReferenceKind,
  type routes,
  type Use,
  type Uses,
} from '@allomorph/core';
import { InputText } from 'primeng/inputtext';
import { Select } from 'primeng/select';
import { debounceTime, distinctUntilChanged, finalize, map, share, type Observable } from 'rxjs';
import { Api } from './api';
import { componentAddress, kindIcons } from './kinds';
import { More } from './more';
import { Paged } from './paged';
import { Wording } from './wording';

type Order = NonNullable<Given<typeof routes.uses>['query']['order']>;

interface ShownUse {
  readonly title: string;
  readonly icon: string;
  readonly commands: readonly unknown[];
  readonly query: Readonly<Record<string, string>>;
  readonly how: string;
}

/** Every place that refers to a component, direct or through others; each leads there. */
@Component({
  selector: 'al-uses-panel',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [FormsModule, RouterLink, InputText, More, Select],
  template: `
    @if (isLong()) {
      <div class="filters">
        <input
          pInputText
          type="search"
          aria-label="Find in the uses"
          placeholder="Find in the uses"
          [ngModel]="find()"
          (ngModelChange)="find.set($event)"
        />
        <p-select
          ariaLabel="How it is used"
          size="small"
          [options]="kinds"
          optionLabel="label"
          optionValue="value"
          [(ngModel)]="kind"
        />
        <p-select
          ariaLabel="Order of the uses"
          size="small"
          [options]="orders"
          optionLabel="label"
          optionValue="value"
          [(ngModel)]="order"
        />
      </div>
    }
    @for (list of lists; track list.name) {
      @if (list.paged.problem(); as problem) {
        @if ($first) {
          <p class="problem-text">{{ problem }}</p>
        }
      } @else if (list.paged.isRead() && ($first || list.paged.total() > 0)) {
        <h3>
          {{ list.title }} <span class="count">{{ wording.number(list.paged.total()) }}</span>
        </h3>
        <ul [class]="list.name">
          @for (use of list.shown(); track $index) {
            <li>
              <i [class]="use.icon" aria-hidden="true"></i>
              <a [routerLink]="use.commands" [queryParams]="use.query">{{ use.title }}</a>
              <span class="how">{{ use.how }}</span>
            </li>
          } @empty {
            <li class="how">{{ isLong() ? 'No use fits.' : 'Nothing refers to it yet.' }}</li>
          }
          @if (list.paged.hasMore()) {
            <li class="how" (alMore)="list.paged.more()">Reading more …</li>
          }
        </ul>
      }
    }
  `,
  styles: `
    h3 {
      font: 600 0.95rem/1.2 var(--sans);
      margin: 0.4rem 0;
    }
    .count {
      color: var(--soft);
      font-weight: 500;
    }
    ul {
      list-style: none;
      margin: 0 0 0.9rem;
      padding: 0;
    }
    li {
      padding: 0.22rem 0;
      border-bottom: 1px solid var(--line);
    }
    i {
      color: var(--soft);
      font-size: 0.85rem;
      margin-right: 0.3rem;
    }
    a {
      color: var(--accent);
      font-weight: 600;
    }
    .filters {
      display: flex;
      flex-wrap: wrap;
      gap: 0.4rem;
    }
    .filters input {
      flex: 1 1 8rem;
      min-width: 0;
    }
    .how {
      color: var(--soft);
      font-size: 0.88rem;
      margin-left: 0.3rem;
    }
  `,
})
export class UsesPanel {
  private readonly api = inject(Api);
  protected readonly wording = inject(Wording);

  readonly component = input.required<string>();
  /** A change of this number reads the uses again. */
  readonly revision = input(0);

  protected readonly find = signal('');
  protected readonly kind = signal<ReferenceKind | null>(null);
  protected readonly order = signal<Order>('nearest');
  protected readonly kinds = [
    { label: 'Used anyhow', value: null },
    ...referenceKinds.map((value) => ({ label: value, value })),
  ];
  protected readonly orders: { label: string; value: Order }[] = [
    { label: 'Nearest first', value: 'nearest' },
    { label: 'By title', value: 'title' },
    { label: 'By how it is used', value: 'kind' },
  ];
  private readonly settledFind = toSignal(toObservable(this.find).pipe(debounceTime(200), distinctUntilChanged()), {
    initialValue: '',
  });
  private readonly question = computed(() => ({
    key: this.component(),
    revision: this.revision(),
    find: this.settledFind(),
    kind: this.kind() ?? undefined,
    order: this.order(),
  }));
  /** How many there were before anything was looked for: short lists need no looking. */
  private readonly most = linkedSignal<{ key: string; count: number }, { key: string; count: number }>({
    source: () => ({ key: this.component(), count: this.direct.total() + this.further.total() }),
    computation: (now, before) => ({
      key: now.key,
      count: before?.value.key === now.key ? Math.max(before.value.count, now.count) : now.count,
    }),
  });
  protected readonly isLong = computed(() => this.most().count > 12);

  // The first page of both comes in one answer.
  private readonly first = new Map<string, Observable<Uses>>();
  private readonly direct = new Paged(this.question, (question, offset) =>
    this.read(question, { direct: offset }).pipe(
      map(({ direct, directTotal }) => ({ items: direct, total: directTotal })),
    ),
  );
  private readonly further = new Paged(this.question, (question, offset) =>
    this.read(question, { further: offset }).pipe(
      map(({ further, furtherTotal }) => ({ items: further, total: furtherTotal })),
    ),
  );
  protected readonly lists = [
    { name: 'direct', title: 'Directly', paged: this.direct, shown: computed(() => this.direct.items().map(showUse)) },
    {
      name: 'further',
      title: 'Through others',
      paged: this.further,
      shown: computed(() => this.further.items().map(showUse)),
    },
  ];

  private read(
    { key, find, kind, order, revision }: ReturnType<typeof this.question>,
    offset: { readonly direct?: number; readonly further?: number },
  ): Observable<Uses> {
    const query = { find, kind, order, ...offset };
    if (Object.values(offset).some((each) => each > 0)) return this.api.uses(key, query);
    const name = JSON.stringify([key, revision, find, kind, order]);
    const shared =
      this.first.get(name) ??
      this.api.uses(key, { find, kind, order }).pipe(
        finalize(() => this.first.delete(name)),
        share(),
      );
    this.first.set(name, shared);
    return shared;
  }
}

/** What the setting of a design is called in which a use stands. */
function settingTitle(place: string | null): string {
  const { setting } = settingOf(place ?? '') ?? {};
  return setting ? `${setting.under}, ${setting.title}` : '';
}

function showUse(use: Use): ShownUse {
  const how = [
    use.kind,
    use.held === null ? '' : `held at revision ${use.held}`,
    use.through.length === 0 ? '' : `through ${use.through.map((each) => `“${each.title}”`).join(' › ')}`,
  ].filter((part) => part !== '');
  if (use.sourceKind === 'publication') {
    return {
      title: use.title,
      icon: 'pi pi-book',
      commands: ['/publications', use.source],
      query: use.place === null ? {} : { entry: use.place },
      how: how.join(', '),
    };
  }
  if (use.sourceKind === 'design') {
    return {
      title: use.title,
      icon: 'pi pi-palette',
      commands: ['/design'],
      query: { design: use.source },
      how: [settingTitle(use.place), how.join(', ')].filter((part) => part !== '').join(', '),
    };
  }
  const kind = use.componentKind ?? 'topic';
  const { commands, query } = componentAddress(kind, use.source);
  return {
    title: use.title,
    icon: kindIcons[kind],
    commands,
    query: { ...query, ...(use.place === null || kind === 'variable' ? {} : { block: use.place }) },
    how: how.join(', '),
  };
}
