import type { AssembledNode } from '../../model/node.js';
import type { Label } from '../../number/notes.js';
import type { NumberedPage } from '../../number/numbered.js';

/** What a page says of itself besides its blocks. */
export type PageHead = Pick<NumberedPage, 'name' | 'label' | 'labels'>;

/** Whether two pages with the same blocks have the same name, title and numbers. */
export function isAlike(a: PageHead, b: PageHead): boolean {
  return (
    a.name === b.name && a.labels === b.labels && a.label.title === b.label.title && a.label.number === b.label.number
  );
}

/** What was written of a page, with all that it was made from besides its blocks. */
interface Written extends PageHead {
  readonly look: string;
  /** The title of the chapter that it stands in; null where it is one itself. */
  readonly chapter: Label['title'] | null;
  readonly text: string;
}

/**
 * Writes something of a page and remembers it for as long as the page reads the same, wherever it stands.
 * @param write what becomes of a page by its blocks, its labels, the title of its chapter, and the look
 * @returns the same with `look`, which is equal only for equal designs and languages
 */
export function perPage<Around>(
  write: (page: NumberedPage, around: Around) => string,
): (page: NumberedPage, look: string, around: Around) => string {
  const last = new WeakMap<readonly AssembledNode[], Written>();
  return (page, look, around) => {
    const { blocks, name, label, labels } = page;
    const chapter = page.depth > 0 ? page.chapter.title : null;
    const before = last.get(blocks);
    const isAsBefore =
      before?.look === look &&
      before.chapter === chapter &&
      isAlike(before, page) &&
      // Which footnotes stand on a page depends on what calls them.
      page.footnotes.size === 0;
    if (isAsBefore) return before.text;
    const text = write(page, around);
    last.set(blocks, { look, name, chapter, label, labels, text });
    return text;
  };
}
