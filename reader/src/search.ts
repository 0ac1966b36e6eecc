import MiniSearch, { type SearchResult } from 'minisearch';
import { searchOptions, type IndexedPassage } from '../../core/src/output/web/search-options.js';
import { searchWords } from '../../core/src/output/search-words.js';
import { make, site } from './site.js';

const mostShown = 30;
/** How much of a passage stands around the first place that fits. */
const around = 90;

let index: Promise<MiniSearch<IndexedPassage>> | null = null;

/** The index is loaded once somebody searches: as a script, which browsers read from a folder, too. */
function load(): Promise<MiniSearch<IndexedPassage>> {
  index ??= new Promise((resolve, reject) => {
    const script = make('script', { src: 'search.js' });
    script.addEventListener('load', () => {
      const options = searchOptions(site?.language ?? 'en');
      resolve(MiniSearch.loadJSON<IndexedPassage>(window.siteSearch ?? '', options));
    });
    script.addEventListener('error', () => reject(new Error('The index cannot be read.')));
    document.head.append(script);
  });
  return index;
}

/** The field in the header, and what it finds. */
export function searchField(): void {
  const header = document.querySelector('body > header');
  if (!header || !site) return;
  const { words } = site;
  const field = make('input', { type: 'search', 'aria-label': words.search, placeholder: words.search });
  const results = make('div', { class: 'results', role: 'region', 'aria-label': words.results });
  results.hidden = true;
  const box = make('div', { class: 'search', role: 'search' }, field, results);
  header.append(box);
  let asked = 0;
  const show = async (): Promise<void> => {
    const query = field.value.trim();
    const turn = ++asked;
    if (query === '') {
      results.hidden = true;
      return;
    }
    const found = await load().then(
      (loaded) => loaded.search(query),
      () => null,
    );
    if (turn !== asked) return;
    results.replaceChildren(...(found ? listed(found, query) : [make('p', {}, words.nothingFound)]));
    results.hidden = false;
  };
  field.addEventListener('input', () => void show());
  field.addEventListener('focus', () => void load().catch(() => undefined));
  box.addEventListener('keydown', (event) => {
    const links = [...results.querySelectorAll('a')];
    const at = links.indexOf(document.activeElement as HTMLAnchorElement);
    if (event.key === 'Escape') {
      results.hidden = true;
      field.focus();
    } else if (event.key === 'ArrowDown' && !results.hidden) links[Math.min(at + 1, links.length - 1)]?.focus();
    else if (event.key === 'ArrowUp' && !results.hidden) (at <= 0 ? field : links[at - 1])?.focus();
    else if (event.key === 'Enter' && document.activeElement === field) links[0]?.click();
    else return;
    event.preventDefault();
  });
  document.addEventListener('click', (event) => {
    if (event.target instanceof Node && !box.contains(event.target)) results.hidden = true;
  });
  document.addEventListener('keydown', (event) => {
    const isTyping = document.activeElement instanceof HTMLInputElement;
    if (event.key !== '/' || isTyping || event.ctrlKey || event.metaKey || event.altKey) return;
    event.preventDefault();
    field.focus();
  });
}

function listed(found: readonly SearchResult[], query: string): readonly Node[] {
  const words = site?.words;
  if (found.length === 0) return [make('p', {}, words?.nothingFound ?? '')];
  const items = found.slice(0, mostShown).map((each) => {
    const { title, within, href, text, terms } = each as SearchResult & IndexedPassage;
    const [file = '', anchor] = href.split('#');
    const address = `${file}?q=${encodeURIComponent(query)}${anchor === undefined ? '' : `#${anchor}`}`;
    const link = make('a', { href: address }, make('b', {}, ...marked(title, terms)));
    if (within !== '') link.append(make('small', {}, within));
    link.append(make('span', {}, ...marked(excerpt(text, terms), terms)));
    return make('li', {}, link);
  });
  return [make('ul', {}, ...items)];
}

/** Where a word that fits stands in a text; -1: nowhere. */
function placeOf(text: string, terms: readonly string[]): number {
  for (const { index: at, 0: word } of text.matchAll(/[\p{L}\p{M}\p{N}._-]+/gu)) if (fits(word, terms)) return at;
  return -1;
}

function fits(word: string, terms: readonly string[]): boolean {
  return searchWords(word, site?.language ?? 'en').some((each) => terms.includes(each));
}

function excerpt(text: string, terms: readonly string[]): string {
  const at = Math.max(0, placeOf(text, terms));
  const from = at < around ? 0 : text.indexOf(' ', at - around) + 1;
  const to = at + 2 * around > text.length ? text.length : text.lastIndexOf(' ', at + 2 * around);
  return `${from > 0 ? '… ' : ''}${text.slice(from, to)}${to < text.length ? ' …' : ''}`;
}

/** A text with the words that fit marked. */
function marked(text: string, terms: readonly string[]): readonly (Node | string)[] {
  return text
    .split(/([\p{L}\p{M}\p{N}._-]+)/u)
    .map((piece, at) => (at % 2 === 1 && fits(piece, terms) ? make('mark', {}, piece) : piece));
}

/** Marks on the page what was searched for on the way to it. */
export async function markFound(): Promise<void> {
  const query = new URLSearchParams(location.search).get('q');
  const main = document.querySelector('main');
  if (!query || !main || !site) return;
  const found = (await load()).search(query);
  const terms = [...new Set(found.flatMap(({ terms: each }) => each))];
  const walker = document.createTreeWalker(main, NodeFilter.SHOW_TEXT);
  const texts: Text[] = [];
  while (walker.nextNode()) texts.push(walker.currentNode as Text);
  for (const text of texts) {
    const pieces = marked(text.data, terms);
    if (pieces.some((piece) => typeof piece !== 'string')) text.replaceWith(...pieces);
  }
}
