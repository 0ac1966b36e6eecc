import {
  ChangeDetectionStrategy,
  Component,
  computed,
  effect,
  inject,
  input,
  linkedSignal,
  signal,
  untracked,
  viewChild,
} from '@angular/core';
import { rxResource, takeUntilDestroyed } from '@angular/core/rxjs-interop';
import { FormsModule } from '@angular/forms';
import { Router } from '@angular/router';
import {
  chosenRule,
  textOf,
  type Component as LibraryComponent,
  type ContentNode,
  type VariableBody,
  type VariableList,
} from '@allomorph/core';
import { Button } from 'primeng/button';
import { InputText } from 'primeng/inputtext';
import { Select } from 'primeng/select';
import { TableModule } from 'primeng/table';
import { debounceTime } from 'rxjs';
import { EditorLibrary } from '../editor/editor-library';
import { NewComponentDialog } from '../library/new-component';
import { addressState } from '../shared/address-state';
import { Api, problemText } from '../shared/api';
import { latest } from '../shared/latest';
import { Lens } from '../shared/lens';
import { More } from '../shared/more';
import { ServerEvents } from '../shared/server-events';
import { Session } from '../shared/session';
import type { HoldsWork } from '../shared/unsaved.guard';
import { SidePane } from '../shared/side-pane';
import { Viewport } from '../shared/viewport';
import { Wording } from '../shared/wording';
import { LaneChips } from '../shared/lane-chips';
import { VariableEditor } from './variable-editor';
import { VariableGrid } from './variable-grid';

interface Case {
  readonly when: string | null;
  readonly language: string;
  readonly value: string;
  /** Whether it is the one that the lens uses. */
  readonly used: boolean;
}

interface Row {
  readonly component: LibraryComponent;
  readonly otherwise: string | null;
  readonly otherwiseUsed: boolean;
  readonly cases: readonly Case[];
  readonly uses: number;
}

const rowsAtOnce = 50;

