import { ChangeDetectionStrategy, Component, inject, signal } from '@angular/core';
import { FormsModule } from '@angular/forms';
import { Router } from '@angular/router';
import type { Invitation } from '@allomorph/core';
import { Button } from 'primeng/button';
import { InputText } from 'primeng/inputtext';
import { Api, problemText } from '../shared/api';
import { Session } from '../shared/session';

/** Where somebody comes in by a link: invited, to set a new password, or as the first of all. */
@Component({
  selector: 'al-join',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [FormsModule, Button, InputText],
  template: `
    <main>
      <form (ngSubmit)="submit()">
        @if (invitation(); as asked) {
          @if (asked.isFirst) {
            <h1>Be the first keeper</h1>
            <p>Nobody is here yet. Whoever comes in by this link looks after the library and invites the others.</p>
          } @else if (asked.signIn) {
            <h1>Set a new password</h1>
            <p>For {{ asked.name }} in “{{ asked.workspace }}”. You are signed out everywhere else.</p>
          } @else {
            <h1>Come in</h1>
            <p>You are invited to “{{ asked.workspace }}” as a {{ asked.role }}.</p>
          }
          @if (!asked.signIn) {
            <div class="field">
              <label for="join-name">Your name</label>
              <input pInputText id="join-name" name="name" autocomplete="name" [(ngModel)]="name" />
              <small>As the others see it.</small>
            </div>
          }
          <div class="field">
            <label for="join-sign-in">Name to sign in with</label>
            <input
              pInputText
              id="join-sign-in"
              name="signIn"
              autocomplete="username"
              [readonly]="asked.signIn !== null"
              [(ngModel)]="signIn"
            />
          </div>
          <div class="field">
            <label for="join-password">Password</label>
            <input
              pInputText
              id="join-password"
              name="password"
              type="password"
              autocomplete="new-password"
              aria-describedby="join-password-hint"
              [(ngModel)]="password"
            />
            <small id="join-password-hint">At least ten signs; a few words do well.</small>
          </div>
          @if (problem(); as text) {
            <p class="problem-text" role="alert">{{ text }}</p>
          }
          <p-button type="submit" label="Come in" [loading]="busy()" />
        } @else if (problem(); as text) {
          <h1>This link does not open</h1>
          <p role="alert">{{ text }}</p>
        } @else {
          <p>Reading the invitation …</p>
        }
      </form>
    </main>
  `,
  styles: `
    main {
      min-height: 100vh;
      display: grid;
      place-items: center;
      padding: 1.5rem;
    }
    form {
      width: min(26rem, 100%);
      padding: 2rem 2.2rem;
      background: var(--sheet);
      border: 1px solid var(--line);
      border-top: 6px solid var(--accent);
    }
    h1 {
      font: 600 1.6rem/1.2 var(--serif);
      margin: 0 0 0.6rem;
    }
    p {
      margin: 0 0 1.1rem;
    }
  `,
})
export class Join {
  private readonly api = inject(Api);
  private readonly session = inject(Session);
  private readonly router = inject(Router);
  /** Behind the number sign of the address: it is sent to no server on the way here. */
  private readonly token = location.hash.slice(1);

  protected readonly invitation = signal<Invitation | null>(null);
  protected readonly problem = signal('');
  protected readonly busy = signal(false);
  protected name = '';
  protected signIn = '';
  protected password = '';

  constructor() {
    this.api.readInvitation(this.token).subscribe({
      next: (invitation) => {
        this.name = invitation.name;
        this.signIn = invitation.signIn ?? '';
        this.invitation.set(invitation);
      },
      error: (error: unknown) =>
        this.problem.set(this.token === '' ? 'The link is not whole; its last part is missing.' : problemText(error)),
    });
  }

  protected submit(): void {
    if (this.busy() || !this.invitation()) return;
    this.busy.set(true);
    const { token, name, signIn, password } = this;
    this.session.accept({ token, name, signIn, password }).subscribe({
      next: () => void this.router.navigateByUrl('/library'),
      error: (error: unknown) => {
        this.busy.set(false);
        this.problem.set(problemText(error));
      },
    });
  }
}
