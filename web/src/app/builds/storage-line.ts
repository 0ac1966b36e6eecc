import { ChangeDetectionStrategy, Component, inject, input, linkedSignal } from '@angular/core';
import { rxResource } from '@angular/core/rxjs-interop';
import type { Storage } from '@allomorph/core';
import { Api } from '../shared/api';
import { Notices } from '../shared/notices';
import { Session } from '../shared/session';
import { Wording } from '../shared/wording';

/** What deliverables take, and by which rule they are kept. */
@Component({
  selector: 'al-storage-line',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @if (storage(); as now) {
      <p>
        {{ wording.count(now.deliverables, 'deliverable takes', 'deliverables take') }} {{ wording.size(now.bytes) }},
        @if (now.shippedBytes > 0) {
          {{ wording.size(now.shippedBytes) }} of it shipped.
        } @else {
          none of it shipped.
        }
        Of each variant the last
        @if (session.mayKeep()) {
          <input
            type="number"
            min="1"
            max="1000"
            aria-label="How many deliverables of each variant are kept"
            [value]="now.kept"
            (change)="keep($event)"
          />
        } @else {
          {{ now.kept }}
        }
        are kept, and what was shipped for good.
      </p>
    }
  `,
  styles: `
    p {
      margin: 0;
      padding: 0.5rem 1.2rem;
      border-top: 1px solid var(--line);
      color: var(--soft);
    }
    input {
      width: 4.2rem;
      font: inherit;
      color: var(--ink);
      background: var(--sheet);
      border: 1px solid var(--line);
      border-radius: 3px;
      padding: 0.1rem 0.3rem;
    }
  `,
})
export class StorageLine {
  private readonly api = inject(Api);
  private readonly notices = inject(Notices);
  protected readonly session = inject(Session);
  protected readonly wording = inject(Wording);

  /** Grows when builds ended. */
  readonly readings = input.required<number>();
  private readonly read = rxResource({ params: () => this.readings(), stream: () => this.api.storage() });
  protected readonly storage = linkedSignal<Storage | undefined, Storage | undefined>({
    source: () => (this.read.hasValue() ? this.read.value() : undefined),
    computation: (now, before) => now ?? before?.value,
  });

  protected keep(event: Event): void {
    const field = event.target as HTMLInputElement;
    const kept = Math.min(1000, Math.max(1, Math.round(field.valueAsNumber) || 1));
    field.valueAsNumber = kept;
    this.api.saveStorage(kept).subscribe({
      next: (now) => {
        this.storage.set(now);
        this.notices.done(`The last ${kept} of each variant are kept.`);
      },
      error: (error: unknown) => this.notices.failed(error),
    });
  }
}
