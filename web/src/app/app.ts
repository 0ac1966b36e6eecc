import { ChangeDetectionStrategy, Component, inject } from '@angular/core';
import { RouterOutlet } from '@angular/router';
import { Toast } from 'primeng/toast';
import { Notices, type NoticeData } from './shared/notices';
import { QuestionDialog } from './shared/question-dialog';

@Component({
  selector: 'al-root',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [RouterOutlet, Toast, QuestionDialog],
  template: `
    <router-outlet />
    <p-toast position="bottom-right">
      <ng-template #message let-message>
        <div class="notice">
          <b>{{ message.summary }}</b>
          @if (message.detail) {
            <p>{{ message.detail }}</p>
          }
          @if (message.data; as data) {
            <button type="button" (click)="undo(data)">Undo</button>
          }
        </div>
      </ng-template>
    </p-toast>
    <al-question-dialog />
  `,
  styles: `
    .notice {
      flex: 1;
    }
    .notice p {
      margin: 0.2rem 0 0;
    }
    .notice button {
      border: 0;
      border-bottom: 2px solid currentColor;
      background: none;
      color: inherit;
      font: 650 1rem var(--sans);
      padding: 0.2rem 0 0;
      cursor: pointer;
    }
  `,
})
export class App {
  private readonly notices = inject(Notices);

  protected undo(data: NoticeData): void {
    this.notices.clear();
    data.undo();
  }
}
