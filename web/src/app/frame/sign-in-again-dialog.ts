import { ChangeDetectionStrategy, Component, DestroyRef, inject, signal } from '@angular/core';
import { FormsModule } from '@angular/forms';
import { Button } from 'primeng/button';
import { Dialog } from 'primeng/dialog';
import { InputText } from 'primeng/inputtext';
import { problemText } from '../shared/api';
import { Session } from '../shared/session';
import { SignInAgain } from '../shared/sign-in-again';

/** The question to sign in again, over whatever is open; nothing that was written goes. */
@Component({
  selector: 'al-sign-in-again',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [FormsModule, Button, Dialog, InputText],
  template: `
    <p-dialog
      header="Sign in again"
      [modal]="true"
      [closable]="false"
      [closeOnEscape]="false"
      [visible]="again.asking()"
      [style]="{ width: 'min(26rem, 94vw)' }"
    >
      <form (ngSubmit)="submit()">
        <p>Your session has ended. Everything stays as it is here; sign in and it goes on.</p>
        <input name="name" autocomplete="username" hidden [value]="name()" />
        <label for="again-password">Password of {{ name() }}</label>
        <input
          pInputText
          id="again-password"
          name="password"
          type="password"
          autocomplete="current-password"
          [(ngModel)]="password"
          required
        />
        @if (problem(); as text) {
          <p class="problem-text" role="alert">{{ text }}</p>
        }
        <div class="acts">
          <p-button type="submit" label="Sign in and go on" [loading]="busy()" />
          <p-button label="Not now" [text]="true" severity="secondary" (onClick)="later()" />
        </div>
      </form>
    </p-dialog>
  `,
  styles: `
    form {
      display: flex;
      flex-direction: column;
      gap: 0.4rem;
    }
    p {
      margin: 0 0 0.4rem;
    }
    label {
      font-weight: 600;
    }
    .acts {
      display: flex;
      flex-wrap: wrap;
      gap: 0.6rem;
      margin-top: 0.6rem;
    }
  `,
})
export class SignInAgainDialog {
  private readonly session = inject(Session);
  protected readonly again = inject(SignInAgain);
  protected readonly problem = signal('');
  protected readonly busy = signal(false);
  protected password = '';

  constructor() {
    this.again.canAsk.set(true);
    inject(DestroyRef).onDestroy(() => this.again.canAsk.set(false));
  }

  protected name(): string {
    return this.session.person()?.signIn ?? '';
  }

  protected submit(): void {
    if (this.password === '') {
      this.problem.set('Give your password.');
      return;
    }
    this.busy.set(true);
    this.session.signIn(this.name(), this.password).subscribe({
      next: () => this.done(true),
      error: (error: unknown) => {
        this.busy.set(false);
        this.problem.set(problemText(error));
      },
    });
  }

  protected later(): void {
    this.done(false);
  }

  private done(signedIn: boolean): void {
    this.busy.set(false);
    this.problem.set('');
    this.password = '';
    this.again.answer(signedIn);
  }
}
