import {
  ChangeDetectionStrategy,
  Component,
  computed,
  DestroyRef,
  effect,
  type ElementRef,
  inject,
  input,
  output,
  signal,
  untracked,
  viewChild,
} from '@angular/core';
import {
  flattenValues,
  valueInCase,
  type Component as LibraryComponent,
  type ContentNode,
  type VariableBody,
} from '@allomorph/core';
import { PhraseField } from '../editor/phrase-field';
import { LaneChips } from '../shared/lane-chips';
import { Lens } from '../shared/lens';
import { More } from '../shared/more';
import { Session } from '../shared/session';
import { CellSaves, isVariant, type CellPlace, type Column } from './cell-saves';

interface Cell {
  readonly value: ContentNode | null;
  readonly text: string;
  /** Whether it stands here and nowhere else. */
  readonly isOwn: boolean;
  readonly title: string;
}

interface OpenCell extends CellPlace {
  readonly value: ContentNode | null;
}

/** A row a variable, a column a case; a value is changed in its cell. */
@Component({
  selector: 'al-variable-grid',
  changeDetection: ChangeDetectionStrategy.OnPush,
  host: { '(keydown)': 'key($event)', '(focusout)': 'left($event)' },
  imports: [LaneChips, More, PhraseField],
  template: `
    <div class="frame" [attr.tabindex]="components().length > 0 ? -1 : 0">
      <table #table role="grid" aria-label="Variables by case">
        <thead>
          <tr>
            <th scope="col" class="first">Variable</th>
            @for (column of columns(); track column.id) {
              <th scope="col">
                @if (column.when) {
                  <al-lane-chips [conditions]="[column.when]" />
                }
                {{ column.title }}
              </th>
            }
          </tr>
        </thead>
        <tbody>
          @for (component of components(); track component.key) {
            <tr>
              <th scope="row" class="first">
                <button type="button" class="name" (click)="chosen.emit(component.key)">{{ component.title }}</button>
              </th>
              @for (column of columns(); track column.id) {
                @let cell = this.cell(component, column);
                <td [class.open]="isOpen(component, column)">
                  @if (isOpen(component, column)) {
                    <div class="field">
                      <al-phrase-field
                        [label]="component.title + ', ' + column.title"
                        [own]="component"
                        [value]="openedValue()"
                        (changed)="written = $event"
                      />
                      <span class="ends">
                        <button type="button" class="act" (click)="keep()">Keep</button>
                        @if (cell.isOwn && column.of !== 'default') {
                          <button type="button" class="act" (click)="takeAway()">As elsewhere</button>
                        }
                        <button type="button" class="act" (click)="close()">Cancel</button>
                      </span>
                    </div>
                  } @else {
                    <button
                      type="button"
                      class="cell"
                      [class.own]="cell.isOwn"
                      [title]="cell.title"
                      [attr.aria-label]="component.title + ', ' + column.title + ': ' + cell.text + ', ' + cell.title"
                      [attr.aria-disabled]="!mayChange(column)"
                      (click)="open(component, column)"
                    >
                      {{ cell.text }}
                    </button>
                  }
                </td>
              }
            </tr>
          } @empty {
            <tr>
              <td class="none" [attr.colspan]="columns().length + 1">{{ nothing() }}</td>
            </tr>
          }
        </tbody>
      </table>
      @if (hasMore()) {
        <p class="none" (alMore)="more.emit()">Reading more …</p>
      }
    </div>
  `,
  styles: `
    :host {
      flex: 1;
      min-height: 0;
      display: flex;
    }
    .frame {
      flex: 1;
      overflow: auto;
      padding-left: 0.5rem;
    }
    table {
      border-collapse: separate;
      border-spacing: 0;
    }
    th,
    td {
      border-bottom: 1px solid var(--line);
      padding: 0;
      text-align: left;
      vertical-align: top;
      min-width: 9rem;
      max-width: 18rem;
    }
    thead th {
      position: sticky;
      top: 0;
      z-index: 2;
      background: var(--paper);
      padding: 0.4rem 0.6rem;
      border-bottom: 2px solid var(--ink);
      vertical-align: bottom;
    }
    .first {
      position: sticky;
      left: 0;
      z-index: 1;
      background: var(--paper);
      min-width: min(14rem, 38vw);
      font-weight: 400;
    }
    thead .first {
      z-index: 3;
      font-weight: 600;
    }
    .cell,
    .name {
      display: block;
      width: 100%;
      min-height: 2rem;
      padding: 0.35rem 0.6rem;
      border: 0;
      background: none;
      color: var(--soft);
      font: inherit;
      text-align: left;
      cursor: pointer;
      overflow-wrap: anywhere;
    }
    .name {
      color: var(--ink);
      font-weight: 600;
    }
    .name:hover {
      color: var(--accent);
      text-decoration: underline;
    }
    .cell.own {
      color: var(--ink);
      font-weight: 600;
    }
    .cell[aria-disabled='true'] {
      cursor: default;
    }
    .cell:hover:not([aria-disabled='true']) {
      background: var(--paper-deep);
    }
    td.open {
      min-width: 16rem;
      background: var(--tint);
      padding: 0.2rem;
    }
    .ends {
      display: flex;
      gap: 0.8rem;
      padding: 0.15rem 0.3rem;
    }
    .none {
      color: var(--soft);
      padding: 0.6rem;
    }
  `,
})
export class VariableGrid {
  private readonly lens = inject(Lens);
  private readonly session = inject(Session);
  private readonly table = viewChild.required<ElementRef<HTMLTableElement>>('table');

