import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import { rxResource, takeUntilDestroyed } from '@angular/core/rxjs-interop';
import { FormsModule } from '@angular/forms';
import { kindNames } from '../shared/kinds';
import type { BinKind, BinRow } from '@allomorph/core';
import { Button } from 'primeng/button';
import { InputText } from 'primeng/inputtext';
import { debounceTime } from 'rxjs';
import { addressState } from '../shared/address-state';
import { Api, problemText } from '../shared/api';
import { Deletion } from '../shared/deletion';
import { latest } from '../shared/latest';
import { Lens } from '../shared/lens';
import { ServerEvents } from '../shared/server-events';
import { Session } from '../shared/session';
import { TimePipe } from '../shared/wording';

const words: Readonly<Record<BinKind, string>> = {
  component: 'component',
  publication: 'publication',
  variant: 'variant',
  axis: 'axis',
  profile: 'profile',
  stamp: 'stamp',
  design: 'design',
};

/** Where deleted things wait; everything in it can come back. */
@Component({
  selector: 'al-bin',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [FormsModule, Button, InputText, TimePipe],
  template: `
    <div class="place-head">
      <h1>Bin</h1>
      <span class="grow"></span>
      <input
        pInputText
        type="search"
        aria-label="Find in the bin"
        placeholder="Find in the bin"
        [ngModel]="find.value()"
        (ngModelChange)="find.set($event)"
      />
    </div>
    @if (reading.error(); as error) {
      <p class="empty problem-text">{{ text(error) }}</p>
    } @else if (rows() === null) {
      <p class="empty">Reading the bin …</p>
    } @else if (shown().length === 0) {
      <p class="empty">{{ rows()?.length === 0 ? 'Nothing was deleted.' : 'Nothing in the bin fits.' }}</p>
    } @else {
      <div class="scroll" tabindex="0" role="region" aria-label="What was deleted">
        <table class="plain-table">
          <thead>
            <tr>
              <th scope="col">What</th>
              <th scope="col">Deleted</th>
              <th scope="col"><span class="sr-only">Acts</span></th>
            </tr>
          </thead>
          <tbody>
            @for (row of shown(); track row.kind + row.key) {
              <tr>
                <td>
                  <b>{{ row.title }}</b>
                  <span class="soft aside">{{ wordOf(row) }}</span>
                </td>
                <td class="soft" [title]="row.deletedAt | alTime: 'exact'">
                  {{ row.deletedAt | alTime }}{{ row.deletedBy ? ', ' + row.deletedBy : '' }}
                </td>
                <td class="acts">
                  @if (mayRestore(row)) {
                    <p-button
                      label="Bring back"
                      [ariaLabel]="'Bring back ' + row.title"
                      size="small"
                      [outlined]="true"
                      (onClick)="restore(row)"
                    />
                  }
                </td>
              </tr>
            }
          </tbody>
        </table>
      </div>
      @if ((rows() ?? []).length >= 500) {
        <p class="empty">These are the 500 deleted last. What comes back makes room for older ones.</p>
      }
    }
  `,
  styles: `
    .aside {
      margin-left: 0.5rem;
    }
    .scroll {
      padding: 0 1.2rem;
    }
  `,
})
export class BinPlace {
  private readonly api = inject(Api);
  private readonly deletion = inject(Deletion);
  private readonly lens = inject(Lens);
  private readonly session = inject(Session);

  protected readonly find = addressState('find');
  private readonly readings = signal(0);
  protected readonly reading = rxResource({ params: () => this.readings(), stream: () => this.api.bin() });
  /** Null: not read yet. */
  protected readonly rows = latest<readonly BinRow[] | null>(this.reading, null);
  protected readonly shown = computed(() => {
    const wanted = this.find.value().trim().toLowerCase();
    return (this.rows() ?? []).filter((row) =>
      `${row.title} ${this.wordOf(row)} ${row.deletedBy}`.toLowerCase().includes(wanted),
    );
  });
  protected readonly text = problemText;

  constructor() {
    inject(ServerEvents)
      .of('component', 'variation', 'missed')
      .pipe(debounceTime(300), takeUntilDestroyed())
      .subscribe(() => this.readings.update((count) => count + 1));
  }

  protected wordOf({ kind, detail }: BinRow): string {
    if (kind === 'component') return kindNames[detail as keyof typeof kindNames] ?? words[kind];
    return detail === '' ? words[kind] : `${words[kind]} of ${detail}`;
  }

  protected mayRestore({ kind }: BinRow): boolean {
    return kind === 'component' ? this.session.mayWrite() : this.session.mayKeep();
  }

  protected restore(row: BinRow): void {
    this.deletion.bringBack(row.kind, row, () => {
      this.readings.update((count) => count + 1);
      this.lens.refresh().subscribe({ error: () => undefined });
    });
  }
}
