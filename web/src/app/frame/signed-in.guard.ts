import { inject } from '@angular/core';
import { Router, type CanActivateFn } from '@angular/router';
import { catchError, map, of } from 'rxjs';
import { Session } from '../shared/session';

/** Leads people who are not signed in to the sign-in page, and back afterwards. */
export const signedIn: CanActivateFn = (_route, state) => {
  const router = inject(Router);
  const toSignIn = router.createUrlTree(['/sign-in'], { queryParams: { to: state.url } });
  return inject(Session)
    .load()
    .pipe(
      map((info) => (info.person ? true : toSignIn)),
      catchError(() => of(toSignIn)),
    );
};
