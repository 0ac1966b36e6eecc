import { inject } from '@angular/core';
import type { CanDeactivateFn } from '@angular/router';
import { ConfirmationService } from 'primeng/api';

/** A place whose work can be unsaved. */
export interface HoldsWork {
  hasUnsavedWork(): boolean;
  /** Forgets what was not saved, where it is kept anywhere. */
  discardWork?(): void;
}

/** Asks before a place with unsaved work is left. */
export const unsavedGuard: CanDeactivateFn<HoldsWork> = (place) => {
  if (!place.hasUnsavedWork()) return true;
  const confirmation = inject(ConfirmationService);
  return new Promise<boolean>((resolve) => {
    confirmation.confirm({
      header: 'Leave without saving?',
      message: 'What you changed here has not been saved.',
      // Said each time: the dialog keeps what the last question said.
      acceptVisible: true,
      acceptLabel: 'Leave and discard',
      rejectLabel: 'Stay',
      acceptButtonProps: { severity: 'danger', outlined: true },
      accept: () => {
        place.discardWork?.();
        resolve(true);
      },
      reject: () => resolve(false),
    });
  });
};
