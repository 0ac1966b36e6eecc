import { ChangeDetectionStrategy, Component, computed, inject, input, signal } from '@angular/core';
import { rxResource } from '@angular/core/rxjs-interop';
import { RouterLink } from '@angular/router';
import type { ChangedComponent, HolderRow, ReplacedText } from '@allomorph/core';
import { Button } from 'primeng/button';
import { Api } from './api';
import { componentAddress } from './kinds';
import { Notices } from './notices';
import { Session } from './session';
import { Wording } from './wording';

/** Who holds a component at a revision before its newest: to bring it up to date in chosen places, or everywhere. */
@Component({
  selector: 'al-holders-panel',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [RouterLink, Button],
  template: `
    @if (shown().length > 0) {
      <h4>Held at an older revision in {{ wording.count(shown().length, 'other place', 'other places') }}</h4>
      <ul>
        @for (row of shown(); track row.key) {
          <li>
            @if (session.mayWrite()) {
              <input type="checkbox" [id]="'holder-' + row.key" [checked]="!isLeft(row)" (change)="tick(row)" />
            }
            <label [for]="'holder-' + row.key"
              ><a [routerLink]="addressOf(row)">{{ row.title }}</a>
              @if (row.places > 1) {
                <small>{{ row.places }} times</small>
              }
            </label>
          </li>
        }
      </ul>
      @if (session.mayWrite()) {
        <p-button
          size="small"
          [label]="'Bring up to date in ' + wording.count(chosen().length, 'of them', 'of them')"
          [disabled]="chosen().length === 0"
          [loading]="busy()"
          (onClick)="bringUp()"
        />
      }
    }
  `,
  styles: `
    h4 {
      margin: 0.7rem 0 0.3rem;
      font: 600 0.95rem/1.3 var(--sans);
    }
    ul {
      list-style: none;
      margin: 0 0 0.5rem;
      padding: 0;
      max-height: 14rem;
      overflow: auto;
    }
    li {
      display: flex;
      align-items: baseline;
      gap: 0.45rem;
      min-height: 1.7rem;
    }
    a {
      color: var(--accent);
    }
    small {
      color: var(--soft);
    }
  `,
})
export class HoldersPanel {
  private readonly api = inject(Api);
  private readonly notices = inject(Notices);
  protected readonly session = inject(Session);
  protected readonly wording = inject(Wording);

  readonly component = input.required<string>();
  /** Its newest revision: whoever holds it is looked for again when there is another one. */
  readonly revision = input.required<number>();
  /** Whose page this is: what is held there is brought up to date on the page. */
  readonly without = input<string | null>(null);

  private readonly readings = signal(0);
  private readonly rows = rxResource({
    params: () => ({ key: this.component(), revision: this.revision(), reading: this.readings() }),
    stream: ({ params: { key } }) => this.api.holders(key),
  });
  protected readonly shown = computed(() =>
    (this.rows.hasValue() ? this.rows.value() : []).filter(({ key }) => key !== this.without()),
  );
  private readonly left = signal<ReadonlySet<string>>(new Set());
  protected readonly chosen = computed(() => this.shown().filter((row) => !this.isLeft(row)));
  protected readonly busy = signal(false);

  protected isLeft({ key }: HolderRow): boolean {
    return this.left().has(key);
  }

  protected tick({ key }: HolderRow): void {
    this.left.update((before) => {
      const after = new Set(before);
      if (!after.delete(key)) after.add(key);
      return after;
    });
  }

  protected addressOf({ kind, key }: HolderRow): readonly unknown[] {
    return componentAddress(kind, key).commands;
  }

  protected bringUp(): void {
    const holders = this.chosen().map(({ key, revision }) => ({ key, revision }));
    this.change(this.api.bringUp(this.component(), holders), ({ changed }) => {
      const told = `Brought up to date in ${this.wording.count(changed.length, 'component', 'components')}.`;
      this.notices.undoable(told, () => this.takeBack(changed));
    });
  }

  private takeBack(changed: readonly ChangedComponent[]): void {
    this.change(this.api.takeBack([...changed]), () => this.notices.done('They hold what they held before.'));
  }

  private change(answer: ReturnType<Api['bringUp']>, done: (answer: ReplacedText) => void): void {
    this.busy.set(true);
    answer.subscribe({
      next: (made) => {
        this.busy.set(false);
        this.readings.update((count) => count + 1);
        if (made.refused.length === 0) done(made);
        else
          this.notices.failed(
            new Error(`${made.refused.map(({ why }) => why).join(' ')} The others are done: ${made.changed.length}.`),
          );
      },
      error: (error: unknown) => {
        this.busy.set(false);
        this.notices.failed(error);
      },
    });
  }
}
