import type { AdmonitionKind, tableRules } from '../model/kinds.js';
import type { Numeral } from './numerals.js';
import type { StampLook } from './stamp-looks.js';

/** What can carry a number or be the target of a reference. */
export const labelKinds = [
  'front',
  'part',
  'chapter',
  'appendix',
  'section',
  'figure',
  'table',
  'example',
  'step',
  'block',
] as const;
export type LabelKind = (typeof labelKinds)[number];

/**
 * Templates of a kind's texts: `{number}` and `{title}` are replaced. A template for something without
 * number (or title) is not used; the title alone stands then.
 */
export interface LabelTemplates {
  /** How the heading or caption begins, up to the title. */
  readonly heading: string;
  /** The reference form “number and title”. */
  readonly numberAndTitle: string;
  /** The reference form “number”. */
  readonly number: string;
}

/** The generated lists. */
export const generatedLists = ['contents', 'figures', 'tables', 'examples', 'glossary', 'index'] as const;
export type GeneratedList = (typeof generatedLists)[number];

/** What stands before and after the text: generated lists, and the topics that are front or back matter. */
export const matterParts = [...generatedLists, 'topics'] as const;
export type MatterPart = (typeof matterParts)[number];

export const pdfStandards = ['ua-1', 'a-2b', 'a-3b'] as const;
export const pdfParts = ['none', 'chapters', 'topics'] as const;
export const paperSizes = ['a4', 'a5', 'letter', 'own'] as const;
export const coverArrangements = ['top', 'middle', 'band', 'foot'] as const;
export const letterCases = ['as-written', 'capitals', 'title'] as const;
export type LetterCase = (typeof letterCases)[number];
export const admonitionStyles = ['bar', 'box', 'plain'] as const;
export const signNames = ['none', 'info', 'bulb', 'star', 'exclamation', 'triangle', 'bolt', 'stop'] as const;
export type SignName = (typeof signNames)[number];
export const tableHeads = ['line', 'tint', 'accent'] as const;
export const codeFrames = ['tint', 'bar', 'frame'] as const;
export const bulletSigns = ['dots', 'squares', 'dashes'] as const;
export const webAppearances = ['both', 'light', 'dark'] as const;

/** Left, middle and right of a line at the head or foot of a page; texts with fields. */
export interface LineOfPage {
  readonly left: string;
  readonly middle: string;
  readonly right: string;
}

/** What stands at the head and the foot of a page. */
export interface HeadAndFoot {
  readonly head: LineOfPage;
  readonly foot: LineOfPage;
}

export interface AdmonitionLook {
  /** `accent`: the colour of the design. */
  readonly colour: string;
  readonly sign: SignName;
  /** Stands instead of the language's own word; empty: that one. */
  readonly word: string;
}

