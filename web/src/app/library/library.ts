import { DatePipe } from '@angular/common';
import { ChangeDetectionStrategy, Component, computed, effect, inject, signal } from '@angular/core';
import { rxResource, takeUntilDestroyed, toObservable, toSignal } from '@angular/core/rxjs-interop';
import { FormsModule } from '@angular/forms';
import { Router, RouterLink } from '@angular/router';
import type { Component as LibraryComponent, ComponentKind, ComponentRow, ImageBody, LinkBody } from '@allomorph/core';
import { Button } from 'primeng/button';
import { InputText } from 'primeng/inputtext';
import { Select } from 'primeng/select';
import { SelectButton } from 'primeng/selectbutton';
import { Splitter } from 'primeng/splitter';
import { TableModule, type TableLazyLoadEvent } from 'primeng/table';
import { debounceTime, distinctUntilChanged } from 'rxjs';
import { Api, problemText } from '../shared/api';
import { Deletion } from '../shared/deletion';
import { componentAddress, kindIcons, kindNames } from '../shared/kinds';
import { LaneChips } from '../shared/lane-chips';
import { Lens } from '../shared/lens';
import { Notices } from '../shared/notices';
import { imageAddress } from '../shared/reading';
import { ReadingView } from '../shared/reading-view';
import { ServerEvents } from '../shared/server-events';
import { Session } from '../shared/session';
import { UsesPanel } from '../shared/uses-panel';
import { NewComponentDialog } from './new-component';

const pageSize = 100;
type Usage = 'any' | 'unused' | 'once' | 'often';

