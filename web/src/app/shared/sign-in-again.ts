import { HttpClient, HttpContextToken, type HttpErrorResponse, type HttpInterceptorFn } from '@angular/common/http';
import { inject, Injectable, Injector, signal } from '@angular/core';
import { addressOfRoute, routes } from '@allomorph/core';
import { catchError, Subject, switchMap, take, throwError, type Observable } from 'rxjs';

/** Asks the person to sign in again where they are, when the session has ended, so that what waits goes on afterwards. */
@Injectable({ providedIn: 'root' })
export class SignInAgain {
  /** Whether the question stands on the screen. */
  readonly asking = signal(false);
  /** Set by whatever can show the question; without it nothing is asked. */
  readonly canAsk = signal(false);
  private readonly answers = new Subject<boolean>();

  /** Waits for the answer: true when the person has signed in again. */
  ask(): Observable<boolean> {
    this.asking.set(true);
    return this.answers.pipe(take(1));
  }

  answer(signedIn: boolean): void {
    this.asking.set(false);
    this.answers.next(signedIn);
  }
}

const sessionAddress = addressOfRoute(routes.session, {});
const tokenHeader = 'X-XSRF-TOKEN';

/** Set on requests that nobody waits for: an ended session is nothing to ask the person about for their sake. */
export const askedQuietly = new HttpContextToken(() => false);

/** Requests that the server refused because the session has ended are sent again after the person has signed in. */
export const resumeAfterSignIn: HttpInterceptorFn = (request, next) => {
  const again = inject(SignInAgain);
  const injector = inject(Injector);
  return next(request).pipe(
    catchError((error: HttpErrorResponse) => {
      const quiet = request.url === sessionAddress || request.context.get(askedQuietly);
      if (error.status !== 401 || quiet || !again.canAsk()) return throwError(() => error);
      return again.ask().pipe(
        switchMap((signedIn) => {
          if (!signedIn) return throwError(() => error);
          // The new session has a token of its own.
          const anew = request.clone({ headers: request.headers.delete(tokenHeader) });
          return injector.get(HttpClient).request(anew);
        }),
      );
    }),
  );
};
