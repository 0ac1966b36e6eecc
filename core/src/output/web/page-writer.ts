import type { ImageFile } from '../../model/component.js';
import { childrenOf, type AssembledNode } from '../../model/node.js';
import type { Label, NumberedPage, NumberedPublication } from '../../number/numbered.js';
import { element } from '../markup.js';
import { outputWords, type OutputWords } from '../words.js';
import { imageFileName } from '../file-names.js';
import { writeBlocks, writeHeading } from './write-blocks.js';
import { writeInline } from './write-inline.js';

/** Writes one page of a publication as HTML: what its parts share. */
export class PageWriter {
  readonly words: OutputWords;
  /** The occurrences of blocks without a label that something leads to. */
  readonly wanted: ReadonlySet<string> | undefined;
  /** The footnotes that were called so far. */
  readonly called = new Set<string>();

  /** @param pictureAddress where a picture is found */
  constructor(
    readonly publication: NumberedPublication,
    readonly page: NumberedPage,
    readonly pictureAddress: (file: ImageFile) => string = imageFileName,
  ) {
    this.words = outputWords(publication.facts.language);
    this.wanted = publication.anchors.get(page.name);
  }

  /** The content of the page: what stands in `<main>`. */
  content(): string {
    const { page } = this;
    const place = { component: page.topic ?? '', placements: [], level: 2 };
    const heading = writeHeading(this, 1, page.label, place);
    return `${heading}${writeBlocks(this, page.blocks, place)}${this.footnotes()}`;
  }

  /** A title of the page as it stands in a link that leads to it, such as in contents. */
  linkText(title: Label['title']): string {
    const place = { component: this.page.topic ?? '', placements: [], level: 1, elsewhere: true, inLink: true };
    return writeInline(this, title, place);
  }

  /** Blocks of the page as they stand elsewhere, such as a definition in the glossary. */
  blocksElsewhere(
    nodes: readonly AssembledNode[],
    at: { readonly component: string; readonly placements: readonly string[] },
  ): string {
    return writeBlocks(this, nodes, { ...at, level: 2, elsewhere: true });
  }

  private footnotes(): string {
    const { footnotes, notes } = this.page;
    if (footnotes.size === 0) return '';
    let items = '';
    for (const [anchor, number] of footnotes) {
      const found = notes.footnotes.get(anchor);
      if (!found) continue;
      const { node, component, placements } = found;
      const content = writeBlocks(this, childrenOf(node), { component, placements, level: 6 });
      // What leads to the footnote as a block leads here, too.
      const start = this.wanted?.has(anchor) ? element('span', { id: anchor }, '') : '';
      const back = element('a', { href: `#_call-${number}` }, `[${number}]`);
      items += `${element('div', { class: 'footnote', id: `_note-${number}` }, `${start}${back} ${content}`)}\n`;
    }
    return `${element('section', { class: 'footnotes', 'aria-label': this.words.footnotes }, `\n${items}`)}\n`;
  }
}
