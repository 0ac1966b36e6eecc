import { ChangeDetectionStrategy, Component, input, output } from '@angular/core';

/** A small button beside what it acts on. */
@Component({
  selector: 'al-row-act',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <button type="button" [title]="text()" [attr.aria-label]="text()" (click)="act.emit()">
      <i class="pi pi-{{ icon() }}"></i>
    </button>
  `,
  styles: `
    button {
      border: 0;
      background: none;
      color: var(--accent);
      cursor: pointer;
      padding: 0.1rem 0.2rem;
    }
    i {
      font-size: 0.8rem;
    }
  `,
})
export class RowAct {
  readonly icon = input.required<string>();
  /** What it does, and to what. */
  readonly text = input.required<string>();
  readonly act = output();
}
