import { chosenFileOf } from '../model/component.js';
import { recordingOf, type Recording } from '../model/recording.js';
import { known } from '../model/known.js';
import { perContent } from '../model/per-content.js';
import { isNotable } from '../assemble/prepared.js';
import type { ImageFile } from '../model/component.js';
import { handlerFor, kindSpec, type ForEachAssembledKind, type LandmarkKind } from '../model/kinds.js';
import { childrenOf, isLeftOut, textAttr, type AssembledNode } from '../model/node.js';
import { anchorFor } from './anchors.js';

/** Something on a page that counts or can be referred to by its number. */
export interface Landmark {
  readonly kind: LandmarkKind;
  readonly id: string;
  readonly component: string;
  readonly placements: readonly string[];
  /** Names its occurrence on the page. */
  readonly anchor: string;
  /** The title's or caption's inline content. */
  readonly title: readonly AssembledNode[];
  /** Whether it takes a number, where the design gives its kind one. */
  readonly counts: boolean;
  /** How many sections of the page it stands in. */
  readonly depth: number;
  /** The position of the nearest section around it among the landmarks; null: the page itself. */
  readonly section: number | null;
  /** A step's number on the page, such as “2.1”; empty for anything else. */
  readonly step: string;
  /** The occurrence of the footnote that it stands in; it shows where that is called. */
  readonly footnote: string | null;
  /** Whether it stands in a candidate of a slot that is not the stated one, or in a footnote. */
  readonly aside: boolean;
  /** Whether it is only shown as left out. */
  readonly isOut: boolean;
}

/** A cross-reference with the place where it stands. */
export interface FoundReference {
  readonly node: AssembledNode;
  readonly component: string;
  readonly placements: readonly string[];
  readonly block: string | null;
}

/** An index term. */
export interface FoundMarker {
  readonly node: AssembledNode;
  readonly component: string;
  readonly block: string | null;
  /** The position of the nearest section around it among the landmarks; null: the page itself. */
  readonly section: number | null;
  /** The occurrence of the block that it stands in; null in headings, and in footnotes, which stand elsewhere. */
  readonly anchor: string | null;
}

/** A term where it is defined. */
export interface FoundTerm {
  readonly term: readonly AssembledNode[];
  /** What defines it: its description in a definition list, else the paragraph that it stands in. */
  readonly definition: readonly AssembledNode[];
  readonly component: string;
  readonly block: string | null;
  readonly placements: readonly string[];
  readonly section: number | null;
}

/** A footnote where it is written. */
export interface FoundFootnote {
  readonly node: AssembledNode;
  readonly component: string;
  readonly placements: readonly string[];
  /** The occurrences of the footnotes that are called in it, in order. */
  readonly calls: readonly string[];
  readonly pictures: readonly ImageFile[];
  readonly recordings: readonly Recording[];
}

/** All that numbering, references and generated lists must know of a page, or of its title. */
export interface PageNotes {
  readonly landmarks: readonly Landmark[];
  /** By occurrence, the position among the landmarks. */
  readonly positions: ReadonlyMap<string, number>;
  readonly references: readonly FoundReference[];
  readonly markers: readonly FoundMarker[];
  readonly terms: readonly FoundTerm[];
  readonly footnotes: ReadonlyMap<string, FoundFootnote>;
  /** The occurrences of the footnotes that are called outside of footnotes, in order, repeats included. */
  readonly calls: readonly string[];
  /** The files of the pictures outside of footnotes, each once. */
  readonly pictures: readonly ImageFile[];
  /** The stored recordings outside of footnotes, each once. */
  readonly recordings: readonly Recording[];
  /** Whether the chapter's title stands somewhere. */
  readonly showsChapterTitle: boolean;
  readonly hasSlot: boolean;
}

/** The notes of some content, in document order; the component holds what is not placed in it. */
export const notesOf = perContent((content, component): PageNotes => new NoteTaker(component).take(content));

// Most pages have none: all share these.
const noPositions: ReadonlyMap<string, number> = new Map();
const noFootnotes: ReadonlyMap<string, FoundFootnote> = new Map();

function positionsOf(landmarks: readonly Landmark[]): ReadonlyMap<string, number> {
  if (landmarks.length === 0) return noPositions;
  const positions = new Map<string, number>();
  for (let at = 0; at < landmarks.length; at += 1) positions.set(known(landmarks[at]).anchor, at);
  return positions;
}

