import { ChangeDetectionStrategy, Component, inject, input, signal } from '@angular/core';
import { FormsModule } from '@angular/forms';
import { Router } from '@angular/router';
import { Button } from 'primeng/button';
import { InputText } from 'primeng/inputtext';
import { problemText } from '../shared/api';
import { Session } from '../shared/session';

@Component({
  selector: 'al-sign-in',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [FormsModule, Button, InputText],
  template: `
    <main>
      <section class="word">
        <h1>Allomorph</h1>
        <p>Write once, know where every piece goes, and never ship the wrong variant.</p>
        <div class="braid" aria-hidden="true">
          <span class="pattern-0"></span><span class="pattern-1"></span><span class="pattern-2"></span
          ><span class="pattern-3"></span><span class="pattern-4"></span><span class="pattern-5"></span>
        </div>
      </section>
      <form (ngSubmit)="submit()">
        <h2>Sign in</h2>
        <label for="name">Name</label>
        <input pInputText id="name" name="name" autocomplete="username" [(ngModel)]="name" required />
        <label for="password">Password</label>
        <input
          pInputText
          id="password"
          name="password"
          type="password"
          autocomplete="current-password"
          [(ngModel)]="password"
          required
        />
        @if (problem(); as text) {
          <p class="problem" role="alert">{{ text }}</p>
        }
        <p-button type="submit" label="Sign in" [loading]="busy()" />
      </form>
    </main>
  `,
  styles: `
    main {
      min-height: 100vh;
      display: grid;
      grid-template-columns: minmax(0, 1.2fr) minmax(20rem, 1fr);
    }
    .word {
      background: var(--accent-deep);
      color: #f6f1e6;
      padding: 18vh 4rem 3rem;
      display: flex;
      flex-direction: column;
    }
    h1 {
      font: 600 3.4rem/1 var(--serif);
      margin: 0 0 1rem;
      letter-spacing: -0.01em;
    }
    .word p {
      font: 1.25rem/1.5 var(--serif);
      max-width: 26rem;
      margin: 0;
    }
    .braid {
      margin-top: auto;
      display: flex;
      gap: 6px;
      height: 5.5rem;
      --lane: #e9a23b;
    }
    .braid span {
      flex: 1;
      border-radius: 2px;
      opacity: 0.9;
    }
    form {
      align-self: center;
      width: min(20rem, 80%);
      margin: 0 auto;
      display: flex;
      flex-direction: column;
      gap: 0.4rem;
    }
    h2 {
      font: 600 1.5rem/1.2 var(--serif);
      margin: 0 0 0.8rem;
    }
    label {
      font-weight: 600;
      margin-top: 0.4rem;
    }
    p-button {
      margin-top: 1rem;
    }
    .problem {
      color: var(--alarm);
      margin: 0.6rem 0 0;
    }
  `,
})
export class SignIn {
  private readonly session = inject(Session);
  private readonly router = inject(Router);

  /** Where to go afterwards. */
  readonly to = input<string>();
  protected name = '';
  protected password = '';
  protected readonly problem = signal('');
  protected readonly busy = signal(false);

  protected submit(): void {
    if (this.name.trim() === '' || this.password === '') {
      this.problem.set('Give your name and your password.');
      return;
    }
    this.busy.set(true);
    this.session.signIn(this.name.trim(), this.password).subscribe({
      next: () => void this.router.navigateByUrl(this.to() ?? '/library'),
      error: (error: unknown) => {
        this.problem.set(problemText(error));
        this.busy.set(false);
      },
    });
  }
}
