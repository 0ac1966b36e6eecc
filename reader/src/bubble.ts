import { make } from './site.js';

/** How long what is shown stays when the pointer leaves, so that it can be moved onto it (WCAG 2.2, 1.4.13), in milliseconds. */
const stay = 250;

let bubble: HTMLElement | null = null;
let shown: HTMLElement | null = null;
let leaving = 0;

function hide(): void {
  window.clearTimeout(leaving);
  if (bubble) bubble.hidden = true;
  shown?.removeAttribute('aria-describedby');
  shown = null;
}

function leave(): void {
  window.clearTimeout(leaving);
  leaving = window.setTimeout(hide, stay);
}

function placed(): HTMLElement {
  if (bubble) return bubble;
  bubble = make('div', { class: 'bubble', role: 'tooltip', id: '_bubble' });
  bubble.addEventListener('mouseenter', () => window.clearTimeout(leaving));
  bubble.addEventListener('mouseleave', leave);
  document.addEventListener('keydown', (event) => {
    if (event.key === 'Escape') hide();
  });
  document.body.append(bubble);
  return bubble;
}

/**
 * Shows something below an element while that is pointed at, focused or tapped; Escape puts it away.
 * @param content what is shown; empty: nothing is
 */
export function explain(element: HTMLElement, content: () => readonly Node[] | Promise<readonly Node[]>): void {
  const show = async (): Promise<void> => {
    hide();
    shown = element;
    const nodes = await content();
    // Something else may be pointed at by now.
    if (shown !== element || nodes.length === 0) return;
    const box = placed();
    box.replaceChildren(...nodes);
    box.hidden = false;
    element.setAttribute('aria-describedby', box.id);
    const { left, bottom } = element.getBoundingClientRect();
    const room = document.documentElement.clientWidth - box.offsetWidth - 8;
    box.style.left = `${Math.max(8, Math.min(left, room)) + window.scrollX}px`;
    box.style.top = `${bottom + window.scrollY + 6}px`;
  };
  element.addEventListener('mouseenter', () => void show());
  element.addEventListener('focus', () => void show());
  element.addEventListener('mouseleave', leave);
  element.addEventListener('blur', hide);
}
