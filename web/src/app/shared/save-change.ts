import { HttpErrorResponse } from '@angular/common/http';
import type { Revised } from '@allomorph/core';
import { catchError, throwError, type Observable } from 'rxjs';

/** What there is now, where a save was refused because somebody saved meanwhile; null for any other failure. */
export function currentOf<Saved>(error: unknown): Saved | null {
  if (!(error instanceof HttpErrorResponse) || error.status !== 409) return null;
  return (error.error as { current?: Saved } | null)?.current ?? null;
}

/**
 * Saves a change of one part of something. Where somebody saved it meanwhile, the change is made on what is there now, so
 * that neither takes the other's away.
 * @param change must leave everything else as it is
 */
export function saveChange<Saved extends Revised>(
  from: Saved,
  change: (current: Saved) => Saved,
  save: (changed: Saved) => Observable<Saved>,
  tries = 5,
): Observable<Saved> {
  return save(change(from)).pipe(
    catchError((error: unknown) => {
      const current = tries > 1 ? currentOf<Saved>(error) : null;
      return current ? saveChange(current, change, save, tries - 1) : throwError(() => error);
    }),
  );
}
