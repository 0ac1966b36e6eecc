import type { AssembledEntry, AssembledNode } from '../assemble/assembled.js';
import { topicHeading } from '../assemble/assemble-content.js';
import { childrenOf, textAttr, type ContentNode } from '../content/node.js';
import { knownTraits, notable } from '../content/prepared.js';

/** Something on a page that counts or can be referred to by its number. */
export interface Landmark {
  readonly kind: 'section' | 'figure' | 'table' | 'example' | 'step';
  readonly id: string | null;
  readonly component: string;
  readonly placements: readonly string[];
  /** The title's or caption's inline content. */
  readonly title: readonly AssembledNode[];
  /** Whether it takes a number, where the design gives its kind one. */
  readonly counts: boolean;
  /** How many sections of the page it stands in. */
  readonly depth: number;
  /** A step's number on the page, such as “2.1”; empty for anything else. */
  readonly step: string;
}

/** A cross-reference with the place where it stands. */
export interface FoundReference {
  readonly node: AssembledNode;
  readonly component: string;
  readonly placements: readonly string[];
  readonly block: string | null;
}

/** An index marker; its anchor on the page is made from its position among the page's markers. */
export interface FoundMarker {
  readonly node: AssembledNode;
  readonly component: string;
  readonly block: string | null;
  /** The position of the nearest section around it among the landmarks; null: the page itself. */
  readonly section: number | null;
  /** Null in footnotes, which do not stand where they are written. */
  readonly anchor: string | null;
}

/** A term where it is defined. */
export interface FoundTerm {
  readonly term: readonly AssembledNode[];
  /** The paragraphs that define it: its description in a definition list, else the paragraph it stands in. */
  readonly definition: readonly AssembledNode[];
  readonly component: string;
  readonly placements: readonly string[];
  readonly section: number | null;
}

/** All that numbering, references and generated lists must know of a page. */
export interface PageNotes {
  readonly landmarks: readonly Landmark[];
  readonly references: readonly FoundReference[];
  readonly markers: readonly FoundMarker[];
  readonly terms: readonly FoundTerm[];
  /** Whether the chapter's title stands somewhere on the page. */
  readonly showsChapterTitle: boolean;
  readonly hasSlot: boolean;
}

/**
 * The notes of an assembled entry, in document order. Blocks may serve several entries and variants; their
 * notes are remembered with them, but for entries with something of note in the title.
 */
export function notesOf(entry: AssembledEntry): PageNotes {
  if (entry.title.some(isNotable)) return new NoteTaker().take(entry);
  let notes = remembered.get(entry.blocks);
  if (!notes) remembered.set(entry.blocks, (notes = new NoteTaker().take(entry)));
  return notes;
}

function isNotable(node: AssembledNode): boolean {
  return node.text === undefined || node.marks ? ((knownTraits(node) ?? notable) & notable) !== 0 : false;
}

const remembered = new WeakMap<readonly AssembledNode[], PageNotes>();

class NoteTaker {
  private readonly landmarks: Landmark[] = [];
  private readonly references: FoundReference[] = [];
  private readonly markers: FoundMarker[] = [];
  private readonly terms: FoundTerm[] = [];
  private showsChapterTitle = false;
  private hasSlot = false;
  private anchors = 0;
  // The place on the page: set on the way down, and set back on the way up.
  private component = '';
  private placements: readonly string[] = [];
  private block: string | null = null;
  private depth = 0;
  private section: number | null = null;
  private step = '';
  /** In a footnote, or in a candidate of a slot that is not the stated one. */
  private aside = false;
  private footnote = false;
  /** The description that belongs to the terms of a definition. */
  private description: readonly AssembledNode[] | null = null;
  private paragraph: AssembledNode | null = null;

  take(entry: AssembledEntry): PageNotes {
    this.component = entry.topic;
    this.nodes(entry.title);
    this.nodes(entry.blocks);
    const { landmarks, references, markers, terms, showsChapterTitle, hasSlot } = this;
    return { landmarks, references, markers, terms, showsChapterTitle, hasSlot };
  }

  private nodes(nodes: readonly ContentNode[]): void {
    for (const node of nodes) {
      const traits = knownTraits(node);
      if (traits === undefined || (traits & notable) !== 0) this.node(node);
    }
  }

