import { ChangeDetectionStrategy, Component, inject } from '@angular/core';
import { Router, RouterLink } from '@angular/router';

/** What is shown at an address that leads nowhere. */
@Component({
  selector: 'al-nothing-here',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [RouterLink],
  template: `
    <div class="empty">
      <h1>There is nothing at this address</h1>
      <p class="mono">{{ address }}</p>
      <p>It may have been cut off on its way here. <a routerLink="/library">Go to the library</a></p>
    </div>
  `,
  styles: `
    h1 {
      font: 600 1.5rem/1.2 var(--serif);
      color: var(--ink);
    }
    p {
      overflow-wrap: anywhere;
    }
  `,
})
export class NothingHere {
  protected readonly address = inject(Router).url;
}
