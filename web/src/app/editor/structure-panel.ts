import {
  ChangeDetectionStrategy,
  Component,
  computed,
  type ElementRef,
  inject,
  input,
  output,
  signal,
  viewChild,
} from '@angular/core';
import type { Command, EditorState } from 'prosemirror-state';
import { LaneChips } from '../shared/lane-chips';
import { Lens } from '../shared/lens';
import { moveBlock } from './commands';
import { EditorLibrary } from './editor-library';
import { moveTo, structureRows, type DropAt, type StructureRow } from './structure-rows';

const rowHeight = 30;
/** Rows that are drawn beyond what is in view. */
const beyond = 8;
/** What blocks can be dropped into. */
const takes: ReadonlySet<string> = new Set([
  'section',
  'admonition',
  'quotation',
  'example',
  'branch',
  'list_item',
  'step',
]);

/** The blocks of the page as a tree: to see how it is built, to go to them, to fold and to move them. */
@Component({
  selector: 'al-structure-panel',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [LaneChips],
  templateUrl: './structure-panel.html',
  styleUrl: './structure-panel.css',
})
export class StructurePanel {
  private readonly lens = inject(Lens);
  private readonly library = inject(EditorLibrary);
  private readonly tree = viewChild<ElementRef<HTMLElement>>('tree');

  readonly state = input.required<EditorState | null>();
  readonly editable = input(true);
  readonly run = output<Command>();
  readonly chosen = output<number>();

  protected readonly rowHeight = rowHeight;
  private readonly folded = signal<ReadonlySet<string>>(new Set());
  private readonly doc = computed(() => this.state()?.doc ?? null);
  protected readonly rows = computed<readonly StructureRow[]>(() => {
    const doc = this.doc();
    this.library.changes();
    return doc ? structureRows(doc, this.folded(), (key) => this.library.titleOf(key)) : [];
  });
  /** The innermost row that the selection stands in. */
  protected readonly at = computed(() => {
    const from = this.state()?.selection.from ?? -1;
    let found = -1;
    this.rows().forEach(({ position, size }, index) => {
      if (position <= from && from < position + size) found = index;
    });
    return found;
  });
  private readonly scrolled = signal({ top: 0, height: 600 });
  protected readonly shown = computed(() => {
    const { top, height } = this.scrolled();
    const first = Math.max(0, Math.floor(top / rowHeight) - beyond);
    return this.rows()
      .slice(first, Math.ceil((top + height) / rowHeight) + beyond)
      .map((row, offset) => ({ row, index: first + offset }));
  });
  protected readonly drop = signal<{ readonly index: number; readonly place: DropAt } | null>(null);
  private dragged: number | null = null;

  protected readonly hint = computed(() =>
    this.editable()
      ? 'Click to go to a block, drag to move it. Arrows walk and fold the tree; with Shift and Alt they move the block.'
      : 'Click to go to a block. Arrows walk and fold the tree.',
  );

  protected isOut({ when, around }: StructureRow): boolean {
    const selector = this.lens.selector();
    return selector !== null && [...around, ...(when === null ? [] : [when])].some((each) => !selector.holds(each));
  }

  protected isOpen({ when, around }: StructureRow): boolean {
    const open = this.lens.open();
    return open !== null && [...around, ...(when === null ? [] : [when])].some((each) => open.state(each) === 'open');
  }

  protected isFolded({ name }: StructureRow): boolean {
    return this.folded().has(name);
  }

  protected fold({ name }: StructureRow, folds?: boolean): void {
    this.folded.update((all) => {
      const next = new Set(all);
      if (folds ?? !next.has(name)) next.add(name);
      else next.delete(name);
      return next;
    });
  }

  protected scroll(): void {
    const element = this.tree()?.nativeElement;
    if (element) this.scrolled.set({ top: element.scrollTop, height: element.clientHeight });
  }

  protected go(index: number): void {
    const row = this.rows()[index];
    if (!row) return;
    this.chosen.emit(row.position);
    this.show(index);
  }

  protected click(event: MouseEvent): void {
    const row = event.target instanceof Element ? event.target.closest<HTMLElement>('[data-index]') : null;
    if (row) this.go(Number(row.dataset['index']));
  }

  protected key(event: KeyboardEvent): void {
    const index = this.at();
    const row = this.rows()[index];
    const moves = event.shiftKey && event.altKey;
    if (moves && row && this.editable() && (event.key === 'ArrowUp' || event.key === 'ArrowDown'))
      this.run.emit(moveBlock(row.position, event.key === 'ArrowUp' ? -1 : 1));
    else if (moves) return;
    else if (event.key === 'ArrowDown') this.go(Math.min(index + 1, this.rows().length - 1));
    else if (event.key === 'ArrowUp') this.go(Math.max(index - 1, 0));
    else if (event.key === 'Home') this.go(0);
    else if (event.key === 'End') this.go(this.rows().length - 1);
    else if (event.key === 'ArrowRight' && row?.hasBelow) {
      if (this.isFolded(row)) this.fold(row, false);
      else this.go(index + 1);
    } else if (event.key === 'ArrowLeft' && row) {
      if (row.hasBelow && !this.isFolded(row)) this.fold(row, true);
      else this.go(this.above(index));
    } else return;
    event.preventDefault();
    event.stopPropagation();
    this.tree()?.nativeElement.focus();
  }

  private above(index: number): number {
    const level = this.rows()[index]?.level ?? 1;
    for (let at = index - 1; at >= 0; at -= 1) if ((this.rows()[at]?.level ?? 0) < level) return at;
    return index;
  }

  private show(index: number): void {
    const element = this.tree()?.nativeElement;
    if (!element) return;
    const top = index * rowHeight;
    if (top < element.scrollTop) element.scrollTop = top;
    else if (top + rowHeight > element.scrollTop + element.clientHeight)
      element.scrollTop = top + rowHeight - element.clientHeight;
  }

  protected dragStarts(event: DragEvent, row: StructureRow): void {
    this.dragged = row.position;
    event.dataTransfer?.setData('text/plain', row.text);
    if (event.dataTransfer) event.dataTransfer.effectAllowed = 'move';
  }

  protected dragOver(event: DragEvent, index: number): void {
    const row = this.rows()[index];
    if (this.dragged === null || !row || !(event.currentTarget instanceof HTMLElement)) return;
    const { top, height } = event.currentTarget.getBoundingClientRect();
    const share = (event.clientY - top) / height;
    const order: readonly DropAt[] =
      takes.has(row.type) && share > 0.3 && share < 0.75 ? ['into', 'behind'] : share < 0.5 ? ['before'] : ['behind'];
    const state = this.state();
    const from = this.dragged;
    const place = order.find((each) => state && moveTo(from, row.position, each)(state));
    this.drop.set(place ? { index, place } : null);
    if (place) event.preventDefault();
  }

  protected dropped(event: DragEvent): void {
    event.preventDefault();
    const drop = this.drop();
    const row = drop ? this.rows()[drop.index] : undefined;
    if (drop && row && this.dragged !== null) this.run.emit(moveTo(this.dragged, row.position, drop.place));
    this.dragEnds();
  }

  protected dragEnds(): void {
    this.dragged = null;
    this.drop.set(null);
  }
}
