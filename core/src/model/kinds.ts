import * as attribute from './attributes.js';
import type { AttributeSpec } from './attributes.js';

/** Kinds of admonition: two kinds of advice, and the signal words of ANSI Z535.6 and ISO 3864-2. */
export const admonitionKinds = ['note', 'tip', 'important', 'notice', 'caution', 'warning', 'danger'] as const;
export type AdmonitionKind = (typeof admonitionKinds)[number];

/** How a cross-reference reads. */
export const referenceForms = ['title', 'number-title', 'number', 'page', 'text'] as const;
export type ReferenceForm = (typeof referenceForms)[number];

/** The lines of a table: between its rows, around all cells, or none. */
export const tableRules = ['rows', 'grid', 'none'] as const;

/** What counts on a page, or can be referred to by its number. */
export const landmarkKinds = ['section', 'figure', 'table', 'example', 'step'] as const;
export type LandmarkKind = (typeof landmarkKinds)[number];

/** How pieces of content stand in for others: the newest revision, or one that is held. */
export const placementModes = ['live', 'held'] as const;

/**
 * What is true of a kind of node. Whatever the engine, the editor and the formats must know of kinds in
 * general stands here; what they do with each stands in records over all kinds, so that a kind which
 * somebody forgot does not compile.
 */
export interface KindSpec {
  /** A ProseMirror content expression; none: a leaf. */
  readonly content?: string;
  readonly groups?: string;
  readonly attributes: Readonly<Record<string, AttributeSpec>>;
  /** Holds inline content only. */
  readonly line?: true;
  /** Stands in lines. */
  readonly inline?: true;
  /**
   * What is left of it decides whether it stays: `any` child that is not a heading, or one of each of the kinds
   * that are named. Kinds without it stay whatever becomes of their content.
   */
  readonly remains?: 'any' | readonly (readonly string[])[];
  /** The heading of what it stands in: alone it is nothing. */
  readonly heading?: true;
  readonly landmark?: LandmarkKind;
  /** Readers see it as one thing: it counts in coverage. */
  readonly counts?: true;
  /** It differs between variants whatever its attributes say: it stands for something else. */
  readonly standsFor?: 'content' | 'value';
  /** It shows a file besides text. */
  readonly shows?: 'picture';
  /** It reads by what it leads to, or by its page. */
  readonly linked?: true;
}

/** The key of a stamp. */
const stamp = attribute.optionalText(80);
const limited = { id: attribute.id, when: attribute.when };
const block = { ...limited, stamp };
const cell = {
  colspan: attribute.wholeNumber(1, 1, 200),
  rowspan: attribute.wholeNumber(1, 1, 10_000),
  colwidth: attribute.columnWidths,
  align: attribute.optionalText(20),
};
const key = attribute.text(200);
/** What a component says of itself, wherever it stands. */
const own = { when: attribute.when };