class NoteTaker {
  readonly landmarks: Landmark[] = [];
  readonly references: FoundReference[] = [];
  readonly markers: FoundMarker[] = [];
  readonly terms: FoundTerm[] = [];
  readonly footnotes = new Map<string, FoundFootnote>();
  pictures = new Map<string, ImageFile>();
  recordings = new Map<string, Recording>();
  showsChapterTitle = false;
  hasSlot = false;
  // The place on the page: set on the way down, and set back on the way up.
  placements: readonly string[] = [];
  block: string | null = null;
  /** The nearest block around that readers see where it is written. */
  shownAt: string | null = null;
  depth = 0;
  section: number | null = null;
  step = '';
  /** In a footnote, or in a candidate of a slot that is not the stated one: nothing there takes a number. */
  aside = false;
  /** In what is shown although it is left out. */
  isOut = false;
  /** The occurrence of the footnote around. */
  inFootnote: string | null = null;
  calls: string[] = [];
  /** The description that belongs to the terms of a definition. */
  description: readonly AssembledNode[] | null = null;
  paragraph: AssembledNode | null = null;

  constructor(public component: string) {}

  take(content: readonly AssembledNode[]): PageNotes {
    this.nodes(content);
    const { landmarks, references, markers, terms, calls, showsChapterTitle, hasSlot } = this;
    const pictures = [...this.pictures.values()];
    const recordings = [...this.recordings.values()];
    const footnotes = this.footnotes.size === 0 ? noFootnotes : this.footnotes;
    const positions = positionsOf(landmarks);
    return {
      landmarks,
      positions,
      references,
      markers,
      terms,
      footnotes,
      calls,
      pictures,
      recordings,
      showsChapterTitle,
      hasSlot,
    };
  }

  nodes(nodes: readonly AssembledNode[]): void {
    for (const node of nodes) {
      if (node.marks?.some(isLeftOut)) continue;
      if (node.text !== undefined) this.text(node);
      else if (!isNotable(node)) continue;
      else if (isLeftOut(node)) this.leftOut(node);
      else handlerFor(noteHandlers, node.type)(this, node);
    }
  }

  /** What is shown although it is left out counts for nothing; its headings are led to by nothing. */
  leftOut(node: AssembledNode): void {
    const { aside, isOut, references, markers, terms, calls } = this;
    const lengths = [references, markers, terms, calls].map((list) => list.length);
    this.aside = this.isOut = true;
    handlerFor(noteHandlers, node.type)(this, node);
    [references, markers, terms, calls].forEach((list, at) => (list.length = lengths[at] ?? 0));
    this.aside = aside;
    this.isOut = isOut;
  }

  inside(node: AssembledNode): void {
    if (!node.content) return;
    const { block, shownAt } = this;
    const id = textAttr(node, 'id');
    if (id !== null) {
      this.block = id;
      if (this.inFootnote === null) this.shownAt = anchorFor(this.placements, id);
    }
    this.nodes(node.content);
    this.block = block;
    this.shownAt = shownAt;
  }

  private text(node: AssembledNode): void {
    if (!node.marks?.some((mark) => mark.type === 'defined_term')) return;
    const { component, placements, section, block } = this;
    const definition = this.description ?? (this.paragraph ? [this.paragraph] : []);
    this.terms.push({ term: [node], definition, component, placements, section, block });
  }

  placed(node: AssembledNode): void {
    const { component, placements, block, shownAt } = this;
    this.component = textAttr(node, 'component') ?? '';
    this.placements = [...placements, textAttr(node, 'placement') ?? ''];
    this.block = null;
    this.nodes(childrenOf(node));
    this.component = component;
    this.placements = placements;
    this.block = block;
    this.shownAt = shownAt;
  }

  landmark(node: AssembledNode, kind: LandmarkKind, title: readonly AssembledNode[], counts: boolean): number {
    const { component, placements, depth, section, step, aside, isOut, inFootnote: footnote } = this;
    const id = textAttr(node, 'id') ?? '';
    const anchor = anchorFor(placements, id);
    return (
      this.landmarks.push({
        kind,
        id,
        component,
        placements,
        anchor,
        title,
        counts: counts && !aside,
        depth,
        section,
        step,
        footnote,
        aside,
        isOut,
      }) - 1
    );
  }
}

type NoteHandler = (taker: NoteTaker, node: AssembledNode) => void;

const inside: NoteHandler = (taker, node) => taker.inside(node);
const nothing: NoteHandler = () => undefined;

const picture: NoteHandler = ({ pictures }, node) => {
  const file = chosenFileOf(node);
  if (file) pictures.set(file.digest, file);
};

/** What a title or caption reads: without what is only shown as left out, as it stands in lists and references, too. */
function headingIn(title: AssembledNode | undefined): readonly AssembledNode[] {
  const content = title ? childrenOf(title) : [];
  const isOut = ({ marks }: AssembledNode): boolean => marks?.some(isLeftOut) ?? false;
  return content.some(isOut) ? content.filter((node) => !isOut(node)) : content;
}

