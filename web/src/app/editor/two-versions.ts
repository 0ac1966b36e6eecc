import { ChangeDetectionStrategy, Component, input, output } from '@angular/core';
import type { ComponentClosure } from '@allomorph/core';
import { Button } from 'primeng/button';
import { Dialog } from 'primeng/dialog';
import { ReadingView } from '../shared/reading-view';

/** A topic that two have changed: as it was saved, and as it is written here. */
export interface Versions {
  readonly theirs: ComponentClosure;
  readonly mine: ComponentClosure;
}

/** Shows both versions, and asks what becomes the next revision. */
@Component({
  selector: 'al-two-versions',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [Button, Dialog, ReadingView],
  template: `
    <p-dialog
      header="Two versions"
      [modal]="true"
      [visible]="true"
      (visibleChange)="later.emit()"
      [style]="{ width: '70rem' }"
    >
      <p>
        Somebody saved revision {{ versions().theirs.component.revision }} while you were writing. Nothing is lost:
        choose what becomes the next revision.
      </p>
      <div class="versions">
        <section>
          <h3>Theirs, saved</h3>
          <al-reading-view [closure]="versions().theirs" />
        </section>
        <section>
          <h3>Yours, not saved</h3>
          <al-reading-view [closure]="versions().mine" />
        </section>
      </div>
      <div class="end">
        <p-button label="Go on writing" [text]="true" (onClick)="later.emit()" />
        <p-button label="Take theirs" [outlined]="true" (onClick)="takeTheirs.emit()" />
        <p-button label="Save yours on top" (onClick)="saveMine.emit()" />
      </div>
    </p-dialog>
  `,
  styles: `
    .versions {
      display: grid;
      grid-template-columns: 1fr 1fr;
      gap: 1.5rem;
    }
    .versions section {
      border: 1px solid var(--line);
      padding: 0.8rem 1rem;
      max-height: 26rem;
      overflow: auto;
    }
    .end {
      display: flex;
      justify-content: flex-end;
      gap: 0.6rem;
      margin-top: 1rem;
    }
    :host-context(.slim) .versions {
      grid-template-columns: minmax(0, 1fr);
    }
  `,
})
export class TwoVersions {
  readonly versions = input.required<Versions>();
  readonly later = output();
  readonly takeTheirs = output();
  readonly saveMine = output();
}
