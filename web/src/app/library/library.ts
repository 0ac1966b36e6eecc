import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import { rxResource, takeUntilDestroyed, toObservable, toSignal } from '@angular/core/rxjs-interop';
import { FormsModule } from '@angular/forms';
import { Router, RouterLink } from '@angular/router';
import {
  isVariableBody,
  plainText,
  type Component as LibraryComponent,
  type ComponentKind,
  type ComponentRow,
  type ImageBody,
  type LinkBody,
} from '@allomorph/core';
import { Button } from 'primeng/button';
import { InputText } from 'primeng/inputtext';
import { Select } from 'primeng/select';
import { SelectButton } from 'primeng/selectbutton';
import { Splitter } from 'primeng/splitter';
import { TableModule } from 'primeng/table';
import { debounceTime, distinctUntilChanged } from 'rxjs';
import { addressState } from '../shared/address-state';
import { Api, problemText } from '../shared/api';
import { Deletion } from '../shared/deletion';
import { componentAddress, kindIcons, kindNames } from '../shared/kinds';
import { LaneChips } from '../shared/lane-chips';
import { LazyRows } from '../shared/lazy-rows';
import { Lens } from '../shared/lens';
import { imageAddress } from '../shared/image-address';
import { ReadingView } from '../shared/reading-view';
import { ServerEvents } from '../shared/server-events';
import { Session } from '../shared/session';
import { SidePane } from '../shared/side-pane';
import { UsesPanel } from '../shared/uses-panel';
import { Viewport } from '../shared/viewport';
import { TimePipe, Wording } from '../shared/wording';
import { NewComponentDialog } from './new-component';

type Usage = 'any' | 'unused' | 'once' | 'often';