/** How output looks and counts, for all formats, in neutral terms. Lengths on paper are in millimetres, type in points. */
export interface Design {
  readonly key: string;
  readonly title: string;
  readonly numerals: {
    readonly front: Numeral;
    readonly part: Numeral;
    readonly chapter: Numeral;
    readonly appendix: Numeral;
    /** Sections count in decimals below the chapter's number, or not at all. */
    readonly section: 'decimal' | 'none';
    readonly figure: 'per-chapter' | 'through' | 'none';
    readonly table: 'per-chapter' | 'through' | 'none';
    readonly example: 'per-chapter' | 'through' | 'none';
  };
  /** Whether chapters count on from part to part. */
  readonly chapters: 'through' | 'per-part';
  /** How many levels of sections below a chapter have numbers. */
  readonly sectionDepth: number;
  readonly templates: Readonly<Record<LabelKind, LabelTemplates>>;
  /** The reference form “title”. */
  readonly titleReference: string;
  /** A reference of any form to a section that has no number. */
  readonly unnumberedReference: string;
  /** How the letters of headings of the first levels are written. */
  readonly letters: { readonly level1: LetterCase; readonly level2: LetterCase; readonly level3: LetterCase };
  readonly lists: {
    /** How many levels of sections inside topics the contents show. */
    readonly contentsDepth: number;
    /** How many levels of headings the contents of paper show. */
    readonly paperDepth: number;
    /** The lists before and after the text, in their order, where there is something to list. */
    readonly front: readonly MatterPart[];
    readonly back: readonly MatterPart[];
  };
  readonly paper: {
    readonly size: (typeof paperSizes)[number];
    /** Of a size of one's own. */
    readonly width: number;
    readonly height: number;
    readonly landscape: boolean;
    readonly sides: 'one' | 'two';
    readonly top: number;
    readonly bottom: number;
    /** At the binding: left on right-hand pages, right on left-hand ones. */
    readonly inner: number;
    readonly outer: number;
    readonly chapterStart: 'page' | 'right-page';
    /** Tables with at least so many columns lie on pages of their own, across; 0: none do. */
    readonly turnFrom: number;
    readonly indexColumns: number;
    /** What a PDF claims to keep: accessible (ISO 14289-1), or fit for archives (ISO 19005-2 and -3, level B). */
    readonly standard: (typeof pdfStandards)[number];
    /** What stands beside the whole PDF: nothing, or its chapters or topics, each as a PDF of its own. */
    readonly parts: (typeof pdfParts)[number];
  };
  readonly type: {
    /** Families, by key: those that come with the application, or uploaded ones. */
    readonly text: string;
    readonly headings: string;
    /** Table heads, heads and feet of pages, words of admonitions. */
    readonly labels: string;
    readonly code: string;
    readonly size: number;
    /** From line to line, as a multiple of the size. */
    readonly leading: number;
    readonly level1: number;
    readonly level2: number;
    readonly level3: number;
    readonly level4: number;
    readonly headingWeight: 'regular' | 'semibold' | 'bold';
    readonly justify: boolean;
    readonly hyphenate: boolean;
  };
  readonly colours: {
    readonly ink: string;
    readonly soft: string;
    readonly accent: string;
    readonly line: string;
    readonly tint: string;
    readonly headings: 'ink' | 'accent';
  };
  readonly cover: {
    readonly on: boolean;
    readonly arrangement: (typeof coverArrangements)[number];
    /** Texts with fields, from the top down. */
    readonly over: string;
    readonly title: string;
    readonly under: string;
    readonly foot: string;
    /** The key of an image, and of a snippet that stands below the titles; empty: none. */
    readonly picture: string;
    readonly snippet: string;
    readonly backOn: boolean;
    readonly back: string;
    readonly backSnippet: string;
  };
  readonly heads: {
    /** Whether a line stands between the head and the text. */
    readonly rule: boolean;
    /** Whether first pages of chapters have a head and foot of their own. */
    readonly firstDiffers: boolean;
    /** All pages of paper printed on one side. */
    readonly right: HeadAndFoot;
    readonly left: HeadAndFoot;
    readonly first: HeadAndFoot;
  };
  readonly blocks: {
    readonly admonition: (typeof admonitionStyles)[number];
    readonly admonitions: Readonly<Record<AdmonitionKind, AdmonitionLook>>;
    readonly tableRules: (typeof tableRules)[number];
    readonly tableStripes: boolean;
    readonly tableHead: (typeof tableHeads)[number];
    readonly code: (typeof codeFrames)[number];
    readonly bullets: (typeof bulletSigns)[number];
    /** Whether numbers before headings and captions have the accent's colour. */
    readonly numbersInAccent: boolean;
  };
  /** The looks of the team's stamps, by their keys. */
  readonly stamps: Readonly<Record<string, StampLook>>;
  readonly web: {
    readonly appearance: (typeof webAppearances)[number];
    /** The width of the text, in multiples of its size. */
    readonly width: number;
    /** Texts with fields. */
    readonly header: string;
    readonly footer: string;
    /** The key of an image. */
    readonly logo: string;
    /** Where the site will stand; empty: nowhere known. */
    readonly address: string;
    readonly css: string;
  };
  /** The uploaded families that it uses, by key; none while it is not resolved for a build. */
  readonly families?: Readonly<Record<string, FontFamily>>;
}

/** An uploaded family. */
export interface FontFamily {
  /** What it is called in its files. */
  readonly name: string;
  readonly faces: readonly FontFace[];
}

export interface FontFace {
  readonly digest: string;
  readonly mediaType: string;
  /** 100 to 900. */
  readonly weight: number;
  readonly isItalic: boolean;
}

/** The signs of each kind of bullets, by level. */
export const bulletLevels = {
  dots: ['•', '–', '·'],
  squares: ['▪', '▫', '·'],
  dashes: ['–', '–', '·'],
} as const;

/** Whether a design shows a generated list. */
export function hasList({ lists }: Design, list: GeneratedList): boolean {
  return lists.front.includes(list) || lists.back.includes(list);
}