  private node(node: ContentNode): void {
    switch (node.type) {
      case 'text':
        this.text(node);
        return;
      case 'cross_reference': {
        const { component, placements, block } = this;
        this.references.push({ node, component, placements, block });
        return;
      }
      case 'variable':
        if (textAttr(node, 'key') === '@chapter-title') this.showsChapterTitle = true;
        return;
      case 'index_marker':
        this.marker(node);
        return;
      case 'placed':
        this.placed(node);
        return;
      case 'slot': {
        const { aside } = this;
        this.hasSlot = true;
        for (const candidate of childrenOf(node)) {
          this.aside = aside || textAttr(candidate, 'component') !== textAttr(node, 'stated');
          this.placed(candidate);
        }
        this.aside = aside;
        return;
      }
      case 'section':
        this.inSection(node);
        return;
      case 'figure':
      case 'table':
      case 'example': {
        const caption = childrenOf(node).find((child) => child.type === 'caption' || child.type === 'title');
        this.landmark(node, node.type, caption ? childrenOf(caption) : [], caption !== undefined);
        this.inside(node);
        return;
      }
      case 'steps': {
        const { step } = this;
        childrenOf(node).forEach((each, index) => {
          this.step = step ? `${step}.${index + 1}` : String(index + 1);
          this.landmark(each, 'step', [], true);
          this.inside(each);
        });
        this.step = step;
        return;
      }
      case 'footnote': {
        const { aside, footnote } = this;
        this.aside = this.footnote = true;
        this.inside(node);
        this.aside = aside;
        this.footnote = footnote;
        return;
      }
      case 'definition':
      case 'description': {
        const { description } = this;
        const own = node.type === 'definition' ? childrenOf(node).find((child) => child.type === 'description') : null;
        this.description = own ? childrenOf(own) : null;
        this.inside(node);
        this.description = description;
        return;
      }
      case 'paragraph': {
        const { paragraph } = this;
        this.paragraph = node;
        this.inside(node);
        this.paragraph = paragraph;
        return;
      }
      default:
        this.inside(node);
    }
  }

  private inside(node: ContentNode): void {
    if (!node.content) return;
    const { block } = this;
    this.block = textAttr(node, 'id') ?? block;
    this.nodes(node.content);
    this.block = block;
  }

  private text(node: ContentNode): void {
    if (!node.marks?.some((mark) => mark.type === 'defined_term')) return;
    const { component, placements, section } = this;
    const source = this.description ?? (this.paragraph ? [this.paragraph] : []);
    const definition = source.filter((each) => each.type === 'paragraph');
    this.terms.push({ term: [node], definition, component, placements, section });
  }

  private marker(node: ContentNode): void {
    const { component, block, section } = this;
    const anchor = this.footnote ? null : markerAnchor(this.anchors);
    if (anchor !== null) this.anchors += 1;
    this.markers.push({ node, component, block, section, anchor });
  }

  private placed(node: ContentNode): void {
    const { component, placements, block } = this;
    this.component = textAttr(node, 'component') ?? '';
    this.placements = [...placements, textAttr(node, 'placement') ?? ''];
    this.block = null;
    this.nodes(childrenOf(node));
    this.component = component;
    this.placements = placements;
    this.block = block;
  }

  private inSection(node: ContentNode): void {
    const [title] = childrenOf(node);
    const position = this.landmarks.length;
    this.landmark(
      node,
      'section',
      title?.type === 'title' ? childrenOf(title) : [],
      node.attrs?.['numbered'] !== false,
    );
    const { section } = this;
    this.section = position;
    this.depth += 1;
    this.inside(node);
    this.depth -= 1;
    this.section = section;
  }

  private landmark(node: ContentNode, kind: Landmark['kind'], title: readonly AssembledNode[], counts: boolean): void {
    const { component, placements, depth, step, aside } = this;
    const id = textAttr(node, 'id');
    this.landmarks.push({ kind, id, component, placements, title, counts: counts && !aside, depth, step });
  }
}

/** The HTML id of an index marker by its position on the page, from 0. */
export function markerAnchor(position: number): string {
  return `index-${position + 1}`;
}

/** The HTML id of a block under the placements that it stands in. */
export function anchorFor(placements: readonly string[], id: string): string {
  const own = id === topicHeading ? 'topic' : id;
  return placements.length === 0 ? own : `${placements.join('--')}--${own}`;
}