/** All variables with their values case by case; one at a time is edited beside the grid. */
@Component({
  selector: 'al-variables',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [
    FormsModule,
    Button,
    InputText,
    TableModule,
    LaneChips,
    More,
    NewComponentDialog,
    Select,
    SidePane,
    VariableEditor,
    VariableGrid,
  ],
  providers: [EditorLibrary],
  template: `
    <section class="list" aria-label="Variables">
      <div class="place-head">
        <h1>Variables</h1>
        <span class="total">{{ wording.number(shown().length) }}</span>
        <input
          pInputText
          type="search"
          aria-label="Find a variable"
          placeholder="Find by name or value"
          [ngModel]="find.value()"
          (ngModelChange)="find.set($event)"
        />
        <p-select
          ariaLabel="What the columns are"
          [options]="columnChoices()"
          optionLabel="label"
          optionValue="value"
          appendTo="body"
          [ngModel]="by.value()"
          (ngModelChange)="by.set($event)"
        />
        <span class="grow"></span>
        @if (session.mayWrite()) {
          <p-button label="New variable" icon="pi pi-plus" (onClick)="newOpen.set(true)" />
        }
      </div>
      @if (by.value() !== '') {
        <al-variable-grid
          [by]="by.value()"
          [components]="drawnComponents()"
          [say]="sayValue"
          [hasMore]="drawn().length < shown().length"
          [nothing]="nothing()"
          (more)="more()"
          (chosen)="chooseKey($event)"
          (saved)="reload()"
        />
      } @else {
        <p-table
          [value]="drawn()"
          dataKey="component.key"
          [scrollable]="true"
          scrollHeight="flex"
          selectionMode="single"
          [selection]="chosenRow()"
          (selectionChange)="$event && choose($event)"
          [tableStyle]="{ 'table-layout': 'fixed' }"
        >
          <ng-template #header>
            <tr>
              <th [style.width]="viewport.slim() ? '42%' : '27%'">Variable</th>
              <th [style.width]="viewport.slim() ? 'auto' : '26%'">Default</th>
              @if (!viewport.slim()) {
                <th>Cases</th>
              }
              <th style="width: 4.5rem" class="number">Uses</th>
            </tr>
          </ng-template>
          <ng-template #body let-row>
            <tr [pSelectableRow]="row">
              <td>
                <b>{{ row.component.title }}</b><br /><span class="mono key">{{ row.component.key }}</span>
              </td>
              <td [class.used]="row.otherwiseUsed">
                @if (row.otherwise === null) {
                  <span class="none">no default</span>
                } @else {
                  {{ row.otherwise }}
                }
              </td>
              @if (!viewport.slim()) {
                <td>
                  @for (each of row.cases; track $index) {
                    <div class="case" [class.used]="each.used">
                      <span class="when">
                        @if (each.when) {
                          <al-lane-chips [conditions]="[each.when]" />
                        }
                        {{ each.language }}
                      </span>
                      <span>{{ each.value }}</span>
                    </div>
                  } @empty {
                    <span class="none">the same everywhere</span>
                  }
                </td>
              }
              <td class="number" [class.unused]="row.uses === 0">{{ row.uses === 0 ? 'none' : row.uses }}</td>
            </tr>
          </ng-template>
          <ng-template #footer>
            @if (drawn().length < shown().length) {
              <tr>
                <td [attr.colspan]="viewport.slim() ? 3 : 4" class="none" (alMore)="more()">Reading more …</td>
              </tr>
            }
          </ng-template>
          <ng-template #emptymessage>
            <tr>
              <td colspan="4">
                <p class="empty">
                  {{ nothing() }} Variables hold product names, ratings, phone numbers: whatever is said often and may
                  change.
                </p>
              </td>
            </tr>
          </ng-template>
        </p-table>
      }
    </section>
    @if (chosen(); as component) {
      <al-side-pane class="side-pane" name="Variable" [open]="true" (openChange)="closeDrawer($event)">
        <al-variable-editor
          [component]="component"
          (saved)="reload()"
          (closed)="choose(null)"
          (rekeyed)="created($event)"
          (changing)="dirty.set($event)"
        />
      </al-side-pane>
    }
    <al-new-component [(open)]="newOpen" (created)="created($event)" />
  `,
  styles: `
    :host {
      display: flex;
      height: 100%;
    }
    .list {
      flex: 1;
      min-width: 0;
      display: flex;
      flex-direction: column;
    }
    .place-head input {
      width: 16rem;
      margin-left: 0.8rem;
    }
    .total,
    .key,
    .none {
      color: var(--soft);
    }
    p-table {
      flex: 1;
      min-height: 0;
      padding-left: 0.5rem;
    }
    .case {
      display: grid;
      grid-template-columns: 7rem minmax(0, 1fr);
      gap: 0.6rem;
      padding: 0.1rem 0 0.1rem 0.5rem;
    }
    .when {
      color: var(--soft);
    }
    .used {
      background: color-mix(in srgb, var(--lens) 7%, transparent);
      box-shadow: inset 4px 0 0 var(--lens);
      font-weight: 600;
    }
    .number {
      text-align: right;
    }
    .unused {
      color: var(--warn);
    }
    .side-pane {
      width: 30rem;
      flex: none;
    }
    al-variable-editor {
      min-height: 100%;
      border-left: 1px solid var(--line);
      background: var(--paper-deep);
    }
    .place-head {
      flex-wrap: wrap;
    }
  `,
})
export class VariablesPlace implements HoldsWork {
  private readonly api = inject(Api);
  private readonly lens = inject(Lens);
  private readonly library = inject(EditorLibrary);
  private readonly router = inject(Router);
  protected readonly session = inject(Session);

  /** The variable to edit, from the address. */
  readonly key = input<string>();

