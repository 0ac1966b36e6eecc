import {
  ChangeDetectionStrategy,
  Component,
  computed,
  DestroyRef,
  effect,
  type ElementRef,
  inject,
  input,
  model,
  output,
  signal,
  untracked,
  viewChild,
} from '@angular/core';
import type { OutlineEntry } from '@allomorph/core';
import { LaneChips } from '../shared/lane-chips';
import { dropEntries, type DropPlace } from './outline';
import { keysIn, topicsType } from '../shared/dragged-components';
import { entriesAbove, outlineRows, type OutlineRow } from './outline-rows';

/** A column of the grid: a variant. */
export interface GridColumn {
  readonly id: string;
  readonly title: string;
  /** The heading that it stands under with its neighbours; empty for none. */
  readonly group: string;
}

/** What one variant has of one entry. */
export interface GridCell {
  /** From 0, out, to 1, wholly in. */
  readonly share: number;
  readonly word: string;
  readonly title: string;
}

/** How many rows and columns are drawn beyond what is in view, so that scrolling finds them there. */
const beyond = 6;
/** In parts of the page's font size. */
const sizes = { row: 2.1, column: 2.2, head: 8.6 };

/**
 * An outline with a column for each variant. Only what is in view is drawn, in both directions; the head and the titles
 * stay. It is a tree grid for the keyboard and for screen readers.
 */
@Component({
  selector: 'al-outline-grid',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [LaneChips],
  templateUrl: './outline-grid.html',
  styleUrl: './outline-grid.css',
})
export class OutlineGrid {
  private readonly frame = viewChild.required<ElementRef<HTMLElement>>('frame');

  readonly entries = input.required<readonly OutlineEntry[]>();
  readonly columns = input.required<readonly GridColumn[]>();
  /** Asked for what is in view only. */
  readonly cellOf = input.required<(column: string, entry: string) => GridCell>();
  readonly titleOf = input.required<(entry: OutlineEntry) => string>();
  /** Whether the lens leaves it open whether an entry is in. */
  readonly isOpen = input<(entry: OutlineEntry) => boolean>(() => false);
  readonly isOut = input.required<(entry: OutlineEntry) => boolean>();
  /** The conditions that topics bear wherever they stand, by their keys. */
  readonly ownConditions = input<Readonly<Record<string, string>>>({});
  readonly editable = input(false);
  readonly chosen = model<string | null>(null);
  /** All that are picked, the chosen one among them. */
  readonly picked = model<ReadonlySet<string>>(new Set());
  /** Entries were dragged to another place. */
  readonly dragged = output<readonly OutlineEntry[]>();
  readonly removed = output<void>();
  /** Topics were dragged here from a list. */
  readonly droppedTopics = output<{
    readonly topics: readonly string[];
    readonly target: string;
    readonly place: DropPlace;
  }>();

  protected readonly folded = signal<ReadonlySet<string>>(new Set());
  protected readonly rows = computed(() => outlineRows(this.entries(), this.folded()));
  private readonly view = signal({ top: 0, left: 0, width: 0, height: 0 });
  private readonly em = parseFloat(getComputedStyle(document.documentElement).fontSize);
  protected readonly rowHeight = sizes.row * this.em;
  protected readonly columnWidth = sizes.column * this.em;
  protected readonly headHeight = computed(() => (this.columns().length > 0 ? sizes.head * this.em : 0));
  /** The titles take the room that the columns leave, and never less than can be read. */
  protected readonly titleWidth = computed(() => {
    const { width } = this.view();
    const wanted = this.columns().length * this.columnWidth + this.overhang();
    return Math.max(Math.min(17 * this.em, width * 0.62), width - wanted);
  });
  /** The slanted title of the last column reaches beyond it. */
  protected readonly overhang = computed(() => (this.columns().length > 0 ? 5 * this.em : 0));
  protected readonly width = computed(
    () => this.titleWidth() + this.columns().length * this.columnWidth + this.overhang(),
  );
  protected readonly height = computed(() => this.headHeight() + this.rows().length * this.rowHeight);
  protected readonly shownRows = computed(() => {
    const { top, height } = this.view();
    return this.inView(this.rows(), top - this.headHeight(), height, this.rowHeight);
  });
  protected readonly shownColumns = computed(() => {
    const { left, width } = this.view();
    return this.inView(this.columns(), left, width - this.titleWidth(), this.columnWidth);
  });
  /** The headings over neighbours of one group that are in view. */
  protected readonly groups = computed(() => {
    const groups: { readonly title: string; readonly at: number; count: number }[] = [];
    this.columns().forEach(({ group }, at) => {
      const last = groups.at(-1);
      if (last && last.title === group) last.count += 1;
      else groups.push({ title: group, at, count: 1 });
    });
    return groups.filter(({ title }) => title !== '');
  });
  protected readonly drop = signal<{ readonly target: string; readonly place: DropPlace } | null>(null);
  private isDragged = false;
  /** Where a range of picked entries begins. */
  private anchor: string | null = null;

