import { childrenOf, type AssembledNode } from '../../model/node.js';
import type { Label } from '../../number/notes.js';
import type { NumberedPage, NumberedPublication } from '../../number/numbered.js';
import { element } from '../markup.js';
import { wordsOf, type OutputWords } from '../words.js';
import { siteForm, type PageForm } from './page-form.js';
import { writeBlocks, writeHeading, writePageBlocks } from './write-blocks.js';
import { writeInline } from './write-inline.js';

const noPlacements: readonly string[] = [];

/** Writes one page of a publication as HTML: what its parts share. */
export class PageWriter {
  readonly words: OutputWords;
  /** The occurrences of blocks without a label that something leads to. */
  readonly wanted: ReadonlySet<string> | undefined;
  /** The footnotes that were called so far. */
  private called: Set<string> | undefined;

  constructor(
    readonly publication: NumberedPublication,
    readonly page: NumberedPage,
    readonly form: PageForm = siteForm,
  ) {
    this.words = wordsOf(publication);
    this.wanted = publication.anchors.get(page.name);
  }

  /** The content of the page: what stands in `<main>`. */
  content(): string {
    const { page } = this;
    const level = this.form.level(page.depth);
    const place = { component: page.topic ?? '', placements: noPlacements, level: level + 1 };
    const heading = writeHeading(this, level, page.label, place);
    return `${heading}${writePageBlocks(this, place)}${this.footnotes()}`;
  }

  /** Takes down that a footnote is called. Returns whether it was not called before. */
  call(anchor: string): boolean {
    this.called ??= new Set();
    const isFirst = !this.called.has(anchor);
    this.called.add(anchor);
    return isFirst;
  }

  /** A title of the page as it stands in a link that leads to it, such as in contents. */
  linkText(title: Label['title']): string {
    const place = {
      component: this.page.topic ?? '',
      placements: noPlacements,
      level: 1,
      elsewhere: true,
      inLink: true,
    };
    return writeInline(this, title, place);
  }

  /** Blocks of the page as they stand elsewhere, such as a definition in the glossary. */
  blocksElsewhere(
    nodes: readonly AssembledNode[],
    at: { readonly component: string; readonly placements: readonly string[] },
  ): string {
    return writeBlocks(this, nodes, { ...at, level: 2, elsewhere: true });
  }

  /** The id of an occurrence on this page. */
  id(anchor: string): string {
    return this.form.id(this.page.name, anchor);
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
      const start = this.wanted?.has(anchor) ? element('span', { id: this.id(anchor) }, '') : '';
      const back = element('a', { href: `#${this.id(`_call-${number}`)}` }, `[${number}]`);
      const attrs = { class: 'footnote', id: this.id(`_note-${number}`), ...this.form.note };
      items += `${element('div', attrs, `${start}${back} ${content}`)}\n`;
    }
    return `${element('section', { class: 'footnotes', 'aria-label': this.words.footnotes }, `\n${items}`)}\n`;
  }
}