/** All kinds of nodes in bodies. Text is one of them; marks stand in `markKinds`. */
export const kinds = {
  topic: { content: 'title flow+', attributes: own },
  fragment: { content: 'flow+', attributes: own },
  phrase: { content: 'inline*', attributes: own, line: true },

  paragraph: { content: 'inline*', groups: 'block flow', attributes: block, line: true, counts: true },
  section: {
    content: 'title flow*',
    groups: 'flow',
    attributes: { ...block, numbered: attribute.flag(true) },
    landmark: 'section',
    counts: true,
  },
  title: { content: 'inline*', attributes: {}, line: true, heading: true },
  bullet_list: { content: 'list_item+', groups: 'block flow', attributes: block, remains: 'any' },
  ordered_list: {
    content: 'list_item+',
    groups: 'block flow',
    attributes: {
      ...block,
      start: attribute.wholeNumber(1, 0, 1_000_000),
      style: attribute.oneOf('decimal', 'lower-alpha', 'upper-alpha', 'lower-roman', 'upper-roman'),
    },
    remains: 'any',
  },
  list_item: { content: 'block+', attributes: block, remains: 'any', counts: true },
  steps: { content: 'step+', groups: 'block flow', attributes: block, remains: 'any' },
  step: { content: 'block+', attributes: block, remains: 'any', landmark: 'step', counts: true },
  definition_list: { content: 'definition+', groups: 'block flow', attributes: block, remains: 'any' },
  definition: {
    content: 'term+ description',
    attributes: block,
    remains: [['term'], ['description']],
    counts: true,
  },
  term: { content: 'inline*', attributes: { when: attribute.when }, line: true, heading: true },
  description: { content: 'block+', attributes: {}, remains: 'any' },
  table: {
    content: 'caption? table_grid',
    groups: 'block flow',
    // Lines of its own; null: as the design draws them.
    attributes: { ...block, lines: attribute.optionalOneOf(...tableRules) },
    remains: [['table_grid']],
    landmark: 'table',
    counts: true,
  },
  table_grid: { content: 'table_row+', attributes: { columns: attribute.columns } },
  table_row: {
    content: '(table_cell | table_header)*',
    attributes: { ...block, header: attribute.flag(false) },
  },
  table_cell: { content: 'block+', attributes: cell },
  table_header: { content: 'block+', attributes: cell },
  figure: {
    // Pictures, or what a book shows as a figure besides: a listing, a table, a recording.
    content: '(picture | block)+ caption?',
    groups: 'block flow',
    attributes: block,
    remains: 'any',
    landmark: 'figure',
    counts: true,
  },
  picture: {
    attributes: {
      component: key,
      alt: attribute.optionalText(),
      width: attribute.optionalWholeNumber(1, 100),
      when: attribute.when,
    },
    standsFor: 'content',
    shows: 'picture',
  },
  caption: { content: 'inline*', attributes: {}, line: true, heading: true },
  admonition: {
    content: 'title? block+',
    groups: 'block flow',
    attributes: { ...block, kind: attribute.oneOf(...admonitionKinds) },
    remains: 'any',
    counts: true,
  },
  code_block: {
    content: 'inline*',
    groups: 'block flow',
    attributes: { ...block, language: attribute.optionalText(40) },
    line: true,
    counts: true,
  },
  quotation: {
    content: 'block+',
    groups: 'block flow',
    attributes: { ...block, attribution: attribute.optionalText(1000) },
    remains: 'any',
  },
  example: {
    content: 'title? block+',
    groups: 'block flow',
    attributes: block,
    remains: 'any',
    landmark: 'example',
    counts: true,
  },
  footnote: {
    content: 'block+',
    groups: 'block flow',
    attributes: limited,
    remains: 'any',
    counts: true,
    linked: true,
  },
  // TeX source, which formats draw or show as it is.
  display_formula: {
    groups: 'block flow',
    attributes: { ...block, source: attribute.text() },
    counts: true,
  },
  // What it holds is the transcript. It plays a stored file, or what is found at an address.
  media: {
    content: 'block*',
    groups: 'block flow',
    attributes: {
      ...block,
      medium: attribute.oneOf('video', 'audio'),
      address: attribute.text(),
      poster: attribute.optionalText(200),
      recording: attribute.digest,
      mediaType: attribute.optionalText(80),
      name: attribute.optionalText(200),
    },
    counts: true,
    standsFor: 'content',
    shows: 'picture',
  },
  choice: { content: 'branch+', groups: 'block flow', attributes: limited, standsFor: 'content' },
  branch: { content: 'block+', attributes: { when: attribute.when } },
  slot: {
    groups: 'block flow',
    attributes: {
      ...limited,
      collection: attribute.optionalText(80),
      matching: attribute.optionalText(80),
      stated: attribute.optionalText(200),
    },
    counts: true,
    standsFor: 'content',
    linked: true,
  },
  copied: {
    content: 'block+',
    groups: 'block flow',
    attributes: { ...limited, component: key, revision: attribute.optionalWholeNumber(1, 1_000_000_000) },
    standsFor: 'content',
  },
  placement: {
    groups: 'block flow',
    attributes: {
      ...block,
      component: key,
      section: attribute.optionalText(200),
      mode: attribute.oneOf(...placementModes),
      revision: attribute.optionalWholeNumber(1, 1_000_000_000),
      withTitle: attribute.flag(false),
    },
    standsFor: 'content',
  },

  text: { groups: 'inline', attributes: {}, inline: true },
  line_break: { groups: 'inline', attributes: {}, inline: true },
  image: {
    groups: 'inline',
    attributes: { component: key, alt: attribute.optionalText(), when: attribute.when },
    inline: true,
    standsFor: 'content',
    shows: 'picture',
  },
  variable: { groups: 'inline', attributes: { key }, inline: true, standsFor: 'value' },
  inline_placement: {
    groups: 'inline',
    attributes: {
      id: attribute.id,
      component: key,
      mode: attribute.oneOf(...placementModes),
      revision: attribute.optionalWholeNumber(1, 1_000_000_000),
    },
    inline: true,
    standsFor: 'content',
  },
  cross_reference: {
    groups: 'inline',
    attributes: {
      component: attribute.optionalText(200),
      target: attribute.optionalText(200),
      form: attribute.oneOf(...referenceForms),
      text: attribute.optionalText(),
    },
    inline: true,
    linked: true,
  },
  external_link: { groups: 'inline', attributes: { component: key }, inline: true, standsFor: 'content' },
  index_marker: {
    groups: 'inline',
    attributes: {
      primary: attribute.text(500),
      secondary: attribute.optionalText(500),
      tertiary: attribute.optionalText(500),
      see: attribute.optionalText(500),
      seeAlso: attribute.optionalText(500),
    },
    inline: true,
    linked: true,
  },
  formula: { groups: 'inline', attributes: { source: attribute.text() }, inline: true },
  footnote_reference: { groups: 'inline', attributes: { target: attribute.text(200) }, inline: true, linked: true },
} as const satisfies Readonly<Record<string, KindSpec>>;