  constructor() {
    const destroyed = inject(DestroyRef);
    effect(() => {
      const frame = this.frame().nativeElement;
      const look = (): void =>
        this.view.set({
          top: frame.scrollTop,
          left: frame.scrollLeft,
          width: frame.clientWidth,
          height: frame.clientHeight,
        });
      let asked = 0;
      const scrolled = (): void => {
        cancelAnimationFrame(asked);
        asked = requestAnimationFrame(look);
      };
      frame.addEventListener('scroll', scrolled, { passive: true });
      const resized = new ResizeObserver(look);
      resized.observe(frame);
      destroyed.onDestroy(() => {
        resized.disconnect();
        cancelAnimationFrame(asked);
      });
      untracked(look);
    });
    effect(() => {
      const id = this.chosen();
      if (id !== null) untracked(() => this.reveal(id));
    });
  }

  protected rowId(entry: OutlineEntry): string {
    return `outline-${entry.id}`;
  }

  /** The row of the chosen entry, where it is drawn. */
  protected readonly active = computed(() => {
    const id = this.chosen();
    return this.shownRows().some(({ item }) => item.entry.id === id) ? `outline-${id ?? ''}` : null;
  });

  protected turn(row: OutlineRow): void {
    const folded = new Set(this.folded());
    if (row.isOpen) folded.add(row.entry.id);
    else folded.delete(row.entry.id);
    this.folded.set(folded);
  }

  /** A press picks one entry, a range with Shift, one more or less with Ctrl or Cmd. */
  protected pressed(event: MouseEvent, { id }: OutlineEntry): void {
    if (event.button !== 0) return;
    if (event.shiftKey) {
      event.preventDefault();
      this.frame().nativeElement.focus();
      this.pickTo(id);
    } else if (event.ctrlKey || event.metaKey) {
      const picked = new Set(this.picked());
      if (!picked.delete(id)) picked.add(id);
      this.anchor = id;
      this.chosen.set(picked.has(id) ? id : ([...picked].at(-1) ?? null));
      this.picked.set(picked);
    } else if (!this.picked().has(id)) this.pick(id);
  }

  /** What was picked stays picked while it is dragged; where it is not, one of it is picked. */
  protected released(event: MouseEvent, { id }: OutlineEntry): void {
    if (event.button === 0 && !event.shiftKey && !event.ctrlKey && !event.metaKey) this.pick(id);
  }

  private pick(id: string | null): void {
    this.anchor = id;
    this.chosen.set(id);
    this.picked.set(new Set(id === null ? [] : [id]));
  }

  /** Picks all from where the range begins to an entry. */
  private pickTo(id: string): void {
    const rows = this.rows().map(({ entry }) => entry.id);
    const from = rows.indexOf(this.anchor ?? this.chosen() ?? id);
    const to = rows.indexOf(id);
    this.anchor = rows[from] ?? id;
    this.chosen.set(id);
    this.picked.set(new Set(rows.slice(Math.min(from, to), Math.max(from, to) + 1)));
  }

