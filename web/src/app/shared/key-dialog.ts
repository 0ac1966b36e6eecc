import {
  ChangeDetectionStrategy,
  Component,
  computed,
  effect,
  inject,
  input,
  model,
  output,
  signal,
  untracked,
} from '@angular/core';
import { rxResource } from '@angular/core/rxjs-interop';
import { FormsModule } from '@angular/forms';
import { keySchema, type Component as LibraryComponent } from '@allomorph/core';
import { Button } from 'primeng/button';
import { Dialog } from 'primeng/dialog';
import { InputText } from 'primeng/inputtext';
import { Api } from './api';
import { ComponentTitles } from './component-titles';
import { Notices } from './notices';
import { Sending } from './sending';
import { Wording } from './wording';

/** Gives a component another key, with everything that refers to it; says before how much that is. */
@Component({
  selector: 'al-key-dialog',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [FormsModule, Button, Dialog, InputText],
  template: `
    <p-dialog
      [header]="'The key of “' + component().title + '”'"
      [modal]="true"
      [(visible)]="open"
      [style]="{ width: 'min(32rem, 96vw)' }"
    >
      <form (ngSubmit)="change()">
        <div class="field">
          <label for="new-key">Key</label>
          <input
            pInputText
            id="new-key"
            class="mono"
            autocomplete="off"
            spellcheck="false"
            name="key"
            [ngModel]="key()"
            (ngModelChange)="key.set($event)"
            [attr.aria-invalid]="fault() !== null"
          />
          @if (fault(); as text) {
            <small class="warn" role="alert">{{ text }}</small>
          }
        </div>
        <p aria-live="polite">
          @if (uses.hasValue() && uses.value(); as told) {
            {{
              told.directTotal === 0
                ? 'Nothing refers to it.'
                : wording.count(told.directTotal, 'place refers', 'places refer') +
                  ' to it, and will by the new key: each component, outline or design in a new revision.'
            }}
          } @else {
            Looking for what refers to it …
          }
        </p>
        <p class="soft">
          The old key stays taken: drafts, old revisions and addresses that name it lead here. What was built and handed
          over stays as it is.
        </p>
        @if (sending.problem(); as text) {
          <p class="problem-text" role="alert">{{ text }}</p>
        }
        <div class="acts">
          <p-button
            type="submit"
            label="Change the key"
            [disabled]="fault() !== null || key() === component().key"
            [loading]="sending.busy()"
          />
        </div>
      </form>
    </p-dialog>
  `,
  styles: `
    .soft {
      color: var(--soft);
    }
    .warn {
      color: var(--warn);
    }
    input {
      width: 100%;
    }
    .acts {
      display: flex;
      justify-content: flex-end;
    }
  `,
})
export class KeyDialog {
  private readonly api = inject(Api);
  private readonly notices = inject(Notices);
  private readonly titles = inject(ComponentTitles);
  protected readonly wording = inject(Wording);

  readonly component = input.required<LibraryComponent>();
  readonly open = model(false);
  readonly changed = output<LibraryComponent>();

  protected readonly key = signal('');
  protected readonly sending = new Sending(this.open);
  protected readonly fault = computed(() => {
    const read = keySchema.safeParse(this.key().trim());
    return read.success ? null : (read.error.issues[0]?.message ?? '');
  });
  protected readonly uses = rxResource({
    params: () => (this.open() ? this.component().key : undefined),
    stream: ({ params }) => this.api.uses(params),
  });

  constructor() {
    effect(() => {
      if (this.open()) this.key.set(untracked(this.component).key);
    });
  }

  protected change(): void {
    const { key, revision: base } = this.component();
    const to = this.key().trim();
    if (this.fault() !== null || to === key) return;
    this.sending.send(this.api.changeKey(key, { base, to }), ({ component, rewritten }, isOpen) => {
      if (isOpen) this.open.set(false);
      this.titles.forget(key);
      const things = rewritten === 0 ? '' : `; ${this.wording.count(rewritten, 'thing refers', 'things refer')} to it`;
      this.notices.done(`The key is “${to}” now${things}.`);
      this.changed.emit(component);
    });
  }
}