  readonly components = input.required<readonly LibraryComponent[]>();
  /** The key of an axis, `@languages` or `@variants`. */
  readonly by = input.required<string>();
  readonly say = input.required<(value: ContentNode) => string>();
  readonly hasMore = input(false);
  /** Said where there is no row. */
  readonly nothing = input.required<string>();
  readonly more = output<void>();
  readonly chosen = output<string>();
  readonly saved = output<void>();

  private readonly opened = signal<OpenCell | null>(null);
  /** As it was when the cell was opened: what others save meanwhile takes away nothing that is being written. */
  protected readonly openedValue = computed(() => this.opened()?.value ?? null);
  /** What was written into the open cell; null: nothing yet. */
  protected written: ContentNode | null = null;

  protected readonly columns = computed<readonly Column[]>(() => {
    const by = this.by();
    const first: Column = { id: '', title: 'Default', when: null, of: 'default' };
    if (by === '@variants')
      return [first, ...this.lens.variants().map((of) => ({ id: of.id, title: of.title, when: null, of }))];
    if (by === '@languages') {
      const languages = [...new Set(this.lens.variants().map((variant) => variant.language))].sort();
      return [first, ...languages.map((language) => ({ id: language, title: language, when: null, of: { language } }))];
    }
    const axis = this.lens.axes().find(({ key }) => key === by);
    const values = axis ? flattenValues(axis) : [];
    return [
      first,
      ...values.map(({ value: { key, title } }) => ({
        id: key,
        title,
        when: `${JSON.stringify(by)} is ${JSON.stringify(key)}`,
        of: { axis: by, value: key },
      })),
    ];
  });

  private readonly saves = new CellSaves(
    (value) => this.say()(value),
    () => this.saved.emit(),
  );

  constructor() {
    // What was written into a cell is kept when one goes elsewhere.
    effect(() => {
      this.by();
      untracked(() => this.keep(false));
    });
    inject(DestroyRef).onDestroy(() => this.keep(false));
  }

  protected cell(component: LibraryComponent, { of }: Column): Cell {
    const body = component.body as VariableBody;
    if (of === 'default') return this.told(body.default, true, body.default ? 'the default' : 'no default');
    if (isVariant(of)) {
      const own = of.values[component.key] ?? null;
      return own ? this.told(own, true, 'said by the variant') : this.told(null, false, 'as the variable has it');
    }
    const { value, from } = valueInCase(body, of);
    const titles = { own: 'for just this case', wider: 'by a case for this and others', default: 'by the default' };
    return this.told(value, from === 'own', titles[from]);
  }

