import { ChangeDetectionStrategy, Component, input, output } from '@angular/core';
import { RouterLink } from '@angular/router';

/** Stands where a thing would, when that cannot be shown: why, a second try, and a way on. */
@Component({
  selector: 'al-not-opened',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [RouterLink],
  template: `
    <div class="empty">
      <h1>{{ heading() }}</h1>
      <ng-content />
      <p>
        @if (mayTryAgain()) {
          <button type="button" class="act" (click)="again.emit()">Try again</button>
        }
        <a [routerLink]="to()">Go to {{ place() }}</a>
      </p>
    </div>
  `,
  styles: `
    h1 {
      font: 600 1.5rem/1.2 var(--serif);
      color: var(--ink);
    }
    p {
      display: flex;
      flex-wrap: wrap;
      gap: 1rem;
      align-items: baseline;
      justify-content: center;
    }
    a {
      color: var(--accent);
    }
  `,
})
export class NotOpened {
  readonly heading = input.required<string>();
  /** Where to go on, such as the list in which the thing would stand. */
  readonly to = input.required<string>();
  readonly place = input.required<string>();
  /** Whether another try may go better. */
  readonly mayTryAgain = input(true);
  readonly again = output();
}
