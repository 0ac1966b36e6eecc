import { explain } from './bubble.js';

/** Shows a footnote where it is called. */
export function notesInPlace(): void {
  for (const call of document.querySelectorAll<HTMLAnchorElement>('main a[id^="_call-"]'))
    explain(call, () => noteOf(call));
}

function noteOf(call: HTMLAnchorElement): readonly Node[] {
  const note = document.getElementById(decodeURIComponent(call.hash.slice(1)));
  if (!note) return [];
  const copy = note.cloneNode(true) as HTMLElement;
  copy.querySelectorAll('[id]').forEach((each) => each.removeAttribute('id'));
  // Its first link leads back to where it is called.
  copy.querySelector('a')?.remove();
  return [...copy.childNodes];
}