  protected isOpen(component: LibraryComponent, column: Column): boolean {
    const opened = this.opened();
    return opened?.component.key === component.key && opened.column.id === column.id;
  }

  protected mayChange({ of }: Column): boolean {
    return isVariant(of) ? this.session.mayKeep() : this.session.mayWrite();
  }

  protected open(component: LibraryComponent, column: Column): void {
    if (!this.mayChange(column)) return;
    this.written = null;
    const cell = this.saves.newest({ component, column });
    this.opened.set({ ...cell, value: this.cell(cell.component, cell.column).value });
    // The field is there when the cell was drawn.
    setTimeout(() => this.table().nativeElement.querySelector<HTMLElement>('[contenteditable=true]')?.focus());
  }

  /** A value is one line: Enter keeps it. While something is being inserted, keys are for that. */
  private typed(event: KeyboardEvent): void {
    if (event.target instanceof Element && event.target.closest('al-insert-menu, button')) return;
    if (event.key === 'Escape') this.close();
    else if (event.key === 'Enter' && !event.shiftKey) this.keep();
    else return;
    event.preventDefault();
    event.stopPropagation();
  }

  protected key(event: KeyboardEvent): void {
    if (event.target instanceof Element && event.target.closest('.field')) this.typed(event);
    else this.moved(event);
  }

  /** What was written is kept when the cell is left. */
  protected left({ target, relatedTarget }: FocusEvent): void {
    const field = target instanceof Element ? target.closest('.field') : null;
    if (!field) return;
    const isInside = relatedTarget instanceof Node && field.contains(relatedTarget);
    const isMenu = relatedTarget instanceof Element && relatedTarget.closest('al-insert-menu') !== null;
    if (!isInside && !isMenu && relatedTarget !== null) this.keep(false);
  }

  protected close(focus = true): void {
    const opened = this.opened();
    this.opened.set(null);
    if (opened && focus) this.focusCell(opened.component.key, opened.column.id);
  }

  protected keep(focus = true): void {
    const opened = this.opened();
    if (!opened) return;
    const { written } = this;
    this.close(focus);
    if (written === null) return;
    const isEmpty = (written.content?.length ?? 0) === 0;
    this.saves.put(opened, isEmpty ? null : written);
  }

  protected takeAway(): void {
    const opened = this.opened();
    this.close();
    if (opened) this.saves.put(opened, null);
  }

  /** Arrows lead from cell to cell. */
  private moved(event: KeyboardEvent): void {
    const cell = event.target instanceof Element ? event.target.closest('button.cell, button.name') : null;
    const place = cell?.closest('td, th');
    const row = place?.closest('tr');
    if (!place || !row) return;
    const column = [...row.children].indexOf(place);
    const next: Readonly<Record<string, Element | null | undefined>> = {
      ArrowLeft: place.previousElementSibling,
      ArrowRight: place.nextElementSibling,
      ArrowUp: row.previousElementSibling?.children[column],
      ArrowDown: row.nextElementSibling?.children[column],
    };
    if (!(event.key in next)) return;
    event.preventDefault();
    next[event.key]?.querySelector<HTMLElement>('button')?.focus();
  }

  private told(value: ContentNode | null, isOwn: boolean, title: string): Cell {
    return { value, isOwn: isOwn && value !== null, text: value ? this.say()(value) : '–', title };
  }

  private focusCell(key: string, column: string): void {
    const row = this.components().findIndex((each) => each.key === key);
    const at = this.columns().findIndex(({ id }) => id === column);
    setTimeout(() => {
      const place = this.table().nativeElement.tBodies[0]?.rows[row]?.cells[at + 1];
      place?.querySelector('button')?.focus();
    });
  }
}
