import { ChangeDetectionStrategy, Component, computed, input, output } from '@angular/core';
import type { Revised } from '@allomorph/core';
import type { Editing } from './editing';

/** Says over a form what becomes of it: that it was written earlier, that somebody saved meanwhile, what both changed. */
@Component({
  selector: 'al-editing-bands',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @if (editing().conflict(); as conflict) {
      <div class="band" role="alert">
        Somebody saved revision {{ conflict.theirs.revision }} meanwhile. You both changed {{ both() }}.
        <button type="button" (click)="editing().keepMine(emit)">Keep mine</button>
        <button type="button" (click)="editing().takeTheirs()">Take theirs</button>
      </div>
    } @else if (editing().savedElsewhere(); as revision) {
      <p class="band">
        Somebody saved revision {{ revision }} while you change this. Saving puts both together, or asks where you both
        changed the same.
      </p>
    }
    @if (editing().fromDraft()) {
      <p class="band">
        This is what you wrote earlier and did not save.
        <button type="button" (click)="editing().discard(newest())">Discard it</button>
      </p>
    }
  `,
  styles: `
    .band {
      margin: 0;
      padding: 0.45rem 1.2rem;
      background: color-mix(in srgb, var(--warn) 16%, var(--paper));
    }
    button {
      border: 0;
      border-bottom: 1.5px solid var(--accent);
      background: none;
      color: var(--accent);
      font: inherit;
      font-weight: 600;
      cursor: pointer;
      padding: 0;
      margin-left: 0.7rem;
    }
  `,
})
export class EditingBands<Saved extends Revised, Parts extends object> {
  readonly editing = input.required<Editing<Saved, Parts>>();
  /** The thing as it is in the library now. */
  readonly newest = input.required<Saved>();
  /** What the parts are called in a sentence. */
  readonly names = input.required<Readonly<Record<keyof Parts, string>>>();
  readonly saved = output<Saved>();
  protected readonly emit = (saved: Saved): void => this.saved.emit(saved);
  protected readonly both = computed(() =>
    new Intl.ListFormat('en').format((this.editing().conflict()?.both ?? []).map((part) => this.names()[part])),
  );
}
