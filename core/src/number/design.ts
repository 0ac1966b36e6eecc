/** Numerals of a numbering scheme. */
export const numerals = ['decimal', 'upper-alpha', 'lower-alpha', 'upper-roman', 'lower-roman', 'none'] as const;
export type Numeral = (typeof numerals)[number];

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

/** How output looks and counts. */
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
  /** Which generated lists there are, where there is something to list. */
  readonly lists: {
    /** How many levels of sections inside topics the contents show. */
    readonly contentsDepth: number;
    readonly figures: boolean;
    readonly tables: boolean;
    readonly examples: boolean;
    readonly glossary: boolean;
    readonly index: boolean;
  };
  readonly accent: string;
}

const bare: LabelTemplates = { heading: '', numberAndTitle: '{title}', number: '{title}' };
const numberFirst: LabelTemplates = { heading: '{number}', numberAndTitle: '{number} {title}', number: '{number}' };

/** The design that new workspaces begin with: plain decimal numbers before the titles. */
export const plainDesign: Design = {
  key: 'plain',
  title: 'Plain numbers',
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
  lists: { contentsDepth: 0, figures: true, tables: true, examples: false, glossary: true, index: true },
  accent: '#0b5d66',
};

/** A design that says what each number counts: “Chapter 2. …”, “Section 2.1, “…””. */
export const labelledDesign: Design = {
  ...plainDesign,
  key: 'labelled',
  title: 'Labelled numbers',
  sectionDepth: 6,
  templates: {
    front: numberFirst,
    part: { heading: 'Part {number}.', numberAndTitle: 'Part {number}, {title}', number: 'Part {number}' },
    chapter: { heading: 'Chapter {number}.', numberAndTitle: 'Chapter {number}, {title}', number: 'Chapter {number}' },
    appendix: {
      heading: 'Appendix {number}.',
      numberAndTitle: 'Appendix {number}, {title}',
      number: 'Appendix {number}',
    },
    section: {
      heading: '{number}.',
      numberAndTitle: 'Section {number}, “{title}”',
      number: 'Section {number}',
    },
    figure: {
      heading: 'Figure {number}.',
      numberAndTitle: 'Figure {number}, “{title}”',
      number: 'Figure {number}',
    },
    table: { heading: 'Table {number}.', numberAndTitle: 'Table {number}, “{title}”', number: 'Table {number}' },
    example: {
      heading: 'Example {number}.',
      numberAndTitle: 'Example {number}, “{title}”',
      number: 'Example {number}',
    },
    step: { heading: '', numberAndTitle: 'step {number}', number: 'step {number}' },
    block: bare,
  },
  unnumberedReference: 'the section called “{title}”',
};

/**
 * The design of imported books: labelled numbers, and only the lists that a book asks for itself. It does not
 * number front matter (the defaults of the DocBook XSL stylesheets: `chapter.autolabel`, `preface.autolabel`).
 */
export const importedDesign: Design = {
  ...labelledDesign,
  key: 'imported',
  title: 'As imported books count',
  lists: { contentsDepth: 2, figures: false, tables: false, examples: false, glossary: false, index: false },
};

/** A number in a numeral system; the empty string for `none`. */
export function formatNumber(value: number, numeral: Numeral): string {
  switch (numeral) {
    case 'decimal':
      return String(value);
    case 'upper-alpha':
      return letters(value).toUpperCase();
    case 'lower-alpha':
      return letters(value);
    case 'upper-roman':
      return roman(value).toUpperCase();
    case 'lower-roman':
      return roman(value);
    case 'none':
      return '';
  }
}

/** a, b, ..., z, aa, ab, ... (bijective base 26). */
function letters(value: number): string {
  let text = '';
  for (let rest = value; rest > 0; rest = Math.floor((rest - 1) / 26)) {
    text = String.fromCharCode(97 + ((rest - 1) % 26)) + text;
  }
  return text;
}

function roman(value: number): string {
  const steps: readonly (readonly [number, string])[] = [
    [1000, 'm'],
    [900, 'cm'],
    [500, 'd'],
    [400, 'cd'],
    [100, 'c'],
    [90, 'xc'],
    [50, 'l'],
    [40, 'xl'],
    [10, 'x'],
    [9, 'ix'],
    [5, 'v'],
    [4, 'iv'],
    [1, 'i'],
  ];
  let rest = value;
  let text = '';
  for (const [size, sign] of steps) {
    while (rest >= size) {
      text += sign;
      rest -= size;
    }
  }
  return text;
}

/** Fills a template; a missing value leaves nothing. */
export function fillTemplate(template: string, values: { readonly number: string; readonly title: string }): string {
  return template.replace(/\{(number|title)\}/g, (_, name: 'number' | 'title') => values[name]);
}
