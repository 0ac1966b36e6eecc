import { chosenFileOf } from '../model/component.js';
import { recordingOf, type Recording } from '../model/recording.js';
import { perContent } from '../model/per-content.js';
import { asPrepared, isNotable, labelled, type PreparedNode } from '../assemble/prepared.js';
import type { ImageFile } from '../model/component.js';
import { handlerFor, kindSpec, type ForEachAssembledKind, type LandmarkKind } from '../model/kinds.js';
import { childrenOf, isLeftOut, textAttr, type AssembledNode } from '../model/node.js';
import { anchorFor } from './anchors.js';
import type { FoundFootnote, FoundMarker, FoundReference, FoundTerm, Landmark, Notes, PageNotes } from './notes.js';

/** The notes of some content, in document order; the component holds what is not placed in it. */
export const notesOf = perContent((content, component): PageNotes => new NoteTaker(component).page(content));

/** The notes of a block as it stands on a page of its component, outside of other blocks. */
function notesOfBlock(node: AssembledNode, block: PreparedNode, component: string): Notes {
  const before = block.notes;
  if (before?.component === component) return before.notes;
  const taker = new NoteTaker(component);
  taker.node(node);
  const notes = taker.taken();
  block.notes = { component, notes };
  return notes;
}

// Most pages have none: all share these.
const nothingFound: readonly never[] = [];
const sharedIfEmpty = <Item>(list: readonly Item[]): readonly Item[] => (list.length === 0 ? nothingFound : list);
const noFootnotes: ReadonlyMap<string, FoundFootnote> = new Map();

/** Files, each once. */
function onceEach<File extends { readonly digest: string }>(files: readonly File[]): readonly File[] {
  if (files.length < 2) return sharedIfEmpty(files);
  return [...new Map(files.map((file) => [file.digest, file])).values()];
}

class NoteTaker {
  readonly starts: number[] = [];
  readonly landmarks: Landmark[] = [];
  readonly references: FoundReference[] = [];
  readonly markers: FoundMarker[] = [];
  readonly terms: FoundTerm[] = [];
  readonly footnotes: [anchor: string, footnote: FoundFootnote][] = [];
  pictures: ImageFile[] = [];
  recordings: Recording[] = [];
  showsChapterTitle = false;
  hasSlot = false;
  // The place on the page: set on the way down, and set back on the way up.
  placements: readonly string[] = [];
  block: string | null = null;
  /** The nearest block around that readers see where it is written. */
  shownAt: string | null = null;
  depth = 0;
  section: Landmark | null = null;
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

  /** Takes the notes of a page. What its blocks hold is remembered with them: pages of several variants share blocks. */
  page(content: readonly AssembledNode[]): PageNotes {
    for (const node of content) {
      this.starts.push(this.landmarks.length);
      const block = asPrepared(node);
      if (block && (block.traits & labelled) !== 0 && !isLeftOut(node))
        this.add(notesOfBlock(node, block, this.component));
      else this.node(node);
    }
    return this.taken();
  }

  taken(): PageNotes {
    const { landmarks, references, markers, terms, calls, footnotes, showsChapterTitle, hasSlot } = this;
    return {
      landmarks: sharedIfEmpty(landmarks),
      references: sharedIfEmpty(references),
      markers: sharedIfEmpty(markers),
      terms: sharedIfEmpty(terms),
      footnotes: footnotes.length === 0 ? noFootnotes : new Map(footnotes),
      calls: sharedIfEmpty(calls),
      pictures: onceEach(this.pictures),
      recordings: onceEach(this.recordings),
      showsChapterTitle,
      hasSlot,
      starts: this.starts,
      positions: undefined,
      labels: undefined,
    };
  }

  private add(notes: Notes): void {
    for (const each of notes.landmarks) this.landmarks.push(each);
    for (const each of notes.references) this.references.push(each);
    for (const each of notes.markers) this.markers.push(each);
    for (const each of notes.terms) this.terms.push(each);
    for (const each of notes.calls) this.calls.push(each);
    for (const each of notes.footnotes) this.footnotes.push(each);
    for (const file of notes.pictures) this.pictures.push(file);
    for (const recording of notes.recordings) this.recordings.push(recording);
    this.showsChapterTitle ||= notes.showsChapterTitle;
    this.hasSlot ||= notes.hasSlot;
  }

  nodes(nodes: readonly AssembledNode[]): void {
    for (const node of nodes) this.node(node);
  }

  node(node: AssembledNode): void {
    if (node.marks?.some(isLeftOut)) return;
    if (node.text !== undefined) this.text(node);
    else if (!isNotable(node)) return;
    else if (isLeftOut(node)) this.leftOut(node);
    else handlerFor(noteHandlers, node.type)(this, node);
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

  landmark(node: AssembledNode, kind: LandmarkKind, title: readonly AssembledNode[], counts: boolean): Landmark {
    const { component, placements, depth, section, step, aside, isOut, inFootnote: footnote } = this;
    const id = textAttr(node, 'id') ?? '';
    const anchor = anchorFor(placements, id);
    const landmark: Landmark = {
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
      label: undefined,
    };
    this.landmarks.push(landmark);
    return landmark;
  }
}

type NoteHandler = (taker: NoteTaker, node: AssembledNode) => void;

const inside: NoteHandler = (taker, node) => taker.inside(node);
const nothing: NoteHandler = () => undefined;

const picture: NoteHandler = ({ pictures }, node) => {
  const file = chosenFileOf(node);
  if (file) pictures.push(file);
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
    if (recording) taker.recordings.push(recording);
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
    const files: ImageFile[] = (taker.pictures = []);
    const played: Recording[] = (taker.recordings = []);
    taker.inside(node);
    if (!taker.isOut)
      taker.footnotes.push([
        anchor,
        {
          node,
          component,
          placements,
          calls: own,
          pictures: onceEach(files),
          recordings: onceEach(played),
        },
      ]);
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