  protected key(event: KeyboardEvent): void {
    if ((event.ctrlKey || event.metaKey) && !event.altKey && event.key.toLowerCase() === 'a') {
      event.preventDefault();
      const all = this.rows().map(({ entry }) => entry.id);
      if (!all.includes(this.chosen() ?? '')) this.chosen.set(all[0] ?? null);
      this.picked.set(new Set(all));
      return;
    }
    if (event.altKey || event.ctrlKey || event.metaKey) return;
    const rows = this.rows();
    const at = rows.findIndex(({ entry }) => entry.id === this.chosen());
    const page = Math.max(1, Math.floor(this.view().height / this.rowHeight) - 4);
    const to: Readonly<Record<string, number>> = {
      ArrowDown: at + 1,
      ArrowUp: at < 0 ? 0 : at - 1,
      PageDown: at + page,
      PageUp: at - page,
      Home: 0,
      End: rows.length - 1,
    };
    const row = rows[at];
    const next = to[event.key];
    if (next !== undefined) {
      const id = rows[Math.max(0, Math.min(rows.length - 1, next))]?.entry.id ?? null;
      if (event.shiftKey && id !== null) this.pickTo(id);
      else this.pick(id);
    } else if (event.key === 'ArrowRight' && row?.hasEntries && !row.isOpen) this.turn(row);
    else if (event.key === 'ArrowRight' && row?.isOpen) this.pick(rows[at + 1]?.entry.id ?? null);
    else if (event.key === 'ArrowLeft' && row?.isOpen) this.turn(row);
    else if (event.key === 'ArrowLeft' && row)
      this.pick(entriesAbove(this.entries(), row.entry.id).at(-1) ?? row.entry.id);
    else if (event.key === 'Delete' && row && this.editable()) this.removed.emit();
    else return;
    event.preventDefault();
  }

  protected dragBegins(event: DragEvent, entry: OutlineEntry): void {
    if (!this.picked().has(entry.id)) this.pick(entry.id);
    this.isDragged = true;
    event.dataTransfer?.setData('text/plain', this.titleOf()(entry));
    if (event.dataTransfer) event.dataTransfer.effectAllowed = 'move';
  }

  protected dragOver(event: DragEvent, entry: OutlineEntry): void {
    const isOffered = this.editable() && (event.dataTransfer?.types.includes(topicsType) ?? false);
    if (!this.isDragged && !isOffered) return;
    event.preventDefault();
    const box = (event.currentTarget as HTMLElement).getBoundingClientRect();
    const share = (event.clientY - box.top) / box.height;
    const place: DropPlace = share < 0.28 ? 'before' : share > 0.72 ? 'after' : 'into';
    const now = this.drop();
    if (now?.target !== entry.id || now.place !== place) this.drop.set({ target: entry.id, place });
  }

  protected dropped(event: DragEvent): void {
    event.preventDefault();
    const [isDragged, drop, topics] = [this.isDragged, this.drop(), keysIn(event.dataTransfer, topicsType)];
    this.dragEnds();
    if (!drop) return;
    if (topics) this.droppedTopics.emit({ topics, ...drop });
    else if (isDragged) {
      const entries = dropEntries(this.entries(), this.picked(), drop.target, drop.place);
      if (entries !== this.entries()) this.dragged.emit(entries);
    }
  }

  protected dragEnds(): void {
    this.isDragged = false;
    this.drop.set(null);
  }

  focus(): void {
    this.frame().nativeElement.focus();
  }

  /** Opens what an entry stands in and brings it into view. */
  private reveal(id: string): void {
    const above = entriesAbove(this.entries(), id);
    if (above.some((each) => this.folded().has(each)))
      this.folded.set(new Set([...this.folded()].filter((each) => !above.includes(each))));
    const at = this.rows().findIndex(({ entry }) => entry.id === id);
    if (at < 0) return;
    const frame = this.frame().nativeElement;
    const top = at * this.rowHeight;
    const room = frame.clientHeight - this.headHeight() - this.rowHeight;
    if (top < frame.scrollTop) frame.scrollTop = top;
    else if (top > frame.scrollTop + room) frame.scrollTop = top - room;
  }

  private inView<T>(all: readonly T[], from: number, length: number, size: number): { item: T; at: number }[] {
    const first = Math.max(0, Math.floor(from / size) - beyond);
    const last = Math.min(all.length, Math.ceil((from + length) / size) + beyond);
    return all.slice(first, last).map((item, index) => ({ item, at: first + index }));
  }
}
