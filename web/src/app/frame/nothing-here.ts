import { ChangeDetectionStrategy, Component, inject } from '@angular/core';
import { Router } from '@angular/router';
import { NotOpened } from '../shared/not-opened';

/** What is shown at an address that leads nowhere. */
@Component({
  selector: 'al-nothing-here',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [NotOpened],
  template: `
    <al-not-opened heading="There is nothing at this address" to="/library" place="the library" [mayTryAgain]="false">
      <p class="mono">{{ address }}</p>
      <p>It may have been cut off on its way here.</p>
    </al-not-opened>
  `,
  styles: `
    p {
      overflow-wrap: anywhere;
    }
  `,
})
export class NothingHere {
  protected readonly address = inject(Router).url;
}
