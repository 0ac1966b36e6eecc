import { known } from '../model/known.js';
import type { Label } from './notes.js';
import { flattenPages, type NumberedPage, type NumberedPublication } from './numbered.js';

/** One line of the contents, with those below it. */
export interface ContentsEntry {
  readonly label: Label;
  readonly page: NumberedPage;
  readonly entries: readonly ContentsEntry[];
}

/**
 * The contents: every page, and the sections inside topics down to a depth.
 * @param depth how many levels of sections below each page's title
 */
export function contentsOf(publication: NumberedPublication, depth: number): readonly ContentsEntry[] {
  const visit = (page: NumberedPage): ContentsEntry => ({
    label: page.label,
    page,
    entries: [...sectionsOn(page, depth), ...page.pages.map(visit)],
  });
  return publication.pages.map(visit);
}

/** The sections of a page as lines of the contents, down to a depth. */
export function sectionsOn(page: NumberedPage, depth: number): readonly ContentsEntry[] {
  const top: ContentsEntry[] = [];
  // The lists that entries of each depth join, the page's first.
  const lists: ContentsEntry[][] = [top];
  page.notes.landmarks.forEach(({ kind, depth: level, aside }, at) => {
    const list = lists[level];
    if (kind !== 'section' || aside || level >= depth || !list) return;
    const entries: ContentsEntry[] = [];
    list.push({ label: known(page.labels[at]), page, entries });
    lists.length = level + 1;
    lists.push(entries);
  });
  return top;
}

/** What a list of figures, tables or examples shows: everything of the kind that has a caption, in order. */
export function captionsOf(
  publication: NumberedPublication,
  kind: 'figure' | 'table' | 'example',
): readonly { readonly label: Label; readonly page: NumberedPage }[] {
  return flattenPages(publication.pages).flatMap((page) =>
    page.labels
      .filter((label, at) => label.kind === kind && label.title.length > 0 && page.notes.landmarks[at]?.aside === false)
      .map((label) => ({ label, page })),
  );
}
