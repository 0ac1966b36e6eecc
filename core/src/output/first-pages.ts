import type { NumberedPage, NumberedPublication } from '../number/numbered.js';

/**
 * The first pages of a publication, as they are in the whole: for looking at a design without laying out all of it. What leads to
 * later pages reads as in the whole, and leads to the first page.
 */
export function firstPages(publication: NumberedPublication, count: number): NumberedPublication {
  let left = count;
  const cut = (pages: readonly NumberedPage[]): readonly NumberedPage[] =>
    pages.flatMap((page) => {
      if (left <= 0) return [];
      left -= 1;
      return [{ ...page, pages: cut(page.pages) }];
    });
  return { ...publication, pages: cut(publication.pages) };
}
