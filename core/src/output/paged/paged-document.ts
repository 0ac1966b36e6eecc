import type { MathElement } from '../../formula/read-formula.js';
import type { Matter } from '../../number/numbered.js';
import type { OutputWords } from '../words.js';
import type { PagedLook } from './look.js';

/**
 * What the template of paged output is given: a publication as data, block by block. Text of authors stands in strings
 * only, which the typesetter never reads as markup.
 */
export interface PagedDocument {
  readonly title: string;
  readonly variant: string;
  /** A language and a region (ISO 639, ISO 3166-1); the region is null where the tag names none. */
  readonly language: string;
  readonly region: string | null;
  readonly look: PagedLook;
  readonly words: Pick<
    OutputWords,
    'contents' | 'figures' | 'tables' | 'examples' | 'glossary' | 'index' | 'see' | 'seeAlso' | 'symbols' | 'page'
  >;
  /** How many levels of headings the contents show. */
  readonly contentsDepth: number;
  /** Front matter first, back matter last. */
  readonly pages: readonly PagedPage[];
  readonly figures: readonly PagedLine[];
  readonly tables: readonly PagedLine[];
  readonly examples: readonly PagedLine[];
  readonly glossary: readonly PagedTerm[];
  readonly index: readonly PagedIndexGroup[];
  /** The names of all places that something leads to, each once. */
  readonly ledTo: readonly string[];
}

export interface PagedPage {
  readonly matter: Matter;
  readonly heading: PagedHeading;
  readonly blocks: readonly PagedBlock[];
}

export interface PagedHeading {
  readonly b: 'heading';
  /** From 1. */
  readonly level: number;
  /** What leads to it. */
  readonly at: string;
  readonly number: string;
  readonly title: readonly PagedInline[];
}

/** A line of a generated list. */
export interface PagedLine {
  readonly to: string;
  readonly text: string;
}

export interface PagedTerm {
  readonly term: string;
  readonly definitions: readonly { readonly blocks: readonly PagedBlock[]; readonly source: PagedLine }[];
}

export interface PagedIndexGroup {
  readonly letter: string;
  readonly entries: readonly PagedIndexEntry[];
}

export interface PagedIndexEntry {
  readonly heading: string;
  readonly places: readonly string[];
  readonly see: readonly string[];
  readonly seeAlso: readonly string[];
  readonly entries: readonly PagedIndexEntry[];
}

/** A block; `at` is what leads to it. */
export type PagedBlock =
  | PagedHeading
  | { readonly b: 'paragraph'; readonly at?: string; readonly c: readonly PagedInline[] }
  | ({ readonly b: 'formula'; readonly at?: string } & PagedFormula)
  | { readonly b: 'code'; readonly at?: string; readonly language: string; readonly text: string }
  | { readonly b: 'lines'; readonly at?: string; readonly c: readonly PagedInline[] }
  | {
      readonly b: 'list';
      readonly at?: string;
      /** Of a numbered list: its first number and its numerals; `step` for steps. */
      readonly start?: number;
      readonly numerals?: string;
      readonly items: readonly PagedItem[];
    }
  | { readonly b: 'terms'; readonly at?: string; readonly items: readonly PagedDefinition[] }
  | {
      readonly b: 'table';
      readonly at?: string;
      readonly caption: PagedCaption | null;
      /** Shares of the width; 0 for columns that are as wide as what they hold. */
      readonly columns: readonly number[];
      readonly headRows: number;
      /** Its own lines, where it is not drawn as the design says. */
      readonly lines?: string;
      /** Whether it lies across, on pages of its own. */
      readonly turned?: true;
      readonly cells: readonly PagedCell[];
    }
  | {
      readonly b: 'figure';
      readonly at?: string;
      readonly caption: PagedCaption | null;
      readonly c: readonly PagedBlock[];
    }
  | {
      readonly b: 'picture';
      readonly path: string;
      readonly alt: string;
      /** In pixels of 1/96 inch; 0 where it is not known. */
      readonly width: number;
      readonly height: number;
      /** The share of the line that the writer wants, in percent; 0: its own width. */
      readonly share: number;
    }
  | {
      readonly b: 'admonition';
      readonly at?: string;
      readonly kind: string;
      readonly signal: string;
      readonly title: readonly PagedInline[];
      readonly c: readonly PagedBlock[];
    }
  | { readonly b: 'quotation'; readonly at?: string; readonly by: string; readonly c: readonly PagedBlock[] }
  | {
      readonly b: 'example';
      readonly at?: string;
      readonly caption: PagedCaption | null;
      readonly c: readonly PagedBlock[];
    }
  /** What bears a stamp, after the word of the stamp; the word may be empty. */
  | {
      readonly b: 'stamped';
      readonly stamp: string;
      readonly word: string;
      readonly c: readonly PagedBlock[];
    }
  | { readonly b: 'group'; readonly at?: string; readonly c: readonly PagedBlock[] };

export interface PagedItem {
  readonly at?: string;
  readonly c: readonly PagedBlock[];
}

export interface PagedDefinition {
  readonly at?: string;
  readonly terms: readonly (readonly PagedInline[])[];
  readonly c: readonly PagedBlock[];
}

export interface PagedCell {
  readonly at?: string;
  /** Its first column and row, from 0. */
  readonly x: number;
  readonly y: number;
  readonly columns: number;
  readonly rows: number;
  readonly isHead: boolean;
  /** That of its row. */
  readonly stamp?: string;
  readonly align: string;
  readonly c: readonly PagedBlock[];
}

export interface PagedCaption {
  readonly number: string;
  readonly title: readonly PagedInline[];
}

/** What stands in a line: text, or something around or instead of text. */
export type PagedInline =
  | string
  | { readonly i: PagedMark; readonly c: readonly PagedInline[] }
  | { readonly i: 'code'; readonly kind: string; readonly c: readonly PagedInline[] }
  | { readonly i: 'stamped'; readonly stamp: string; readonly word: string; readonly c: readonly PagedInline[] }
  | { readonly i: 'link'; readonly href: string; readonly c: readonly PagedInline[] }
  /** Leads to a place of the document. */
  | { readonly i: 'reference'; readonly to: string; readonly c: readonly PagedInline[] }
  /** The same, read by the number of the page. */
  | { readonly i: 'page'; readonly to: string; readonly before: string }
  | { readonly i: 'break' }
  | { readonly i: 'missing'; readonly text: string }
  | {
      readonly i: 'image';
      readonly path: string;
      readonly alt: string;
      readonly width: number;
      readonly height: number;
    }
  | ({ readonly i: 'formula' } & PagedFormula)
  | { readonly i: 'footnote'; readonly at: string; readonly c: readonly PagedBlock[] }
  /** A footnote that was called before. */
  | { readonly i: 'again'; readonly note: string };

export interface PagedFormula {
  /** In TeX. */
  readonly source: string;
  /** Null: it cannot be drawn. */
  readonly elements: readonly MathElement[] | null;
}

export type PagedMark = 'strong' | 'emphasis' | 'term' | 'cited' | 'label' | 'key' | 'superscript' | 'subscript';
