import { ChangeDetectionStrategy, Component, effect, inject, signal, untracked } from '@angular/core';
import { toObservable, toSignal } from '@angular/core/rxjs-interop';
import { FormsModule } from '@angular/forms';
import type { AuditRow } from '@allomorph/core';
import { Button } from 'primeng/button';
import { InputText } from 'primeng/inputtext';
import { debounceTime, distinctUntilChanged } from 'rxjs';
import { addressState } from '../shared/address-state';
import { Api, problemText } from '../shared/api';
import { TimePipe } from '../shared/wording';

/** Who did what, the newest first. */
@Component({
  selector: 'al-audit-record',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [FormsModule, Button, InputText, TimePipe],
  template: `
    <input
      pInputText
      type="search"
      aria-label="Find in the record"
      placeholder="A person, an act or a key"
      [ngModel]="find.value()"
      (ngModelChange)="find.set($event)"
    />
    @if (problem(); as text) {
      <p class="problem-text" role="alert">{{ text }}</p>
    }
    <div class="scroll" tabindex="0" role="region" aria-label="What was done">
      <table class="plain-table">
        <thead>
          <tr>
            <th scope="col">When</th>
            <th scope="col">Who</th>
            <th scope="col">What</th>
          </tr>
        </thead>
        <tbody>
          @for (row of rows(); track row.id) {
            <tr>
              <td class="when" [title]="row.at | alTime: 'exact'">{{ row.at | alTime }}</td>
              <td>{{ row.person || '—' }}</td>
              <td>
                {{ row.action }} <b>{{ row.subject }}</b>
                <span class="mono soft">{{ detailOf(row) }}</span>
              </td>
            </tr>
          } @empty {
            <tr>
              <td colspan="3" class="soft">{{ isRead() ? 'Nothing fits.' : 'Reading …' }}</td>
            </tr>
          }
        </tbody>
      </table>
    </div>
    @if (hasMore()) {
      <p-button label="Earlier" [outlined]="true" size="small" (onClick)="more()" />
    }
  `,
  styles: `
    .when {
      white-space: nowrap;
    }
    .soft {
      color: var(--soft);
      overflow-wrap: anywhere;
    }
    p-button {
      display: block;
      margin-top: 0.8rem;
    }
  `,
})
export class AuditRecord {
  private readonly api = inject(Api);

  protected readonly find = addressState('done');
  private readonly settled = toSignal(toObservable(this.find.value).pipe(debounceTime(200), distinctUntilChanged()));
  protected readonly rows = signal<readonly AuditRow[]>([]);
  protected readonly hasMore = signal(false);
  protected readonly isRead = signal(false);
  protected readonly problem = signal('');

  constructor() {
    effect(() => {
      const find = this.settled();
      if (find !== undefined) untracked(() => this.read(find, []));
    });
  }

  protected more(): void {
    this.read(this.settled() ?? '', this.rows());
  }

  protected detailOf({ detail }: AuditRow): string {
    return Object.entries(detail)
      .filter(([, value]) => value !== null && JSON.stringify(value) !== '{}')
      .map(([name, value]) => `${name}: ${typeof value === 'string' ? value : JSON.stringify(value)}`)
      .join(', ');
  }

  private read(find: string, before: readonly AuditRow[]): void {
    this.api.audit({ find, before: before.at(-1)?.id }).subscribe({
      next: ({ items, hasMore }) => {
        if (find !== (this.settled() ?? '')) return;
        this.problem.set('');
        this.isRead.set(true);
        this.rows.set([...before, ...items]);
        this.hasMore.set(hasMore);
      },
      error: (error: unknown) => this.problem.set(problemText(error)),
    });
  }
}
