import { ChangeDetectionStrategy, Component, computed, inject, input, output, signal } from '@angular/core';
import { rxResource, takeUntilDestroyed } from '@angular/core/rxjs-interop';
import { FormsModule } from '@angular/forms';
import { collectionWay, type KnownLabels } from '@allomorph/core';
import { Button } from 'primeng/button';
import { Dialog } from 'primeng/dialog';
import { InputText } from 'primeng/inputtext';
import { catchError, debounceTime, merge, of, Subject } from 'rxjs';
import { Api } from '../shared/api';
import { dragsComponents, droppedComponents } from '../shared/dragged-components';
import { latest } from '../shared/latest';
import { Notices } from '../shared/notices';
import { ServerEvents } from '../shared/server-events';
import { Session } from '../shared/session';
import { Wording } from '../shared/wording';
import { collectionRows, collectionText, nameOf, parentOf, waysTo } from './collection-rows';
import { StepsBack } from './steps-back';

/** The collections of the library as a tree: one narrows the list, takes what is dragged onto it, and gets another name or place. */
@Component({
  selector: 'al-collection-tree',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [FormsModule, Button, Dialog, InputText],
  template: `
    <nav aria-label="Collections">
      <button
        type="button"
        class="way"
        [class.chosen]="chosen() === ''"
        [attr.aria-pressed]="chosen() === ''"
        [class.over]="over() === '@none'"
        (click)="picked.emit('')"
        (dragover)="dragOver($event, '@none')"
        (dragleave)="over.set(null)"
        (drop)="drop($event, null)"
      >
        All
      </button>
      <ul>
        @for (row of rows(); track row.way) {
          <li [style.padding-left.rem]="(row.level - 1) * 0.9">
            @if (row.hasInner) {
              <button
                type="button"
                class="fold"
                [attr.aria-expanded]="row.isOpen"
                [attr.aria-label]="(row.isOpen ? 'Close ' : 'Open ') + row.name"
                (click)="fold(row.way)"
              >
                <i [class]="row.isOpen ? 'pi pi-angle-down' : 'pi pi-angle-right'" aria-hidden="true"></i>
              </button>
            } @else {
              <span class="fold" aria-hidden="true"></span>
            }
            <button
              type="button"
              class="way"
              [title]="text(row.way)"
              [class.chosen]="row.way === chosen()"
              [class.over]="over() === row.way"
              [attr.aria-pressed]="row.way === chosen()"
              [draggable]="session.mayWrite()"
              (click)="picked.emit(row.way)"
              (dragstart)="dragBegins($event, row.way)"
              (dragend)="dragged.set(null)"
              (dragover)="dragOver($event, row.way)"
              (dragleave)="over.set(null)"
              (drop)="drop($event, row.way)"
            >
              <span class="name">{{ row.name }}</span> <span class="count">{{ row.count }}</span>
            </button>
          </li>
        }
      </ul>
      @if (rows().length === 0 && read() !== null) {
        <p class="soft">None yet. Choose components and “Move …” them to one, such as “Legal / Europe”.</p>
      }
      @if (session.mayWrite() && chosen() !== '' && isThere()) {
        <button type="button" class="act" (click)="ask()">Rename or move “{{ own() }}” …</button>
      }
    </nav>
    <p-dialog
      [header]="'The collection “' + text(chosen()) + '”'"
      [modal]="true"
      [visible]="asked()"
      (visibleChange)="asked.set($event)"
      [style]="{ width: 'min(30rem, 96vw)' }"
    >
      <form (ngSubmit)="rename(chosen(), wanted)">
        <div class="field">
          <label for="collection-way">Name and place</label>
          <input pInputText id="collection-way" name="way" autocomplete="off" [(ngModel)]="wanted" />
          <small>“Legal / Europe” stands in “Legal”. Slots that take from it follow.</small>
        </div>
        <div class="acts">
          <p-button type="submit" label="Rename it" [disabled]="wanted.trim() === ''" [loading]="busy()" />
        </div>
      </form>
    </p-dialog>
  `,
  styles: `
    :host {
      display: block;
      overflow: auto;
      padding: 0 0.4rem 1rem 0.9rem;
    }
    ul {
      list-style: none;
      margin: 0;
      padding: 0;
    }
    li {
      display: flex;
      align-items: center;
    }
    button {
      font: inherit;
      border: 0;
      background: none;
      color: inherit;
      cursor: pointer;
    }
    .fold {
      flex: none;
      width: 24px;
      min-height: 24px;
      padding: 0;
      color: var(--soft);
    }
    .way {
      flex: 1;
      min-width: 0;
      display: flex;
      justify-content: space-between;
      gap: 0.5rem;
      padding: 0.22rem 0.5rem;
      border-radius: 3px;
      text-align: left;
    }
    nav > .way {
      width: 100%;
      padding-left: 1.7rem;
    }
    .name {
      overflow: hidden;
      text-overflow: ellipsis;
      white-space: nowrap;
    }
    .count,
    .soft {
      color: var(--soft);
      font-size: 0.88rem;
    }
    .way:hover {
      background: var(--tint);
    }
    .way.chosen {
      background: var(--tint);
      font-weight: 650;
      box-shadow: inset 3px 0 0 var(--accent);
    }
    .way.over {
      outline: 2px solid var(--accent);
    }
    .act {
      margin: 0.6rem 0 0 1.2rem;
      padding: 0.2rem 0.5rem;
      color: var(--accent);
      text-align: left;
    }
    .acts {
      display: flex;
      justify-content: flex-end;
    }
  `,
})
export class CollectionTree {
  private readonly api = inject(Api);
  private readonly notices = inject(Notices);
  private readonly steps = inject(StepsBack);
  private readonly wording = inject(Wording);
  protected readonly session = inject(Session);

