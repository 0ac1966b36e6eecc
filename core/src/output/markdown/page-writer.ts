import type { ImageFile } from '../../model/component.js';
import { childrenOf } from '../../model/node.js';
import type { NumberedPage, NumberedPublication } from '../../number/numbered.js';
import { element } from '../markup.js';
import { wordsOf, type OutputWords } from '../words.js';
import { writeBlocks, writeHeading } from './write-blocks.js';

/** Writes one page of a publication as CommonMark: what its parts share. */
export class MarkdownWriter {
  readonly words: OutputWords;
  /** The occurrences of blocks without a label that something leads to. */
  readonly wanted: ReadonlySet<string> | undefined;

  constructor(
    readonly publication: NumberedPublication,
    readonly page: NumberedPage,
    readonly addresses: {
      readonly page: (at: { readonly page: string; readonly anchor: string | null }) => string;
      readonly picture: (file: ImageFile) => string;
    },
  ) {
    this.words = wordsOf(publication);
    this.wanted = publication.anchors.get(page.name);
  }

  addressOf(at: { readonly page: string; readonly anchor: string | null }): string {
    return at.page === this.page.name && at.anchor !== null
      ? `#${encodeURIComponent(at.anchor)}`
      : this.addresses.page(at);
  }

  pictureAddress(file: ImageFile): string {
    return this.addresses.picture(file);
  }

  /** The whole page. */
  text(): string {
    const place = { component: this.page.topic ?? '', placements: [], level: 2 };
    const heading = writeHeading(this, 1, this.page.label, place);
    const parts = [heading, writeBlocks(this, this.page.blocks, place), this.footnotes()];
    return `${parts.filter((part) => part !== '').join('\n\n')}\n`;
  }

  private footnotes(): string {
    const { footnotes, notes } = this.page;
    const items = [...footnotes].flatMap(([anchor, number]) => {
      const found = notes.footnotes.get(anchor);
      if (!found) return [];
      const { node, component, placements } = found;
      const start = this.wanted?.has(anchor) ? element('a', { id: anchor }, '') : '';
      const mark = `${element('a', { id: `_note-${number}` }, '')}${start}\\[${number}\\]`;
      return [`${mark} ${writeBlocks(this, childrenOf(node), { component, placements, level: 6 })}`];
    });
    return items.length === 0 ? '' : `---\n\n${items.join('\n\n')}`;
  }
}
