import { DestroyRef, effect, inject, signal, untracked } from '@angular/core';
import type { Observable } from 'rxjs';
import { problemText } from './api';
import { Notices } from './notices';

/**
 * Sends what a form asks for, once at a time, and says beside the form what went wrong; in a notice, where the form is not
 * there any more. Made where a part of the interface is made.
 */
export class Sending {
  readonly busy = signal(false);
  readonly problem = signal('');
  private readonly notices = inject(Notices);
  private readonly destroyed = inject(DestroyRef);
  private form = 0;

  /** @param shown what is asked in the form, or whether it is open: with each change of it the form begins anew */
  constructor(shown?: () => unknown) {
    if (!shown) return;
    effect(() => {
      shown();
      untracked(() => this.begin());
    });
  }

  /** The form is opened or closed: an answer that is still to come is not for it. */
  begin(): void {
    this.form += 1;
    this.busy.set(false);
    this.problem.set('');
  }

  /**
   * @param done called with the answer, unless the part of the interface that asked is gone; told whether the form still
   *   stands as it was sent
   */
  send<Answer>(request: Observable<Answer>, done: (answer: Answer, isOpen: boolean) => void): void {
    if (this.busy()) return;
    const { form } = this;
    const isOpen = (): boolean => form === this.form && !this.destroyed.destroyed;
    this.busy.set(true);
    this.problem.set('');
    request.subscribe({
      next: (answer) => {
        if (isOpen()) this.busy.set(false);
        if (!this.destroyed.destroyed) done(answer, isOpen());
      },
      error: (error: unknown) => {
        if (!isOpen()) {
          this.notices.failed(error);
          return;
        }
        this.busy.set(false);
        this.problem.set(problemText(error));
      },
    });
  }
}
