import type { SiteEntry } from '../../core/src/output/web/site-data.js';
import { make, ownFile, site } from './site.js';

/** Puts the whole contents in place of the part that the page brings: the way to the page open, the rest folded. */
export function wholeContents(): void {
  const nav = document.querySelector('body > .sheet > .contents');
  const old = nav?.querySelector(':scope > ul');
  if (!nav || !old || !site) return;
  const own = ownFile();
  const { list, holds } = listOf(site.contents, own, site.words.fold);
  if (!holds) return;
  old.replaceWith(list);
  foldWhereNarrow(nav);
  nav.querySelector('[aria-current]')?.scrollIntoView({ block: 'center' });
  // Only the list moves, never the page.
  document.scrollingElement?.scrollTo(0, 0);
  if (location.hash !== '') document.getElementById(decodeURIComponent(location.hash.slice(1)))?.scrollIntoView();
}

/** On a narrow page the text comes first: the contents open when they are asked for. */
function foldWhereNarrow(nav: Element): void {
  const button = make('button', { type: 'button', class: 'unfold' }, nav.getAttribute('aria-label') ?? '');
  const fold = (folded: boolean): void => {
    nav.classList.toggle('folded', folded);
    button.setAttribute('aria-expanded', String(!folded));
  };
  button.addEventListener('click', () => fold(!nav.classList.contains('folded')));
  nav.prepend(button);
  fold(true);
}

function listOf(
  entries: readonly SiteEntry[],
  own: string,
  fold: string,
): { readonly list: HTMLUListElement; readonly holds: boolean } {
  const list = make('ul');
  let holds = false;
  for (const [number, title, href, below = []] of entries) {
    const item = make('li');
    const isOwn = decodeURIComponent(href) === own;
    const link = make('a', { href, ...(isOwn ? { 'aria-current': 'page' } : {}) });
    if (number !== '') link.append(make('span', { class: 'number' }, number), ' ');
    link.append(title);
    item.append(link);
    if (below.length > 0) {
      const inner = listOf(below, own, fold);
      const isOpen = isOwn || inner.holds;
      const button = make('button', { type: 'button', class: 'fold', 'aria-label': `${fold} ${title}` });
      const show = (open: boolean): void => {
        button.setAttribute('aria-expanded', String(open));
        inner.list.hidden = !open;
      };
      show(isOpen);
      button.addEventListener('click', () => show(inner.list.hidden !== false));
      item.prepend(button);
      item.append(inner.list);
      holds ||= isOpen;
    }
    holds ||= isOwn;
    list.append(item);
  }
  return { list, holds };
}
