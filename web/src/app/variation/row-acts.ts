import { ChangeDetectionStrategy, Component, input } from '@angular/core';

/** Something that can be done with a row. */
export interface RowAct {
  readonly icon: string;
  /** What it does, and to what. */
  readonly text: string;
  readonly act: () => void;
}

/** Small buttons beside what they act on. */
@Component({
  selector: 'al-row-acts',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @for (each of acts(); track each.icon) {
      <button type="button" [title]="each.text" [attr.aria-label]="each.text" (click)="each.act()">
        <i class="pi pi-{{ each.icon }}"></i>
      </button>
    }
  `,
  styles: `
    button {
      border: 0;
      background: none;
      color: var(--accent);
      cursor: pointer;
      min-width: 24px;
      min-height: 24px;
      padding: 0;
    }
    i {
      font-size: 0.8rem;
    }
  `,
})
export class RowActs {
  readonly acts = input.required<readonly RowAct[]>();
}
