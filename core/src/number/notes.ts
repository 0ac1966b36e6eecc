import type { LabelKind } from '../design/design.js';
import type { ImageFile } from '../model/component.js';
import type { LandmarkKind } from '../model/kinds.js';
import type { AssembledNode } from '../model/node.js';
import type { Recording } from '../model/recording.js';

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
  /** The nearest section around it; null: the page itself. */
  readonly section: Landmark | null;
  /** A step's number on the page, such as “2.1”; empty for anything else. */
  readonly step: string;
  /** The occurrence of the footnote that it stands in; it shows where that is called. */
  readonly footnote: string | null;
  /** Whether it stands in a candidate of a slot that is not the stated one, or in a footnote. */
  readonly aside: boolean;
  /** Whether it is only shown as left out. */
  readonly isOut: boolean;
  /** The label that it was given last. */
  label: Label | undefined;
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
  /** The nearest section around it; null: the page itself. */
  readonly section: Landmark | null;
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
  readonly section: Landmark | null;
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

/** What numbering, references and generated lists must know of some content. */
export interface Notes {
  readonly landmarks: readonly Landmark[];
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

/** The same of a page, or of its title. */
export interface PageNotes extends Notes {
  /** By position among the blocks: how many landmarks come before it. */
  readonly starts: readonly number[];
  /** By occurrence, the position among the landmarks; once it was asked for. */
  positions: ReadonlyMap<string, number> | undefined;
  /** What numbering made of them last; none where they count together with those of other pages. */
  labels: RememberedLabels | undefined;
}

/** The number and place of something that has a number or can be referred to. */
export interface Label {
  readonly kind: LabelKind;
  /** Empty where there is no number. */
  readonly number: string;
  /** The title's or caption's inline content; empty where there is none. */
  readonly title: readonly AssembledNode[];
  /** The name of the page. */
  readonly page: string;
  /** The occurrence on the page, see `anchorFor`; null for the page itself. */
  readonly anchor: string | null;
}

/** The labels of the landmarks of a page, with all that they were made from. */
export interface RememberedLabels {
  readonly page: string;
  /** Down to which depth the design numbers sections. */
  readonly sectionDepth: number;
  /** The number of the page, whether what stands on it takes numbers below it, and its depth among sections. */
  readonly number: string;
  readonly numbered: boolean;
  readonly depth: number;
  readonly labels: readonly Label[];
  /** How many numbers the sections of the page took. */
  readonly sections: number;
}

/** Among so few, looking through them takes less than a table of them. */
const mostToSearch = 12;

/** The position of an occurrence among the landmarks; undefined where it is none of them. */
export function positionOf(notes: PageNotes, anchor: string): number | undefined {
  const { landmarks } = notes;
  if (landmarks.length <= mostToSearch) {
    const at = landmarks.findIndex((landmark) => landmark.anchor === anchor);
    return at < 0 ? undefined : at;
  }
  notes.positions ??= new Map(landmarks.map((landmark, at) => [landmark.anchor, at]));
  return notes.positions.get(anchor);
}