/** A kind of node in bodies. */
export type NodeKind = keyof typeof kinds;

/** What assembly leaves of the kinds, and what it adds: placed content, and markers for what is missing. */
export type AssembledKind =
  | Exclude<
      NodeKind,
      | 'topic'
      | 'fragment'
      | 'phrase'
      | 'choice'
      | 'branch'
      | 'copied'
      | 'placement'
      | 'inline_placement'
      | 'external_link'
    >
  | 'placed'
  | 'missing';

/** The kinds that stand in lines. */
export type InlineKind = {
  [Kind in NodeKind]: (typeof kinds)[Kind] extends { readonly inline: true } ? Kind : never;
}[NodeKind];

/** What is true of a kind; of the kinds that assembly adds, too. */
export function kindSpec(kind: NodeKind | AssembledKind): KindSpec {
  const spec = specs.get(kind);
  if (!spec) throw new Error(`There is no kind of content “${kind}”.`);
  return spec;
}

const added: Readonly<Record<'placed' | 'missing', KindSpec>> = {
  placed: { content: 'flow*', attributes: {} },
  missing: { attributes: {}, inline: true },
};
const specs = new Map<string, KindSpec>([...Object.entries(kinds), ...Object.entries(added)]);

/** Whether something is the name of a kind of node in bodies. */
export function isNodeKind(name: string): name is NodeKind {
  return Object.hasOwn(kinds, name);
}

/** One thing to do with each kind; what is missing does not compile. */
export type ForEachKind<Handler> = Readonly<Record<NodeKind, Handler>>;

/** One thing to do with each kind of assembled content. */
export type ForEachAssembledKind<Handler> = Readonly<Record<AssembledKind, Handler>>;

/** One thing to do with each kind that stands in lines; with each of all others. */
export type ForEachInlineKind<Handler> = Readonly<Record<InlineKind, Handler>>;
export type ForEachBlockKind<Handler> = Readonly<Record<Exclude<NodeKind, InlineKind>, Handler>>;

/** The same for assembled content. A marker for what is missing stands among both. */
export type ForEachAssembledInline<Handler> = Readonly<Record<(InlineKind & AssembledKind) | 'missing', Handler>>;
export type ForEachAssembledBlock<Handler> = Readonly<Record<Exclude<AssembledKind, InlineKind>, Handler>>;

/** What stands in a record for a kind; throws where there is none, so that nothing is passed over in silence. */
export function handlerFor<Handler>(handlers: Readonly<Record<string, Handler>>, kind: string): Handler {
  const handler = Object.hasOwn(handlers, kind) ? handlers[kind] : undefined;
  if (handler === undefined) throw new Error(`There is no kind of content “${kind}”.`);
  return handler;
}

const none = { attributes: {} };

/** The kinds of marks on inline content, the outermost first. */
export const markKinds = {
  condition: { attributes: { when: attribute.text() } },
  stamp: { attributes: { stamp } },
  link: { attributes: { href: attribute.text() } },
  strong: none,
  emphasis: none,
  quote: none,
  defined_term: none,
  cited_title: none,
  interface_label: none,
  key: none,
  // What it is: a command, a file, what is typed or shown, a parameter, ...
  code: {
    attributes: {
      kind: attribute.oneOf('code', 'command', 'file', 'input', 'output', 'parameter', 'replaceable', 'prompt', 'name'),
    },
  },
  superscript: none,
  subscript: none,
} as const satisfies Readonly<Record<string, { readonly attributes: Readonly<Record<string, AttributeSpec>> }>>;

export type MarkKind = keyof typeof markKinds;

export function isMarkKind(name: string): name is MarkKind {
  return Object.hasOwn(markKinds, name);
}