const bare: LabelTemplates = { heading: '', numberAndTitle: '{title}', number: '{title}' };
const numberFirst: LabelTemplates = { heading: '{number}', numberAndTitle: '{number} {title}', number: '{number}' };
const nothing: LineOfPage = { left: '', middle: '', right: '' };

/** What everything is that neither a design nor those it derives from say: plain decimal numbers, A4, a calm page. */
export const plainDesign: Design = {
  key: 'plain',
  title: 'Plain',
  numerals: {
    front: 'none',
    part: 'upper-roman',
    chapter: 'decimal',
    appendix: 'upper-alpha',
    section: 'decimal',
    figure: 'per-chapter',
    table: 'per-chapter',
    example: 'per-chapter',
  },
  chapters: 'through',
  sectionDepth: 2,
  templates: {
    front: numberFirst,
    part: numberFirst,
    chapter: numberFirst,
    appendix: numberFirst,
    section: numberFirst,
    figure: { heading: 'Figure {number}', numberAndTitle: 'Figure {number}, {title}', number: 'Figure {number}' },
    table: { heading: 'Table {number}', numberAndTitle: 'Table {number}, {title}', number: 'Table {number}' },
    example: { heading: 'Example {number}', numberAndTitle: 'Example {number}, {title}', number: 'Example {number}' },
    step: { heading: '', numberAndTitle: 'step {number}', number: 'step {number}' },
    block: bare,
  },
  titleReference: '{title}',
  unnumberedReference: '{title}',
  letters: { level1: 'as-written', level2: 'as-written', level3: 'as-written' },
  lists: {
    contentsDepth: 0,
    paperDepth: 3,
    front: ['contents', 'figures', 'tables'],
    back: ['glossary', 'index'],
  },
  paper: {
    size: 'a4',
    width: 210,
    height: 297,
    landscape: false,
    sides: 'one',
    top: 25,
    bottom: 25,
    inner: 25,
    outer: 25,
    chapterStart: 'page',
    turnFrom: 8,
    indexColumns: 2,
    standard: 'ua-1',
    parts: 'none',
  },
  type: {
    text: 'serif',
    headings: 'serif',
    labels: 'sans',
    code: 'mono',
    size: 10.5,
    leading: 1.35,
    level1: 20,
    level2: 15,
    level3: 12.5,
    level4: 11,
    headingWeight: 'semibold',
    justify: false,
    hyphenate: true,
  },
  colours: {
    ink: '#1d2326',
    soft: '#59636a',
    accent: '#0b5d66',
    line: '#d9d4c8',
    tint: '#f3f0e8',
    headings: 'ink',
  },
  cover: {
    on: true,
    arrangement: 'top',
    over: '',
    title: '{title}',
    under: '{variant}',
    foot: '',
    picture: '',
    snippet: '',
    backOn: false,
    back: '',
    backSnippet: '',
  },
  heads: {
    rule: true,
    firstDiffers: true,
    right: {
      head: { left: '{chapter}', middle: '', right: '{title}' },
      foot: { left: '{variant}', middle: '', right: '{page}' },
    },
    left: {
      head: { left: '{title}', middle: '', right: '{chapter}' },
      foot: { left: '{page}', middle: '', right: '{variant}' },
    },
    first: { head: nothing, foot: { left: '{variant}', middle: '', right: '{page}' } },
  },
  blocks: {
    admonition: 'bar',
    admonitions: {
      note: { colour: 'accent', sign: 'none', word: '' },
      tip: { colour: 'accent', sign: 'none', word: '' },
      important: { colour: 'accent', sign: 'none', word: '' },
      notice: { colour: '#2457a0', sign: 'none', word: '' },
      caution: { colour: '#8a6a00', sign: 'triangle', word: '' },
      warning: { colour: '#a84d00', sign: 'triangle', word: '' },
      danger: { colour: '#b3261e', sign: 'triangle', word: '' },
    },
    tableRules: 'rows',
    tableStripes: false,
    tableHead: 'line',
    code: 'tint',
    bullets: 'dots',
    numbersInAccent: true,
  },
  stamps: {},
  web: { appearance: 'both', width: 52, header: '', footer: '', logo: '', address: '', css: '' },
};

/** Fills a template; a missing value leaves nothing. */
export function fillTemplate(template: string, values: { readonly number: string; readonly title: string }): string {
  return template.replace(/\{(number|title)\}/g, (_, name: 'number' | 'title') => values[name]);
}
