import { ChangeDetectionStrategy, Component, inject } from '@angular/core';
import { Popover } from 'primeng/popover';
import { Lens } from '../shared/lens';
import { LensStrip } from './lens-strip';

/** The lens where there is no room for its strip, or nothing is read through it: one chip that opens. */
@Component({
  selector: 'al-lens-chip',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [LensStrip, Popover],
  template: `
    <button
      type="button"
      class="chip-button"
      [class.on]="lens.current()"
      aria-haspopup="dialog"
      (click)="open.toggle($event)"
    >
      <i class="pi pi-eye" aria-hidden="true"></i>
      <span class="text">{{ lens.current()?.title ?? 'No lens' }}</span>
    </button>
    <p-popover #open ariaLabel="Lens" appendTo="body">
      <al-lens-strip class="stacked" [style.--lens]="lens.colour()" />
    </p-popover>
  `,
  styles: `
    .chip-button {
      display: flex;
      align-items: center;
      gap: 0.45rem;
      max-width: 15rem;
      min-height: 2rem;
      padding: 0.15rem 0.8rem;
      border: 1.5px solid var(--line);
      border-radius: 999px;
      background: var(--paper-deep);
      color: inherit;
      font: 550 0.92rem/1.2 var(--sans);
      cursor: pointer;
    }
    .on {
      background: var(--lens);
      border-color: var(--lens);
      color: #fff;
    }
    .text {
      overflow: hidden;
      text-overflow: ellipsis;
      white-space: nowrap;
    }
    :host-context(.slim) .chip-button {
      max-width: 8.5rem;
    }
  `,
})
export class LensChip {
  protected readonly lens = inject(Lens);
}
