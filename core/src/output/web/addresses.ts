import { fileNameFor } from '../file-names.js';

/** The files that a site has beside its pages, without their ending. */
export const ownPages = {
  start: 'index',
  nothing: '404',
  figures: 'list-of-figures',
  tables: 'list-of-tables',
  examples: 'list-of-examples',
  glossary: 'glossary',
  index: 'index-of-terms',
} as const;

const taken: ReadonlySet<string> = new Set(Object.values(ownPages));
const names = new Map<string, string>();
const mostNames = 100_000;

/** The file of a page. */
export function pageFile(name: string): string {
  let file = names.get(name);
  if (file === undefined) {
    if (names.size >= mostNames) names.clear();
    names.set(name, (file = `${fileNameFor(name, taken)}.html`));
  }
  return file;
}

/** The file of a generated list. */
export function listFile(name: keyof typeof ownPages): string {
  return `${ownPages[name]}.html`;
}

/** The address of a page, or of a place on it, as it stands in links of other pages. */
export function addressOf({ page, anchor }: { readonly page: string; readonly anchor: string | null }): string {
  return encodeURIComponent(pageFile(page)) + (anchor === null ? '' : `#${encodeURIComponent(anchor)}`);
}
