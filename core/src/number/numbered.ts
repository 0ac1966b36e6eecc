import type { ImageFile } from '../model/component.js';
import type { Recording } from '../model/recording.js';
import type { AssembledNode } from '../model/node.js';
import type { Problem } from '../model/problem.js';
import type { ReferenceForm } from '../model/kinds.js';
import { flattenTree } from '../model/tree.js';
import type { AssembledLook } from '../assemble/look.js';
import type { Design } from '../design/design.js';
import { positionOf, type FoundReference, type Label, type PageNotes } from './notes.js';
import { notesOf } from './page-notes.js';

/** The parts of a publication: what comes before the text, the text, and what comes after it. */
export type Matter = 'front' | 'body' | 'back';

/** One page: an outline entry with its labels. */
export interface NumberedPage {
  readonly entry: string;
  /** Names the page for good, unlike any other of the publication. Formats make their addresses of it. */
  readonly name: string;
  /** The component whose text the page shows; null for a heading without a topic. */
  readonly topic: string | null;
  readonly label: Label;
  /** 0 for chapters, 1 for the entries below them, ... */
  readonly depth: number;
  /** What it and its chapter are of. */
  readonly matter: Matter;
  readonly blocks: readonly AssembledNode[];
  readonly notes: PageNotes;
  /** The labels of the landmarks in the notes, in their order. */
  readonly labels: readonly Label[];
  /** The numbers of the footnotes that are called on the page, by occurrence, in their order. */
  readonly footnotes: ReadonlyMap<string, number>;
  readonly pages: readonly NumberedPage[];
  /** The chapter that the page belongs to: itself, or the top-level entry above it. */
  readonly chapter: Label;
}

/** What a deliverable says of itself. */
export interface PublicationFacts {
  readonly key: string;
  readonly variantTitle: string;
  /** A language tag (BCP 47). */
  readonly language: string;
  /** ISO 8601. A format that shows it makes the deliverable depend on the day. */
  readonly date: string;
}

/** A publication with all numbers and with what all references lead to; what formats are made from. */
export interface NumberedPublication {
  readonly title: readonly AssembledNode[];
  readonly facts: PublicationFacts;
  readonly design: Design;
  /** What the design shows of the library. */
  readonly look: AssembledLook;
  readonly pages: readonly NumberedPage[];
  /** What a cross-reference leads to and how it is to read; undefined where it leads nowhere. */
  reference(at: ReferencePlace, node: AssembledNode): ResolvedReference | undefined;
  /** By the name of the page, the occurrences of blocks without a label that something leads to. */
  readonly anchors: ReadonlyMap<string, ReadonlySet<string>>;
  /** The references that lead nowhere. */
  readonly dangling: readonly FoundReference[];
  readonly problems: readonly Problem[];
}

/** Where a reference stands: its page's entry, the placements around it, and the component that holds it. */
export interface ReferencePlace {
  readonly entry: string;
  readonly placements: readonly string[];
  readonly component: string;
}

/** A reference in parts; formats put them together in the words of the design and the language. */
export interface ResolvedReference {
  readonly form: ReferenceForm;
  /** What the writer wants it to read; null: its label. */
  readonly text: string | null;
  /** Where it leads. */
  readonly page: string;
  readonly anchor: string | null;
  /** What it reads: the label of the target, or of the nearest heading around a target without number and title. */
  readonly label: Label;
}

/** The files of the pictures that a page shows, each once. */
export function picturesOn({ notes, footnotes }: NumberedPage): readonly ImageFile[] {
  const called = [...footnotes.keys()].flatMap((anchor) => notes.footnotes.get(anchor)?.pictures ?? []);
  return [...new Map([...notes.pictures, ...called].map((file) => [file.digest, file])).values()];
}

/** The stored recordings that a page plays, each once. */
export function recordingsOn({ notes, footnotes }: NumberedPage): readonly Recording[] {
  const called = [...footnotes.keys()].flatMap((anchor) => notes.footnotes.get(anchor)?.recordings ?? []);
  return [...new Map([...notes.recordings, ...called].map((file) => [file.digest, file])).values()];
}

/** The files of the pictures in some blocks, each once. */
export function picturesIn(blocks: readonly AssembledNode[]): readonly ImageFile[] {
  return notesOf(blocks, '').pictures;
}

const flattened = new WeakMap<readonly NumberedPage[], readonly NumberedPage[]>();

/** All pages in reading order. */
export function flattenPages(pages: readonly NumberedPage[]): readonly NumberedPage[] {
  let flat = flattened.get(pages);
  // Whatever follows from all pages goes through them: numbering, the search, lists, ...
  if (!flat) flattened.set(pages, (flat = flattenTree(pages, (page) => page.pages)));
  return flat;
}

/** The label of an occurrence on a page; undefined where nothing there carries one. */
export function labelAt(page: NumberedPage, anchor: string): Label | undefined {
  const position = positionOf(page.notes, anchor);
  return position === undefined ? undefined : page.labels[position];
}
