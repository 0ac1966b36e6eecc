/** Where something is written on a page. */
export interface WritingPlace {
  readonly component: string;
  readonly placements: readonly string[];
  /** Heading level, from 1. */
  readonly level: number;
  /** Not on its own page: nothing there can be led to, and what leads to the page names it. */
  readonly elsewhere?: boolean;
  /** In a link, where no other link can stand. */
  readonly inLink?: boolean;
}
