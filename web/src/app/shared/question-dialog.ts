import { ChangeDetectionStrategy, Component, inject, signal } from '@angular/core';
import { takeUntilDestroyed } from '@angular/core/rxjs-interop';
import { ConfirmationService, type Confirmation } from 'primeng/api';
import { Button } from 'primeng/button';
import { Dialog } from 'primeng/dialog';

/** Asks what `ConfirmationService` is given; nothing of it is on the page while nothing is asked. */
@Component({
  selector: 'al-question-dialog',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [Button, Dialog],
  template: `
    @if (asked(); as question) {
      <p-dialog
        [role]="'alertdialog'"
        [header]="question.header ?? ''"
        [modal]="true"
        [visible]="true"
        (visibleChange)="answer(false)"
        [style]="{ width: '30rem' }"
      >
        <p>{{ question.message }}</p>
        <div class="acts">
          <p-button
            [label]="question.rejectLabel ?? 'No'"
            [outlined]="true"
            severity="secondary"
            [autofocus]="true"
            (onClick)="answer(false)"
          />
          @if (question.acceptVisible !== false) {
            <p-button [label]="question.acceptLabel ?? 'Yes'" severity="danger" (onClick)="answer(true)" />
          }
        </div>
      </p-dialog>
    }
  `,
  styles: `
    p {
      margin: 0 0 1.2rem;
    }
    .acts {
      display: flex;
      justify-content: flex-end;
      flex-wrap: wrap;
      gap: 0.6rem;
    }
  `,
})
export class QuestionDialog {
  protected readonly asked = signal<Confirmation | null>(null);

  constructor() {
    inject(ConfirmationService)
      .requireConfirmation$.pipe(takeUntilDestroyed())
      .subscribe((question) => {
        // A question that another one takes the place of is answered with no.
        this.answer(false);
        this.asked.set(question);
      });
  }

  protected answer(isYes: boolean): void {
    const question = this.asked();
    this.asked.set(null);
    if (isYes) question?.accept?.();
    else question?.reject?.();
  }
}
