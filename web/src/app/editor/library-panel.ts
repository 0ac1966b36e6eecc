import { ChangeDetectionStrategy, Component, computed, inject, input, output, signal } from '@angular/core';
import { toObservable, toSignal } from '@angular/core/rxjs-interop';
import { FormsModule } from '@angular/forms';
import { componentKinds, type ComponentKind, type ComponentRow } from '@allomorph/core';
import { InputText } from 'primeng/inputtext';
import { debounceTime } from 'rxjs';
import { Api } from '../shared/api';
import { dragComponents } from '../shared/dragged-components';
import { kindIcons, kindNames } from '../shared/kinds';
import { MarkedText } from '../shared/marked-text';
import { More } from '../shared/more';
import { Paged } from '../shared/paged';

/** The library beside the page: what is found is dragged onto it, or put in at the cursor. */
@Component({
  selector: 'al-library-panel',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [FormsModule, InputText, MarkedText, More],
  template: `
    <div class="find">
      <input
        pInputText
        type="search"
        aria-label="Find in the library"
        placeholder="Find in the library"
        [ngModel]="find()"
        (ngModelChange)="find.set($event)"
      />
      <select aria-label="Kind" [ngModel]="kind()" (ngModelChange)="kind.set($event)">
        <option value="">all kinds</option>
        @for (each of kinds; track each) {
          <option [value]="each">{{ names[each] }}s</option>
        }
      </select>
    </div>
    <p class="soft">Drag onto the page, or choose to put it in at the cursor.</p>
    @if (rows.problem(); as text) {
      <p class="problem-text">{{ text }}</p>
    }
    <ul aria-label="Components of the library">
      @for (row of rows.items(); track row.key) {
        @if (row.key !== own()) {
          <li>
            <button
              type="button"
              draggable="true"
              (dragstart)="drag($event, row)"
              (click)="asked.emit(row)"
              [title]="names[row.kind]"
            >
              <i [class]="icons[row.kind]" role="img" [attr.aria-label]="names[row.kind]"></i>
              <span class="title"><al-marked-text [text]="row.title" [marks]="row.titleMarks" /></span>
              <span class="excerpt"><al-marked-text [text]="row.excerpt" [marks]="row.excerptMarks" /></span>
            </button>
          </li>
        }
      } @empty {
        <li class="soft">{{ rows.isRead() ? 'Nothing fits.' : 'Reading the library …' }}</li>
      }
      @if (rows.hasMore()) {
        <li class="soft" (alMore)="rows.more()">Reading more …</li>
      }
    </ul>
  `,
  styles: `
    .find {
      display: flex;
      gap: 0.5rem;
    }
    .find input {
      flex: 1;
      min-width: 0;
    }
    select {
      border: 1px solid var(--line);
      border-radius: 3px;
      background: var(--paper);
      color: inherit;
      font: inherit;
    }
    .soft {
      color: var(--soft);
      margin: 0.4rem 0;
    }
    ul {
      list-style: none;
      margin: 0;
      padding: 0;
    }
    li {
      border-bottom: 1px solid var(--line);
    }
    button {
      display: grid;
      grid-template-columns: 1.4rem 1fr;
      width: 100%;
      padding: 0.35rem 0.2rem;
      border: 0;
      background: none;
      color: inherit;
      font: inherit;
      text-align: left;
      cursor: grab;
    }
    button:hover {
      background: var(--tint);
    }
    i {
      color: var(--accent);
      font-size: 0.9rem;
      padding-top: 0.25rem;
    }
    .title {
      font-weight: 600;
    }
    .excerpt {
      grid-column: 2;
      color: var(--soft);
      font-size: 0.88rem;
      overflow: hidden;
      text-overflow: ellipsis;
      white-space: nowrap;
    }
  `,
})
export class LibraryPanel {
  private readonly api = inject(Api);

  /** The key of the component that is written: it cannot stand in itself. */
  readonly own = input.required<string>();
  /** It is to be put in at the cursor. */
  readonly asked = output<ComponentRow>();

  protected readonly kinds = componentKinds;
  protected readonly names = kindNames;
  protected readonly icons = kindIcons;
  protected readonly find = signal('');
  protected readonly kind = signal<ComponentKind | ''>('');
  private readonly wanted = computed(() => ({ find: this.find(), kind: this.kind() || undefined }));
  private readonly settled = toSignal(toObservable(this.wanted).pipe(debounceTime(200)));
  protected readonly rows = new Paged<{ find: string; kind: ComponentKind | undefined }, ComponentRow>(
    this.settled,
    (wanted, offset) => this.api.components({ ...wanted, offset, limit: 60 }),
  );

  protected drag(event: DragEvent, row: ComponentRow): void {
    dragComponents(event, [row]);
  }
}
