import { ChangeDetectionStrategy, Component, inject, input, output, signal } from '@angular/core';
import { FormsModule } from '@angular/forms';
import { RouterLink } from '@angular/router';
import type { BuildDetail } from '@allomorph/core';
import { Button } from 'primeng/button';
import { Dialog } from 'primeng/dialog';
import { InputText } from 'primeng/inputtext';
import { Textarea } from 'primeng/textarea';
import { Api } from '../shared/api';
import { Deletion } from '../shared/deletion';
import { Notices } from '../shared/notices';
import { Sending } from '../shared/sending';
import { Session } from '../shared/session';
import { TimePipe } from '../shared/wording';

/** What becomes of a deliverable: whether it was handed over, and what can be done from its record. */
@Component({
  selector: 'al-handed-over',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [FormsModule, Button, Dialog, InputText, RouterLink, Textarea, TimePipe],
  template: `
    @if (build().again; as again) {
      <p class="fact">
        Made from the record of
        <a routerLink="/builds" [queryParams]="{ build: again.of }" queryParamsHandling="merge">an earlier build</a>.
        @if (build().state === 'done') {
          {{
            again.isSame
              ? 'It came out the same, byte for byte.'
              : 'It came out otherwise: a later version of the application makes it.'
          }}
        }
      </p>
    }
    @if (build().shipped; as shipped) {
      <p class="fact shipped">
        <i class="pi pi-send" aria-hidden="true"></i> <b>Shipped as {{ shipped.version }}</b>
        <span class="soft" [title]="shipped.at | alTime: 'exact'"
          >{{ shipped.at | alTime: 'day' }}, {{ shipped.by }}</span
        >
        @if (shipped.note) {
          <br />{{ shipped.note }}
        }
      </p>
    } @else if (build().state === 'done' && !build().hasFiles) {
      <p class="fact">
        Its files are gone: only the last deliverables of a variant are kept, and those that were shipped.
      </p>
    }
    @if (build().state === 'done') {
      <p class="acts">
        @if (session.mayWrite() && build().hasFiles) {
          <button type="button" (click)="ask()">
            <i class="pi pi-send" aria-hidden="true"></i>
            {{ build().shipped ? 'Change version or note' : 'Mark as shipped' }}
          </button>
        }
        @if (session.mayKeep() && build().shipped) {
          <button type="button" (click)="takeBack()">Not shipped after all</button>
        }
        @if (build().canBeMadeAgain) {
          <a routerLink="/compare" [queryParams]="{ build: build().id, after: build().variant }">Compare with now</a>
          @if (session.mayWrite()) {
            <button type="button" (click)="again()">Build again from its record</button>
          }
        }
      </p>
    }
    @if (open()) {
      <p-dialog
        header="Mark as shipped"
        [modal]="true"
        [visible]="true"
        (visibleChange)="open.set(false)"
        [style]="{ width: '28rem' }"
      >
        <form (ngSubmit)="ship()">
          <p class="soft">Its files and the record of what it was made of are kept for good.</p>
          <div class="field">
            <label for="ship-version">Version</label>
            <input pInputText id="ship-version" name="version" [(ngModel)]="version" autocomplete="off" />
          </div>
          <div class="field">
            <label for="ship-note">Note</label>
            <textarea pTextarea id="ship-note" name="note" rows="3" [(ngModel)]="note"></textarea>
          </div>
          @if (sending.problem(); as text) {
            <p class="problem-text" role="alert">{{ text }}</p>
          }
          <div class="end">
            <p-button type="button" label="Cancel" [text]="true" (onClick)="open.set(false)" />
            <p-button type="submit" label="Mark as shipped" [loading]="sending.busy()" />
          </div>
        </form>
      </p-dialog>
    }
  `,
  styles: `
    .soft {
      color: var(--soft);
    }
    .fact {
      margin: 0.5rem 0;
    }
    .shipped {
      border-left: 3px solid var(--good);
      background: var(--sheet);
      padding: 0.4rem 0.7rem;
    }
    .shipped i {
      color: var(--good);
    }
    a {
      color: var(--accent);
    }
    .acts {
      display: flex;
      flex-wrap: wrap;
      gap: 0.3rem 1rem;
      margin: 0.5rem 0;
    }
    .acts button,
    .acts a {
      border: 0;
      background: none;
      color: var(--accent);
      font: 600 0.95rem/1.4 var(--sans);
      padding: 0;
      text-decoration: underline;
      text-underline-offset: 0.2em;
      cursor: pointer;
      min-height: 1.6rem;
    }
    textarea {
      width: 100%;
    }
  `,
})
export class HandedOver {
  private readonly api = inject(Api);
  private readonly notices = inject(Notices);
  private readonly deletion = inject(Deletion);
  protected readonly session = inject(Session);

  readonly build = input.required<BuildDetail>();
  /** That something of it was changed. */
  readonly changed = output();
  /** The ids of builds that were started. */
  readonly started = output<readonly string[]>();
  protected readonly open = signal(false);
  protected readonly sending = new Sending(this.open);
  protected version = '';
  protected note = '';

  protected ask(): void {
    const { shipped } = this.build();
    [this.version, this.note] = [shipped?.version ?? '', shipped?.note ?? ''];
    this.open.set(true);
  }

  protected ship(): void {
    const { id, variantTitle } = this.build();
    const [version, note] = [this.version.trim(), this.note];
    this.sending.send(this.api.shipBuild(id, { version, note }), (_, isOpen) => {
      if (isOpen) this.open.set(false);
      this.notices.done(`“${variantTitle}” is marked as shipped, as ${version}.`);
      this.changed.emit();
    });
  }

  protected takeBack(): void {
    const { id, shipped } = this.build();
    this.deletion.ask(
      `Was ${shipped?.version ?? 'this'} not shipped?`,
      'Its files go with the others when newer ones are built.',
      () => this.api.unshipBuild(id),
      () => this.changed.emit(),
      'Not shipped',
    );
  }

  protected again(): void {
    this.api.buildAgain(this.build().id).subscribe({
      next: ({ builds }) => this.started.emit(builds),
      error: (error: unknown) => this.notices.failed(error),
    });
  }
}