/** Everything reusable: find it, see how it reads and where it is used, open or delete it. */
@Component({
  selector: 'al-library',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [
    DatePipe,
    FormsModule,
    RouterLink,
    Button,
    InputText,
    Select,
    SelectButton,
    Splitter,
    TableModule,
    LaneChips,
    NewComponentDialog,
    ReadingView,
    UsesPanel,
  ],
  template: `
    <p-splitter
      stateKey="allomorph.library"
      stateStorage="local"
      [panelSizes]="[64, 36]"
      [minSizes]="[35, 22]"
      styleClass="whole"
    >
      <ng-template #panel>
        <section class="list" aria-label="Components">
          <div class="place-head">
            <h1>Library</h1>
            <span class="total" aria-live="polite">{{ total() }}</span>
            <span class="grow"></span>
            @if (session.mayWrite()) {
              <p-button label="New component" icon="pi pi-plus" (onClick)="newOpen.set(true)" />
            }
          </div>
          <div class="filters">
            <input
              pInputText
              type="search"
              aria-label="Find in the library"
              placeholder="Find in titles and text"
              [ngModel]="find()"
              (ngModelChange)="find.set($event)"
            />
            <p-selectbutton
              size="small"
              [options]="kinds"
              optionLabel="label"
              optionValue="value"
              [allowEmpty]="false"
              [ngModel]="kindFilter()"
              (ngModelChange)="kindFilter.set($event)"
              ariaLabel="Kind"
            />
            <p-select
              [options]="usages"
              optionLabel="label"
              optionValue="value"
              [ngModel]="usage()"
              (ngModelChange)="usage.set($event)"
              ariaLabel="Usage"
            />
          </div>
          <p-table
            [value]="rows()"
            dataKey="key"
            [scrollable]="true"
            scrollHeight="flex"
            [virtualScroll]="true"
            [virtualScrollItemSize]="58"
            [lazy]="true"
            [totalRecords]="total()"
            (onLazyLoad)="loadRows($event)"
            selectionMode="single"
            [selection]="selected()"
            (selectionChange)="select($event)"
            [tableStyle]="{ 'table-layout': 'fixed' }"
          >
            <ng-template #header>
              <tr>
                <th>Component</th>
                <th style="width: 8.5rem">Limited to</th>
                <th style="width: 5rem" class="number">Uses</th>
                <th style="width: 9.5rem">Last change</th>
              </tr>
            </ng-template>
            <ng-template #body let-row>
              @if (row) {
                <tr [pSelectableRow]="row" style="height: 58px" (dblclick)="openRow(row)">
                  <td>
                    <span class="title"
                      ><i [class]="icons[asRow(row).kind]" [title]="names[asRow(row).kind]"></i>{{ row.title }}</span
                    >
                    <span class="excerpt">{{ row.excerpt }}</span>
                  </td>
                  <td><al-lane-chips [conditions]="row.conditions" /></td>
                  <td class="number" [class.unused]="row.uses === 0">{{ row.uses === 0 ? 'none' : row.uses }}</td>
                  <td class="changed">{{ row.changedAt | date: 'd MMM y' }}<br />{{ row.changedBy || 'imported' }}</td>
                </tr>
              } @else {
                <tr style="height: 58px">
                  <td colspan="4" class="changed">loading …</td>
                </tr>
              }
            </ng-template>
            <ng-template #emptymessage>
              <tr>
                <td colspan="4">
                  <p class="empty">
                    @if (!isRead()) {
                      Reading the library …
                    } @else if (find() || kindFilter() || usage() !== 'any') {
                      Nothing in the library fits. Take a filter away, or make a new component.
                    } @else {
                      The library is empty. Begin with a topic, or import a manual under Publications.
                    }
                  </p>
                </td>
              </tr>
            </ng-template>
          </p-table>
        </section>
      </ng-template>
      <ng-template #panel>
        <aside class="preview" aria-label="Selected component">
          @if (selected(); as row) {
            <div class="place-head">
              <h2>{{ row.title }}</h2>
            </div>
            <p class="meta">
              {{ names[row.kind] }} <span class="mono">{{ row.key }}</span>, revision {{ row.revision }}
            </p>
            <div class="actions">
              <a class="open" [routerLink]="address(row).commands" [queryParams]="address(row).query">
                <i class="pi pi-pencil" aria-hidden="true"></i> {{ session.mayWrite() ? 'Open' : 'Read' }}
              </a>
              @if (session.mayWrite()) {
                <p-button
                  label="Delete"
                  icon="pi pi-trash"
                  severity="danger"
                  size="small"
                  [text]="true"
                  (onClick)="remove(row)"
                />
              }
            </div>
            @if (closure.error(); as error) {
              <p class="problem-text">{{ text(error) }}</p>
            } @else if (closure.hasValue() && closure.value(); as shown) {
              <div class="sheet">
                @if (row.kind === 'topic' || row.kind === 'snippet') {
                  <al-reading-view [closure]="shown" />
                } @else if (row.kind === 'image') {
                  <img [src]="image(shown.component).src" [alt]="image(shown.component).alt" />
                  <p class="meta">{{ image(shown.component).alt || 'No alternative text yet.' }}</p>
                } @else if (row.kind === 'link') {
                  <p>
                    <span class="mono">{{ link(shown.component).href }}</span>
                  </p>
                } @else {
                  <p class="content">{{ row.excerpt || 'No value yet.' }}</p>
                }
              </div>
            }
            <h2 class="uses-head">Where used</h2>
            <al-uses-panel [component]="row.key" [revision]="usesRead()" />
          } @else {
            <p class="empty">Choose a component to see how it reads and where it is used.</p>
          }
        </aside>
      </ng-template>
    </p-splitter>
    <al-new-component [(open)]="newOpen" (created)="open($event)" />
  `,
  styles: `
    :host,
    :host ::ng-deep .whole {
      display: flex;
      height: 100%;
      width: 100%;
    }
    .list {
      display: flex;
      flex-direction: column;
      height: 100%;
      width: 100%;
      min-width: 0;
    }
    .total {
      color: var(--soft);
      font-size: 1.1rem;
    }
    .filters {
      display: flex;
      gap: 0.6rem;
      padding: 0 1.2rem 0.7rem;
      flex-wrap: nowrap;
    }
    .filters input {
      flex: 1 1 9rem;
      min-width: 0;
    }
    .filters ::ng-deep .p-togglebutton,
    .filters ::ng-deep .p-togglebutton-content {
      padding: 0.12rem 0.4rem;
    }
    td {
      padding: 0.2rem 0.8rem;
      overflow: hidden;
    }
    p-table {
      flex: 1;
      min-height: 0;
      padding-left: 0.5rem;
    }
    .title {
      font-weight: 650;
      display: block;
      overflow: hidden;
      text-overflow: ellipsis;
      white-space: nowrap;
    }
    .title i {
      color: var(--accent);
      margin-right: 0.5rem;
      font-size: 0.95rem;
    }
    .excerpt {
      color: var(--soft);
      font-size: 0.88rem;
      display: block;
      overflow: hidden;
      text-overflow: ellipsis;
      white-space: nowrap;
      padding-left: 1.45rem;
    }
    .number {
      text-align: right;
    }
    .unused {
      color: var(--warn);
    }
    .changed {
      color: var(--soft);
      font-size: 0.86rem;
      line-height: 1.25;
    }
    .preview {
      overflow: auto;
      height: 100%;
      width: 100%;
      padding: 0 1.2rem 2rem;
      background: var(--paper-deep);
    }
    .preview .place-head {
      padding: 0.9rem 0 0.2rem;
    }
    .preview h2 {
      font: 600 1.25rem/1.2 var(--serif);
      margin: 0;
    }
    .uses-head {
      margin: 1.2rem 0 0.4rem !important;
    }
    .meta {
      color: var(--soft);
      margin: 0 0 0.5rem;
    }
    .actions {
      display: flex;
      gap: 0.5rem;
      align-items: center;
      margin-bottom: 0.7rem;
    }
    .open {
      background: var(--accent);
      color: var(--paper);
      font-weight: 600;
      border-radius: 3px;
      padding: 0.3rem 0.9rem;
      text-decoration: none;
    }
    .open i {
      font-size: 0.85rem;
    }
    .sheet {
      background: var(--sheet);
      border: 1px solid var(--line);
      padding: 1.1rem 1.3rem;
      max-height: 24rem;
      overflow: auto;
    }
    .sheet img {
      max-width: 100%;
    }
  `,
})
export class LibraryPlace {
  private readonly api = inject(Api);
  private readonly lens = inject(Lens);
  private readonly router = inject(Router);
  private readonly notices = inject(Notices);
  private readonly deletion = inject(Deletion);
  protected readonly session = inject(Session);

