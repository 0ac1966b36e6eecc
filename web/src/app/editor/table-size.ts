import { ChangeDetectionStrategy, Component, output, signal } from '@angular/core';

export interface TableSize {
  readonly rows: number;
  readonly columns: number;
}

const shown = { rows: 7, columns: 9 } as const;

/** The size of a new table, chosen by pointing. By the keyboard it is typed behind the name: “table 4 x 5”. */
@Component({
  selector: 'al-table-size',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <div class="grid" (mouseleave)="over.set(null)" (mousedown)="$event.preventDefault()">
      @for (row of rows; track row) {
        <div>
          @for (column of columns; track column) {
            <button
              type="button"
              tabindex="-1"
              [class.in]="isIn(row, column)"
              [class.head]="row === 1"
              [attr.aria-label]="row + ' rows, ' + column + ' columns'"
              (mouseenter)="over.set({ rows: row, columns: column })"
              (click)="chosen.emit({ rows: row, columns: column })"
            ></button>
          }
        </div>
      }
    </div>
    <p aria-live="polite">
      @if (over(); as size) {
        {{ size.rows }} rows, {{ size.columns }} columns
      } @else {
        Point at a size, or type it: <b>table 4 x 5</b>
      }
    </p>
  `,
  styles: `
    :host {
      display: block;
      padding: 0.5rem 0.8rem;
      border-top: 1px solid var(--line);
    }
    .grid {
      width: max-content;
    }
    .grid > div {
      display: flex;
    }
    button {
      width: 24px;
      height: 20px;
      margin: 0 2px 2px 0;
      padding: 0;
      border: 1px solid var(--line);
      border-radius: 2px;
      background: var(--sheet);
      cursor: pointer;
    }
    .head {
      border-bottom-width: 2px;
    }
    .in {
      border-color: var(--accent);
      background: var(--tint);
    }
    p {
      margin: 0.3rem 0 0;
      color: var(--soft);
      font-size: 0.9rem;
    }
  `,
})
export class TableSizeGrid {
  readonly chosen = output<TableSize>();
  protected readonly rows = Array.from({ length: shown.rows }, (_, at) => at + 1);
  protected readonly columns = Array.from({ length: shown.columns }, (_, at) => at + 1);
  protected readonly over = signal<TableSize | null>(null);

  protected isIn(row: number, column: number): boolean {
    const size = this.over();
    return size !== null && row <= size.rows && column <= size.columns;
  }
}
