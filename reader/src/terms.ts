import { TermFinder } from '../../core/src/output/web/term-finder.js';
import { glossaryFile } from '../../core/src/output/web/site-data.js';
import { explain } from './bubble.js';
import { make, site } from './site.js';

/** Where a term is no use of a term, or what one clicks on does something else. */
const apart = 'h1, h2, h3, h4, h5, h6, .heading, dfn, dt, a, button, code, kbd, pre, .signal, [role=button]';

let definitions: Promise<readonly string[]> | null = null;

/** The definitions are loaded once somebody asks for one: as a script, which browsers read from a folder, too. */
function load(): Promise<readonly string[]> {
  definitions ??= new Promise((resolve) => {
    const script = make('script', { src: glossaryFile });
    script.addEventListener('load', () => resolve(window.siteGlossary ?? []));
    script.addEventListener('error', () => resolve([]));
    document.head.append(script);
  });
  return definitions;
}

/** Marks the terms of the glossary, each where a section first uses it, and shows what they mean. */
export function termsInPlace(): void {
  if (!site || site.terms.length === 0) return;
  const finder = new TermFinder(site.terms, site.language);
  const explained = new Map<Element | null, Set<number>>();
  const texts = document.createTreeWalker(document.querySelector('main:not(.generated)') ?? make('main'), 4);
  const found: Text[] = [];
  while (texts.nextNode()) found.push(texts.currentNode as Text);
  for (const text of found) {
    if (text.parentElement?.closest(apart)) continue;
    const section = text.parentElement?.closest('section, .slot > *') ?? null;
    const known = explained.get(section) ?? new Set();
    explained.set(section, known);
    // From the end, so that what stands before stays where it is.
    const uses = finder.usesIn(text.data).filter(({ term }) => !known.has(term) && known.add(term));
    for (const { term, from, to } of uses.reverse()) {
      const use = text.splitText(from);
      use.splitText(to - from);
      const mark = make('span', { class: 'term', role: 'button', tabindex: '0' });
      use.replaceWith(mark);
      mark.append(use);
      explain(mark, async () => {
        const definition = (await load())[term] ?? '';
        return definition === '' ? [] : definition.split('\n').map((paragraph) => make('p', {}, paragraph));
      });
    }
  }
}
