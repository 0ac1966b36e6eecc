import { known } from '../../model/known.js';
import type { NumberedPage } from '../../number/numbered.js';
import { element } from '../markup.js';
import { addressOf, ownPages } from './addresses.js';

/** How many entries of one level stand before and after the one that leads to the page. */
const around = 4;

/**
 * The contents beside a page as it is without a script: the way down to it with its neighbours on each level, and what stands
 * below it. Of long levels a part is shown, so that a site grows with its pages and not with their square; the script of
 * the site puts the whole contents there, which all pages share.
 */
export class ContentsBeside {
  private readonly parents = new Map<NumberedPage, NumberedPage | null>();
  private readonly positions = new Map<NumberedPage, number>();
  private readonly items = new Map<NumberedPage, string>();

  /**
   * @param line a page's number and title as markup
   * @param more what leads to the whole contents
   */
  constructor(
    private readonly pages: readonly NumberedPage[],
    private readonly line: (page: NumberedPage) => string,
    private readonly more: string,
  ) {
    const visit = (level: readonly NumberedPage[], parent: NumberedPage | null): void => {
      level.forEach((page, at) => {
        this.parents.set(page, parent);
        this.positions.set(page, at);
        visit(page.pages, page);
      });
    };
    visit(pages, null);
  }

  /** The pages that a page stands below, from the top down. */
  above(page: NumberedPage): readonly NumberedPage[] {
    const parent = this.parents.get(page) ?? null;
    return parent ? [...this.above(parent), parent] : [];
  }

  /** @param page the page beside which they stand; null: one that has none of its own in the contents */
  of(page: NumberedPage | null): string {
    let below = page && page.pages.length > 0 ? this.list(page.pages, null, '') : '';
    for (let current = page; current; current = this.parents.get(current) ?? null) {
      const parent = this.parents.get(current) ?? null;
      const link = element(
        'a',
        { href: addressOf(current.label), 'aria-current': current === page ? 'page' : null },
        this.line(current),
      );
      const item = `<li>${link}${below === '' ? '' : `\n${below}`}</li>\n`;
      below = this.list(parent ? parent.pages : this.pages, current, item);
    }
    return page ? below : this.list(this.pages, null, '');
  }

  /** One level; the item that leads on stands for its page. */
  private list(level: readonly NumberedPage[], opened: NumberedPage | null, item: string): string {
    const at = opened ? (this.positions.get(opened) ?? 0) : 0;
    const from = Math.max(0, Math.min(at - around, level.length - 2 * around - 1));
    const to = Math.min(level.length, from + 2 * around + 1);
    let items = from > 0 ? this.moreItem() : '';
    for (let index = from; index < to; index += 1) {
      const page = known(level[index]);
      items += page === opened ? item : this.item(page);
    }
    if (to < level.length) items += this.moreItem();
    return `<ul>\n${items}</ul>\n`;
  }

  private item(page: NumberedPage): string {
    let item = this.items.get(page);
    if (item === undefined) {
      item = `<li>${element('a', { href: addressOf(page.label) }, this.line(page))}</li>\n`;
      this.items.set(page, item);
    }
    return item;
  }

  private moreItem(): string {
    return `<li>${element('a', { class: 'more', href: `${ownPages.start}.html` }, `… ${this.more}`)}</li>\n`;
  }
}