  protected readonly names = kindNames;
  protected readonly icons = kindIcons;
  protected readonly kinds: { label: string; value: ComponentKind | '' }[] = [
    { label: 'All', value: '' },
    { label: 'Topics', value: 'topic' },
    { label: 'Snippets', value: 'snippet' },
    { label: 'Variables', value: 'variable' },
    { label: 'Images', value: 'image' },
    { label: 'Links', value: 'link' },
  ];
  protected readonly usages: { label: string; value: Usage }[] = [
    { label: 'Used or not', value: 'any' },
    { label: 'Unused', value: 'unused' },
    { label: 'Used once', value: 'once' },
    { label: 'Used often', value: 'often' },
  ];
  protected readonly find = signal('');
  protected readonly kindFilter = signal<ComponentKind | ''>('');
  protected readonly usage = signal<Usage>('any');
  protected readonly total = signal(0);
  protected readonly rows = signal<(ComponentRow | undefined)[]>([]);
  protected readonly selected = signal<ComponentRow | null>(null);
  protected readonly usesRead = signal(0);
  protected readonly newOpen = signal(false);
  protected readonly text = problemText;
  private readonly settledFind = toSignal(toObservable(this.find).pipe(debounceTime(200), distinctUntilChanged()), {
    initialValue: '',
  });
  private readonly filter = computed(() => ({
    find: this.settledFind(),
    kind: this.kindFilter() || undefined,
    usage: this.usage(),
  }));
  /** Whether anything was read yet: until then nothing is said of what there is. */
  protected readonly isRead = signal(false);
  private reading = 0;
  protected readonly closure = rxResource({
    params: () => {
      const row = this.selected();
      return row ? { key: row.key, revision: row.revision } : undefined;
    },
    stream: ({ params }) => this.api.closure(params.key),
  });

  constructor() {
    this.lens.hidden.set(null);
    effect(() => {
      this.filter();
      this.reload();
    });
    inject(ServerEvents)
      .of('component')
      .pipe(debounceTime(400), takeUntilDestroyed())
      .subscribe(() => {
        this.reload();
        this.usesRead.update((count) => count + 1);
      });
  }

  protected asRow(row: unknown): ComponentRow {
    return row as ComponentRow;
  }

  protected address(row: ComponentRow): ReturnType<typeof componentAddress> {
    return componentAddress(row.kind, row.key);
  }

  protected image(component: LibraryComponent): { src: string; alt: string } {
    const { file, alt } = component.body as ImageBody;
    return { src: imageAddress(file), alt };
  }

  protected link(component: LibraryComponent): LinkBody {
    return component.body as LinkBody;
  }

  protected select(row: ComponentRow | null): void {
    if (row) this.selected.set(row);
  }

  protected loadRows(event: TableLazyLoadEvent): void {
    const first = Math.floor((event.first ?? 0) / pageSize) * pageSize;
    const last = (event.first ?? 0) + (event.rows ?? pageSize);
    for (let offset = first; offset < Math.max(last, first + 1); offset += pageSize) {
      if (!this.rows()[offset]) this.loadPage(offset);
    }
  }

  protected openRow(row: ComponentRow): void {
    const { commands, query } = this.address(row);
    void this.router.navigate([...commands], { queryParams: query ?? {} });
  }

  protected open(component: LibraryComponent): void {
    const { commands, query } = componentAddress(component.kind, component.key);
    void this.router.navigate([...commands], { queryParams: query ?? {} });
  }

  protected remove(row: ComponentRow): void {
    const done = (): void => {
      this.selected.set(null);
      this.reload();
    };
    this.deletion.component(row, done, () => this.reload());
  }

  private reload(): void {
    this.reading += 1;
    this.loadPage(0, true);
  }

  private loadPage(offset: number, anew = false): void {
    const reading = this.reading;
    this.api.components({ ...this.filter(), offset, limit: pageSize }).subscribe({
      next: ({ total, items }) => {
        // An answer to an earlier filter comes too late.
        if (reading !== this.reading) return;
        this.isRead.set(true);
        const rows = anew ? Array.from<ComponentRow | undefined>({ length: total }) : [...this.rows()];
        items.forEach((item, index) => (rows[offset + index] = item));
        this.rows.set(rows);
        this.total.set(total);
      },
      error: (error: unknown) => this.notices.failed(error),
    });
  }
}
