import { DOCUMENT, inject } from '@angular/core';
import type { NavigationError } from '@angular/router';
import { Notices } from './notices';

/** Whether a part of the program could not be loaded; browsers say it in words of their own. */
function isPartMissing(error: unknown): boolean {
  return (
    error instanceof TypeError && /dynamically imported module|importing a module script failed/i.test(error.message)
  );
}

/** When the program was begun anew last, in milliseconds since 1970. */
const begunAt = 'allomorph.begun-anew-at';
/** What is begun anew twice within this time, in milliseconds, misses a part for another reason. */
const soon = 10_000;

/**
 * Parts of the program are named after what they hold: once another version is installed, those of before are gone, and a
 * window that is open still asks for them. The program is begun anew at the place that was wanted; where the server is not
 * reached at all, that is said, and what is open stays.
 */
export async function beginAnew({ error, url }: NavigationError): Promise<void> {
  const notices = inject(Notices);
  const window = inject(DOCUMENT).defaultView;
  if (!window || !isPartMissing(error)) return;
  const reached = await window.fetch('/', { method: 'HEAD', cache: 'no-store' }).then(
    ({ ok }) => ok,
    () => false,
  );
  if (!reached) {
    notices.failed(new Error('This place cannot be loaded, as the server is not reached. Try it again in a moment.'));
  } else if (Date.now() - Number(window.sessionStorage.getItem(begunAt) ?? 0) < soon) {
    notices.failed(new Error('This place cannot be loaded. Whoever looks after the server can tell why.'));
  } else {
    window.sessionStorage.setItem(begunAt, String(Date.now()));
    window.location.assign(url);
  }
}
