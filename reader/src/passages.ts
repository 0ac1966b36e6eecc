// The script of pages whose passages are asked where they come from: tells the application which one was chosen, by mouse
// or keyboard. The page stands in a frame of its own and reaches nothing but the window around it.

const passages = [...document.querySelectorAll<HTMLElement>('[data-passage]')];

function tell(passage: Element | null, href: string | null): void {
  for (const each of passages) each.toggleAttribute('aria-current', false);
  passage?.setAttribute('aria-current', 'true');
  // Whoever shows the page may know what was chosen.
  parent.postMessage({ passage: passage?.getAttribute('data-passage') ?? '', href }, '*');
}

/** The passage around a place; in a cell beside its text, what stands in the cell. */
function passageAt(place: Element): Element | null {
  const passage = place.closest('[data-passage]');
  const cell = place.closest('td, th');
  return cell && passage?.contains(cell) ? (cell.querySelector('[data-passage]') ?? passage) : passage;
}

function choose(event: Event): void {
  const target = event.target instanceof Element ? event.target : null;
  event.preventDefault();
  tell(target && passageAt(target), target?.closest('a')?.getAttribute('href') ?? null);
}

function move(from: HTMLElement, by: 1 | -1): void {
  const to = passages[passages.indexOf(from) + by];
  if (!to) return;
  from.tabIndex = -1;
  to.tabIndex = 0;
  to.focus();
}

for (const each of passages) each.tabIndex = -1;
if (passages[0]) passages[0].tabIndex = 0;
// What could be used in the page is only looked at.
for (const each of document.querySelectorAll<HTMLElement>('a, audio, video')) each.tabIndex = -1;

document.addEventListener('click', choose);
document.addEventListener('keydown', (event) => {
  const at = event.target instanceof HTMLElement ? event.target : null;
  if (!at || !passages.includes(at)) return;
  if (event.key === 'Enter' || event.key === ' ') choose(event);
  else if (event.key === 'ArrowDown' || event.key === 'ArrowUp') {
    event.preventDefault();
    move(at, event.key === 'ArrowDown' ? 1 : -1);
  }
});
window.addEventListener('message', ({ source, data }: MessageEvent<unknown>) => {
  if (source !== parent || typeof data !== 'object' || data === null || !('show' in data)) return;
  const wanted = passages.find((each) => each.dataset['passage'] === data.show);
  if (!wanted) return;
  wanted.setAttribute('aria-current', 'true');
  wanted.scrollIntoView({ block: 'center' });
});