  private readonly editor = viewChild(VariableEditor);
  protected readonly viewport = inject(Viewport);
  protected readonly wording = inject(Wording);
  protected readonly find = addressState('find');
  /** What the columns of the grid are; the empty text: there is a list of cases instead. */
  protected readonly by = addressState('by');
  protected readonly columnChoices = computed(() => [
    { label: 'Cases in a list', value: '' },
    ...this.lens.axes().map(({ key, title }) => ({ label: `A column for each ${title.toLowerCase()}`, value: key })),
    { label: 'A column for each language', value: '@languages' },
    { label: 'A column for each variant', value: '@variants' },
  ]);
  protected readonly newOpen = signal(false);
  protected readonly dirty = signal(false);
  private readonly readings = signal(0);
  protected readonly variables = rxResource({
    params: () => this.readings(),
    stream: () => this.api.variables(),
  });
  /** What was read last: the list does not go away while it is read anew. */
  private readonly held = latest<VariableList>(this.variables, { variables: [], components: [] });
  private readonly titles = computed(
    () => new Map(this.held().variables.map(({ component }) => [component.key, component.title])),
  );
  private readonly rows = computed<readonly Row[]>(() => {
    const selector = this.lens.selector();
    const language = this.lens.recipe()?.language ?? 'en';
    return this.held().variables.map(({ component, uses }) => {
      const body = component.body as VariableBody;
      const used = selector
        ? chosenRule(
            body,
            (when) => selector.holds(when),
            () => language,
          )
        : -2;
      return {
        component,
        uses,
        otherwise: body.default ? this.say(body.default) : null,
        otherwiseUsed: used === -1,
        cases: body.rules.map((rule, index) => ({
          when: rule.when,
          language: rule.language ?? '',
          value: this.say(rule.value),
          used: index === used,
        })),
      };
    });
  });
  protected readonly shown = computed(() => {
    const wanted = this.find.value().trim().toLowerCase();
    if (wanted === '') return [...this.rows()];
    return this.rows().filter(({ component, otherwise, cases }) =>
      [component.title, component.key, otherwise ?? '', ...cases.map((each) => each.value)].some((text) =>
        text.toLowerCase().includes(wanted),
      ),
    );
  });
  /** How many rows are drawn; the table goes on as it is scrolled, and begins anew when something else is found. */
  private readonly drawnCount = linkedSignal({ source: () => this.find.value(), computation: () => rowsAtOnce });
  protected readonly drawn = computed(() => this.shown().slice(0, this.drawnCount()));
  /** Said where no row stands. */
  protected readonly nothing = computed(() => {
    const error = this.variables.error();
    if (error) return problemText(error);
    return this.variables.isLoading() ? 'Reading the variables …' : 'No variable fits.';
  });
  protected readonly drawnComponents = computed(() => this.drawn().map(({ component }) => component));
  protected readonly sayValue = (value: ContentNode): string => this.say(value);
  protected readonly chosenRow = computed(() => this.rows().find((row) => row.component.key === this.key()) ?? null);
  protected readonly chosen = computed(() => this.chosenRow()?.component ?? null);

  constructor() {
    this.lens.hidden.set(null);
    effect(() => {
      const read = this.held();
      untracked(() => this.library.addAll([...read.components, ...read.variables.map(({ component }) => component)]));
    });
    inject(ServerEvents)
      .of('component', 'missed')
      .pipe(debounceTime(400), takeUntilDestroyed())
      .subscribe(() => this.readings.update((count) => count + 1));
  }

  hasUnsavedWork(): boolean {
    return this.dirty();
  }

  discardWork(): void {
    this.editor()?.discard();
  }

  protected choose(row: Row | null): void {
    this.chooseKey(row?.component.key ?? null);
  }

  protected chooseKey(key: string | null): void {
    void this.router.navigate(['/variables'], { queryParams: { key }, queryParamsHandling: 'merge' });
  }

  protected more(): void {
    this.drawnCount.update((count) => count + rowsAtOnce);
  }

  protected closeDrawer(isOpen: boolean): void {
    if (!isOpen) this.choose(null);
  }

  protected reload(): void {
    this.readings.update((count) => count + 1);
  }

  protected created(component: LibraryComponent): void {
    this.readings.update((count) => count + 1);
    void this.router.navigate(component.kind === 'variable' ? ['/variables'] : ['/edit', component.key], {
      queryParams: component.kind === 'variable' ? { key: component.key } : {},
    });
  }

  /** A value as text, with the titles of the variables and phrases in it. */
  private say(value: ContentNode): string {
    return textOf(value, (leaf) => {
      const key = leaf.attrs?.['key'] ?? leaf.attrs?.['component'];
      if (typeof key !== 'string') return '';
      const title = this.titles().get(key);
      return `‹${title ?? key}›`;
    });
  }
}
