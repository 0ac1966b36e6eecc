import { inject, Injectable } from '@angular/core';
import type { StepBack } from '@allomorph/core';
import { Api } from '../shared/api';
import { Notices } from '../shared/notices';
import { Wording } from '../shared/wording';

/** Takes back, in one act, what was done with many components. */
@Injectable({ providedIn: 'root' })
export class StepsBack {
  private readonly api = inject(Api);
  private readonly notices = inject(Notices);
  private readonly wording = inject(Wording);

  /**
   * Says what was done, with a way back where something changed.
   * @param changed called when it was taken back
   */
  told(text: string, back: readonly StepBack[], changed: () => void): void {
    if (back.length === 0) this.notices.done(text);
    else this.notices.undoable(text, () => this.take(back, changed));
  }

  private take(steps: readonly StepBack[], changed: () => void): void {
    this.api.takeStepsBack(steps).subscribe({
      next: ({ done, refused, back }) => {
        const things = this.wording.count(done.length, 'component is', 'components are');
        const stays = refused
          .slice(0, 3)
          .map(({ why }) => ` ${why}`)
          .join('');
        const more = refused.length > 3 ? ` And ${refused.length - 3} more stay as they are.` : '';
        this.told(`${things} as before.${stays}${more}`, back, changed);
        changed();
      },
      error: (error: unknown) => this.notices.failed(error),
    });
  }
}
