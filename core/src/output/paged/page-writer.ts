import { topicHeading } from '../../assemble/sections.js';
import { anchorFor } from '../../number/anchors.js';
import { childrenOf, textAttr, type AssembledNode } from '../../model/node.js';
import { labelAt, type NumberedPage, type NumberedPublication } from '../../number/numbered.js';
import type { FoundFootnote, Label } from '../../number/notes.js';
import { headingNumber, headingTitle } from '../labels.js';
import { wordsOf, type OutputWords } from '../words.js';
import type { WritingPlace } from '../writing-place.js';
import { placeName } from './place-name.js';
import type { PagedBlock, PagedCaption, PagedHeading } from './paged-document.js';
import { writeBlocks } from './write-blocks.js';
import { writeInline } from './write-inline.js';

/** A chapter with what stands below it, or a topic, as a document of its own. */
export interface PublicationPart {
  readonly pages: readonly NumberedPage[];
  /** How deep its first page stands in the publication: the part begins with a heading of the first level. */
  readonly depth: number;
  /** Reads as the part of the publication that a page is in. */
  titleAround(page: string): string;
}

/** Writes one page of a publication as data for the template: what its parts share. */
export class PagedWriter {
  readonly words: OutputWords;
  /** The occurrences of blocks without a label that something leads to. */
  private readonly wanted: ReadonlySet<string> | undefined;
  /** The footnotes that were called so far. */
  readonly called = new Set<string>();

  /**
   * @param places takes down what the document has places for
   * @param part the part of the publication that the document is; null: it is the whole
   */
  constructor(
    readonly publication: NumberedPublication,
    readonly page: NumberedPage,
    private readonly places: Set<string>,
    readonly part: PublicationPart | null = null,
  ) {
    this.words = wordsOf(publication);
    this.wanted = publication.anchors.get(page.name);
  }

  get place(): WritingPlace {
    return { component: this.page.topic ?? '', placements: [], level: this.depth + 2 };
  }

  private get depth(): number {
    return this.page.depth - (this.part?.depth ?? 0);
  }

  /** Whether something stands in the document. */
  holds(page: string): boolean {
    return this.part?.pages.some(({ name }) => name === page) ?? true;
  }

  blocks(): readonly PagedBlock[] {
    const { turnFrom } = this.publication.design.paper;
    // Only what stands in nothing else can have pages of its own.
    return writeBlocks(this, this.page.blocks, this.place).map((block) => {
      const [only] = block.b === 'stamped' && block.c.length === 1 ? block.c : [block];
      return only?.b === 'table' && turnFrom > 0 && only.columns.length >= turnFrom ? { ...only, turned: true } : block;
    });
  }

  /** The heading of the page itself. */
  heading(): PagedHeading {
    return this.headingOf(this.page.label, { ...this.place, level: this.depth + 1 });
  }

  /** The content of a footnote of the page. */
  noteBlocks({ node, component, placements }: FoundFootnote): readonly PagedBlock[] {
    return writeBlocks(this, childrenOf(node), { component, placements, level: 6 });
  }

  /** Blocks of the page as they stand elsewhere, such as a definition in the glossary. */
  blocksElsewhere(
    nodes: readonly AssembledNode[],
    at: { readonly component: string; readonly placements: readonly string[] },
  ): readonly PagedBlock[] {
    return writeBlocks(this, nodes, { ...at, level: 2, elsewhere: true });
  }

  headingOf(label: Label, place: WritingPlace): PagedHeading {
    return {
      b: 'heading',
      level: place.level,
      at: place.elsewhere ? '' : this.name(label),
      number: headingNumber(this.publication.design, label),
      title: writeInline(this, headingTitle(this.publication.design, place.level, label.title), place),
    };
  }

  caption(label: Label, place: WritingPlace): PagedCaption {
    return {
      number: headingNumber(this.publication.design, label),
      title: writeInline(this, label.title, place),
    };
  }

  labelOf(node: AssembledNode, place: WritingPlace): Label {
    const anchor = anchorFor(place.placements, textAttr(node, 'id') ?? '');
    const label = labelAt(this.page, anchor);
    if (!label) throw new Error(`“${anchor}” has no label on the page “${this.page.name}”.`);
    return label;
  }

  /** The name of something that carries a label. */
  landmark(node: AssembledNode, place: WritingPlace): { readonly at?: string } {
    if (place.elsewhere) return {};
    return { at: this.name({ page: this.page.name, anchor: anchorFor(place.placements, textAttr(node, 'id') ?? '') }) };
  }

  /** The name of a block without a label, where something leads to it. */
  start(node: AssembledNode, place: WritingPlace): { readonly at?: string } {
    const id = textAttr(node, 'id');
    return id === null ? {} : this.wantedAt(anchorFor(place.placements, id), place);
  }

  /** The name of placed content without its title, where something leads to that. */
  placedStart(node: AssembledNode, inner: WritingPlace): { readonly at?: string } {
    const only = node.content?.[0];
    const hasHeading = only?.type === 'section' && textAttr(only, 'id') === topicHeading;
    return hasHeading ? {} : this.wantedAt(anchorFor(inner.placements, topicHeading), inner);
  }

  wantedAt(anchor: string, { elsewhere }: WritingPlace): { readonly at?: string } {
    if (elsewhere || !this.wanted?.has(anchor)) return {};
    return { at: this.name({ page: this.page.name, anchor }) };
  }

  private name(place: { readonly page: string; readonly anchor: string | null }): string {
    const name = placeName(place);
    this.places.add(name);
    return name;
  }
}