/** Everything reusable: find it, see how it reads and where it is used, open or delete it. */
@Component({
  selector: 'al-library',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [
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
    SidePane,
    TimePipe,
    ReadingView,
    UsesPanel,
  ],
  template: `
    <p-splitter
      stateKey="allomorph.library"
      stateStorage="local"
      [panelSizes]="[64, 36]"
      [minSizes]="[35, 22]"
      [styleClass]="viewport.narrow() ? 'whole one' : 'whole'"
    >
      <ng-template #panel>
        <section class="list" aria-label="Components">
          <div class="place-head">
            <h1>Library</h1>
            <span class="total" aria-live="polite">{{ wording.number(list.total()) }}</span>
            @if (viewport.narrow() && chosen.value()) {
              <p-button label="Preview" size="small" [outlined]="true" (onClick)="previewOpen.set(true)" />
            }
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
              [ngModel]="find.value()"
              (ngModelChange)="find.set($event)"
            />
            <p-selectbutton
              size="small"
              [options]="kinds"
              optionLabel="label"
              optionValue="value"
              [allowEmpty]="false"
              [ngModel]="kindFilter.value()"
              (ngModelChange)="kindFilter.set($event, true)"
              ariaLabel="Kind"
            />
            <p-select
              [options]="usages"
              optionLabel="label"
              optionValue="value"
              [ngModel]="usage.value()"
              (ngModelChange)="usage.set($event, true)"
              ariaLabel="Usage"
            />
            @if (stamps().length > 1) {
              <p-select
                [options]="stamps()"
                optionLabel="title"
                optionValue="key"
                [ngModel]="stamp.value()"
                (ngModelChange)="stamp.set($event, true)"
                ariaLabel="Stamp"
              />
            }
          </div>
          <p-table
            [value]="list.rows()"
            dataKey="key"
            [scrollable]="true"
            scrollHeight="flex"
            [virtualScroll]="true"
            [virtualScrollItemSize]="58"
            [lazy]="true"
            [totalRecords]="list.total()"
            (onLazyLoad)="list.show($event)"
            selectionMode="single"
            [selection]="selected()"
            (selectionChange)="select($event)"
            [tableStyle]="{ 'table-layout': 'fixed' }"
          >
            <ng-template #header>
              <tr>
                <th>Component</th>
                @if (!viewport.slim()) {
                  <th style="width: 8.5rem">Limited to</th>
                }
                <th style="width: 4.5rem" class="number">Uses</th>
                @if (!viewport.slim()) {
                  <th style="width: 9.5rem">Last change</th>
                }
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
                  @if (!viewport.slim()) {
                    <td><al-lane-chips [conditions]="row.conditions" /></td>
                  }
                  <td class="number" [class.unused]="row.uses === 0">{{ row.uses === 0 ? 'none' : row.uses }}</td>
                  @if (!viewport.slim()) {
                    <td class="changed" [title]="row.changedAt | alTime: 'exact'">
                      {{ row.changedAt | alTime: 'day' }}<br />{{ row.changedBy || 'imported' }}
                    </td>
                  }
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
                    @if (list.problem(); as text) {
                      {{ text }}
                    } @else if (!list.isRead()) {
                      Reading the library …
                    } @else if (find.value() || kindFilter.value() || usage.value() !== 'any' || stamp.value()) {
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
        <al-side-pane name="Selected component" [(open)]="previewOpen">
          <div class="preview">
            @if (closure.error(); as error) {
              <p class="empty problem-text">{{ text(error) }}</p>
            } @else if (closure.hasValue() && closure.value(); as shown) {
              @let component = shown.component;
              <div class="place-head">
                <h2>{{ component.title }}</h2>
              </div>
              <p class="meta">
                {{ names[component.kind] }} <span class="mono">{{ component.key }}</span>, revision
                {{ component.revision }}
              </p>
              <div class="actions">
                <a class="open" [routerLink]="address(component).commands" [queryParams]="address(component).query">
                  <i class="pi pi-pencil" aria-hidden="true"></i> {{ session.mayWrite() ? 'Open' : 'Read' }}
                </a>
                @if (session.mayWrite()) {
                  <p-button
                    label="Delete"
                    icon="pi pi-trash"
                    severity="danger"
                    size="small"
                    [text]="true"
                    (onClick)="remove(component)"
                  />
                }
              </div>
              <div class="sheet" tabindex="0" role="region" aria-label="How it reads">
                @if (component.kind === 'topic' || component.kind === 'snippet') {
                  <al-reading-view [closure]="shown" />
                } @else if (component.kind === 'image') {
                  <img [src]="image(component).src" [alt]="image(component).alt" />
                  <p class="meta">{{ image(component).alt || 'No alternative text yet.' }}</p>
                } @else if (component.kind === 'link') {
                  <p>
                    <span class="mono">{{ link(component).href }}</span>
                  </p>
                } @else {
                  <p class="content">{{ valueOf(component) || 'No value yet.' }}</p>
                }
              </div>
              <h2 class="uses-head">Where used</h2>
              <al-uses-panel [component]="component.key" [revision]="usesRead()" />
            } @else if (chosen.value()) {
              <p class="empty">Reading …</p>
            } @else {
              <p class="empty">Choose a component to see how it reads and where it is used.</p>
            }
          </div>
        </al-side-pane>
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
      flex-wrap: wrap;
    }
    .filters input {
      flex: 1 1 9rem;
      min-width: 0;
    }
    .filters ::ng-deep .p-selectbutton {
      flex-wrap: wrap;
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
    /* The preview lies over the list as a drawer: the list has all the room. */
    :host ::ng-deep .one .p-splitterpanel:first-child {
      flex-basis: 100% !important;
    }
    :host ::ng-deep .one .p-splitterpanel:last-child,
    :host ::ng-deep .one .p-splitter-gutter {
      flex: 0 0 0 !important;
      width: 0;
      border: 0;
    }
    .preview {
      min-height: 100%;
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
  protected readonly viewport = inject(Viewport);
  protected readonly wording = inject(Wording);
  protected readonly find = addressState('find');
  protected readonly kindFilter = addressState('kind');
  protected readonly usage = addressState('usage', 'any');
  /** The stamp that all that is shown bears; empty: whatever it bears. */
  protected readonly stamp = addressState('stamp');
  protected readonly stamps = computed(() => [
    { key: '', title: 'Any stamp' },
    ...this.lens.variation().stamps.map(({ key, title }) => ({ key, title: `Stamp: ${title}` })),
  ]);
  /** The key of the component in the preview. */
  protected readonly chosen = addressState('chosen');
  protected readonly previewOpen = signal(false);
  protected readonly selected = computed(
    () => this.list.rows().find((row) => row?.key === this.chosen.value()) ?? null,
  );
  protected readonly usesRead = signal(0);
  protected readonly newOpen = signal(false);
  protected readonly text = problemText;
  private readonly settledFind = toSignal(
    toObservable(this.find.value).pipe(debounceTime(200), distinctUntilChanged()),
    {
      initialValue: this.find.value(),
    },
  );
  private readonly filter = computed(() => ({
    find: this.settledFind(),
    kind: this.kinds.find(({ value }) => value !== '' && value === this.kindFilter.value())?.value || undefined,
    stamp: this.stamps().find(({ key }) => key !== '' && key === this.stamp.value())?.key,
    usage: this.usages.find(({ value }) => value === this.usage.value())?.value ?? 'any',
  }));
  protected readonly list = new LazyRows(this.filter, (filter, offset, limit) =>
    this.api.components({ ...filter, offset, limit }),
  );
  protected readonly closure = rxResource({
    params: () => {
      const key = this.chosen.value();
      return key === '' ? undefined : { key, revision: this.selected()?.revision };
    },
    stream: ({ params }) => this.api.closure(params.key),
  });

  constructor() {
    this.lens.hidden.set(null);
    inject(ServerEvents)
      .of('component')
      .pipe(debounceTime(400), takeUntilDestroyed())
      .subscribe(() => {
        this.list.again();
        this.usesRead.update((count) => count + 1);
      });
  }

  protected asRow(row: unknown): ComponentRow {
    return row as ComponentRow;
  }

  protected address(row: Pick<ComponentRow, 'kind' | 'key'>): ReturnType<typeof componentAddress> {
    return componentAddress(row.kind, row.key);
  }

  protected image(component: LibraryComponent): { src: string; alt: string } {
    const { file, alt } = component.body as ImageBody;
    return { src: imageAddress(file), alt };
  }

  protected link(component: LibraryComponent): LinkBody {
    return component.body as LinkBody;
  }

  protected valueOf(component: LibraryComponent): string {
    return isVariableBody(component.body) && component.body.default ? plainText([component.body.default]) : '';
  }

  protected select(row: ComponentRow | null): void {
    if (!row) return;
    this.chosen.set(row.key, true);
    this.previewOpen.set(true);
  }

  protected openRow(row: ComponentRow): void {
    const { commands, query } = this.address(row);
    void this.router.navigate([...commands], { queryParams: query ?? {} });
  }

  protected open(component: LibraryComponent): void {
    const { commands, query } = componentAddress(component.kind, component.key);
    void this.router.navigate([...commands], { queryParams: query ?? {} });
  }

  protected remove(row: { readonly key: string; readonly title: string }): void {
    const done = (): void => {
      this.chosen.set('');
      this.previewOpen.set(false);
      this.list.again();
    };
    this.deletion.component(row, done, () => this.list.again());
  }
}
