import type { AssembledNode } from '../assemble/assembled.js';
import type { Problem } from '../problems/problem.js';
import type { Design, LabelKind } from './design.js';
import type { FoundReference, PageNotes } from './page-notes.js';
import { flattenTree } from '../tree.js';

/** The number and place of something that has a number or can be referred to. */
export interface Label {
  readonly kind: LabelKind;
  /** Empty where there is no number. */
  readonly number: string;
  /** The title's or caption's inline content; empty where there is none. */
  readonly title: readonly AssembledNode[];
  /** File name of the page. */
  readonly page: string;
  /** The HTML id on the page; null for the page itself. */
  readonly anchor: string | null;
}

/** One page: an outline entry with its labels in document order. */
export interface NumberedPage {
  readonly entry: string;
  readonly topic: string;
  readonly label: Label;
  /** 0 for chapters, 1 for the entries below them, ... */
  readonly depth: number;
  readonly blocks: readonly AssembledNode[];
  readonly notes: PageNotes;
  /** Labels of the sections, figures, tables, examples and steps of the page, as in its notes. */
  readonly labels: readonly Label[];
  readonly pages: readonly NumberedPage[];
  /** The chapter that the page belongs to: itself, or the top-level entry above it. */
  readonly chapter: Label;
}

/** A publication with all numbers and the texts of all references. */
export interface NumberedPublication {
  readonly title: readonly AssembledNode[];
  readonly design: Design;
  readonly language: string;
  readonly pages: readonly NumberedPage[];
  /** What a cross-reference leads to and reads; undefined where it leads nowhere. */
  reference(at: ReferencePlace, node: AssembledNode): ResolvedReference | undefined;
  /** By page, the HTML ids of blocks without a label that a reference leads to. */
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

export interface ResolvedReference {
  readonly label: Label;
  readonly text: string;
}

/** All pages in reading order. */
export function flattenPages(pages: readonly NumberedPage[]): readonly NumberedPage[] {
  return flattenTree(pages, (page) => page.pages);
}