const captioned: NoteHandler = (taker, node) => {
  const { landmark } = kindSpec(node.type);
  const caption = childrenOf(node).find((child) => kindSpec(child.type).heading);
  if (landmark) taker.landmark(node, landmark, headingIn(caption), caption !== undefined);
  taker.inside(node);
};

const noteHandlers: ForEachAssembledKind<NoteHandler> = {
  text: nothing,
  line_break: nothing,
  missing: nothing,
  formula: nothing,
  display_formula: nothing,
  picture,
  image: picture,
  media: (taker, node) => {
    picture(taker, node);
    const recording = recordingOf(node);
    if (recording) taker.recordings.set(recording.digest, recording);
    taker.inside(node);
  },
  paragraph: (taker, node) => {
    const { paragraph } = taker;
    taker.paragraph = node;
    taker.inside(node);
    taker.paragraph = paragraph;
  },
  section: (taker, node) => {
    const [title] = childrenOf(node);
    const heading = headingIn(title?.type === 'title' ? title : undefined);
    const { section } = taker;
    taker.section = taker.landmark(node, 'section', heading, node.attrs?.['numbered'] !== false);
    taker.depth += 1;
    taker.inside(node);
    taker.depth -= 1;
    taker.section = section;
  },
  figure: captioned,
  table: captioned,
  example: captioned,
  steps: (taker, node) => {
    const { step } = taker;
    let index = 0;
    for (const each of childrenOf(node)) {
      if (isLeftOut(each)) {
        taker.leftOut(each);
        continue;
      }
      index += 1;
      taker.step = step ? `${step}.${index}` : String(index);
      taker.landmark(each, 'step', [], true);
      taker.inside(each);
    }
    taker.step = step;
  },
  step: inside,
  footnote: (taker, node) => {
    const { aside, inFootnote, shownAt, calls, pictures, recordings, component, placements } = taker;
    const anchor = anchorFor(placements, textAttr(node, 'id') ?? '');
    taker.aside = true;
    taker.inFootnote = anchor;
    taker.shownAt = null;
    const own: string[] = (taker.calls = []);
    const files = (taker.pictures = new Map<string, ImageFile>());
    const played = (taker.recordings = new Map<string, Recording>());
    taker.inside(node);
    if (!taker.isOut)
      taker.footnotes.set(anchor, {
        node,
        component,
        placements,
        calls: own,
        pictures: [...files.values()],
        recordings: [...played.values()],
      });
    taker.aside = aside;
    taker.inFootnote = inFootnote;
    taker.shownAt = shownAt;
    taker.calls = calls;
    taker.pictures = pictures;
    taker.recordings = recordings;
  },
  footnote_reference: (taker, node) => {
    taker.calls.push(anchorFor(taker.placements, textAttr(node, 'target') ?? ''));
  },
  placed: (taker, node) => taker.placed(node),
  slot: (taker, node) => {
    const { aside } = taker;
    taker.hasSlot = true;
    for (const candidate of childrenOf(node)) {
      taker.aside = aside || textAttr(candidate, 'component') !== textAttr(node, 'stated');
      taker.placed(candidate);
    }
    taker.aside = aside;
  },
  definition: (taker, node) => {
    const { description } = taker;
    const own = childrenOf(node).find((child) => child.type === 'description');
    taker.description = own ? childrenOf(own) : null;
    taker.inside(node);
    taker.description = description;
  },
  description: (taker, node) => {
    const { description } = taker;
    taker.description = null;
    taker.inside(node);
    taker.description = description;
  },
  cross_reference: (taker, node) => {
    const { component, placements, block } = taker;
    taker.references.push({ node, component, placements, block });
  },
  index_marker: (taker, node) => {
    const { component, block, section, shownAt } = taker;
    taker.markers.push({ node, component, block, section, anchor: shownAt });
  },
  variable: (taker, node) => {
    if (textAttr(node, 'key') === '@chapter-title') taker.showsChapterTitle = true;
  },
  title: (taker, node) => {
    const { shownAt } = taker;
    taker.shownAt = null;
    taker.inside(node);
    taker.shownAt = shownAt;
  },
  caption: inside,
  term: inside,
  bullet_list: inside,
  ordered_list: inside,
  list_item: inside,
  definition_list: inside,
  table_grid: inside,
  table_row: inside,
  table_cell: inside,
  table_header: inside,
  admonition: inside,
  code_block: inside,
  quotation: inside,
};