  /** The way to the collection that the list is narrowed to; empty: to none. */
  readonly chosen = input.required<string>();
  readonly picked = output<string>();
  /** Components were moved. */
  readonly changed = output<void>();

  private readonly again = new Subject<void>();
  /** Counted: a resource does not hear that it is to be read again while it is read. */
  private readonly readings = signal(0);
  private readonly labels = rxResource({
    params: () => this.readings(),
    stream: () => this.api.labels().pipe(catchError(() => of(null))),
  });
  protected readonly read = latest<KnownLabels | null>(this.labels, null);
  private readonly unfolded = signal<ReadonlySet<string>>(new Set());
  protected readonly rows = computed(() => {
    const collections = this.read()?.collections ?? [];
    return collectionRows(collections, new Set([...this.unfolded(), ...waysTo(this.chosen()).slice(0, -1)]));
  });
  protected readonly isThere = computed(() => this.rows().some(({ way }) => way === this.chosen()));
  protected readonly own = computed(() => nameOf(this.chosen()));
  /** The way to what is being dragged over. */
  protected readonly over = signal<string | null>(null);
  /** The collection that is being dragged. */
  protected readonly dragged = signal<string | null>(null);
  protected readonly asked = signal(false);
  protected readonly busy = signal(false);
  protected readonly text = collectionText;
  protected wanted = '';

  constructor() {
    merge(this.again, inject(ServerEvents).of('component', 'missed'))
      .pipe(debounceTime(300), takeUntilDestroyed())
      .subscribe(() => this.readings.update((count) => count + 1));
  }

  protected fold(way: string): void {
    this.unfolded.update((open) => {
      const next = new Set(open);
      if (!next.delete(way)) next.add(way);
      return next;
    });
  }

  protected ask(): void {
    this.wanted = collectionText(this.chosen());
    this.asked.set(true);
  }

  protected dragBegins(event: DragEvent, way: string): void {
    this.dragged.set(way);
    event.dataTransfer?.setData('text/plain', collectionText(way));
    if (event.dataTransfer) event.dataTransfer.effectAllowed = 'move';
  }

  protected dragOver(event: DragEvent, way: string): void {
    const moved = this.dragged();
    const takes =
      dragsComponents(event.dataTransfer) || (moved !== null && moved !== way && !way.startsWith(`${moved}/`));
    if (!takes || !this.session.mayWrite()) return;
    event.preventDefault();
    if (event.dataTransfer) event.dataTransfer.dropEffect = 'move';
    this.over.set(way);
  }

  protected drop(event: DragEvent, way: string | null): void {
    const [moved, components] = [this.dragged(), droppedComponents(event.dataTransfer)];
    this.over.set(null);
    this.dragged.set(null);
    event.preventDefault();
    if (moved !== null) this.rename(moved, way === null ? nameOf(moved) : `${way}/${nameOf(moved)}`);
    else if (components.length > 0) this.move(components, way);
  }

  private move(keys: readonly string[], collection: string | null): void {
    this.api.actOnMany({ keys: [...keys], act: { kind: 'collection', collection } }).subscribe({
      next: ({ done, back }) => {
        const where = collection === null ? 'in no collection now' : `in “${collectionText(collection)}” now`;
        const shownAgain = (): void => {
          this.again.next();
          this.changed.emit();
        };
        const things = this.wording.count(done.length, 'component is', 'components are');
        this.steps.told(`${things} ${where}.`, back, shownAgain);
        shownAgain();
      },
      error: (error: unknown) => this.notices.failed(error),
    });
  }

  protected rename(from: string, wanted: string): void {
    const to = collectionWay(wanted);
    if (to === '' || to === from) {
      this.asked.set(false);
      return;
    }
    this.busy.set(true);
    this.api.renameCollection({ from, to }).subscribe({
      next: () => {
        this.busy.set(false);
        this.asked.set(false);
        this.again.next();
        if (this.chosen() === from) this.picked.emit(to);
        if (parentOf(to) !== '') this.unfolded.update((open) => new Set([...open, ...waysTo(parentOf(to))]));
        this.notices.undoable(`“${collectionText(from)}” is “${collectionText(to)}” now.`, () => this.rename(to, from));
      },
      error: (error: unknown) => {
        this.busy.set(false);
        this.notices.failed(error);
      },
    });
  }
}
