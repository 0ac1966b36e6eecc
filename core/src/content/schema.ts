import { Schema, type DOMOutputSpec, type MarkSpec, type NodeSpec, type TagParseRule } from 'prosemirror-model';
import type { AttributeSpec } from '../model/attributes.js';
import {
  isMarkKind,
  isNodeKind,
  kinds,
  markKinds,
  type ForEachKind,
  type KindSpec,
  type MarkKind,
} from '../model/kinds.js';

/**
 * The ProseMirror schema of all bodies, made from the table of kinds: what editor, importers, engine and
 * formats agree on. What is said here is only how the editor holds and pastes each kind.
 *
 * Bodies of topics are `topic` nodes (a title, then blocks and sections), bodies of snippets are
 * `fragment` nodes (blocks and sections) or `phrase` nodes (inline content), and a variable's values
 * are `phrase` nodes.
 */

interface DomElement {
  getAttribute(name: string): string | null;
}

interface PasteRule {
  readonly tag: string;
  readonly attrs?: (dom: DomElement) => Record<string, unknown>;
}

/** How a kind stands in the editor's document. */
interface EditedAs {
  /** The element that it is drawn with. */
  readonly tag: string;
  /** What pasted markup becomes it. */
  readonly paste?: readonly PasteRule[];
  readonly spec?: Partial<NodeSpec>;
  /** Further attributes of the element, by which the browser draws it. */
  readonly drawn?: (attrs: Readonly<Record<string, unknown>>) => Record<string, string>;
}

/** Reads the attributes that `domAttrs` wrote. What may not stand there, as in a page that imitates ours, is as if it were not. */
function readAttrs(attributes: Readonly<Record<string, AttributeSpec>>): NonNullable<TagParseRule['getAttrs']> {
  return (dom: DomElement) => {
    const attrs: Record<string, unknown> = {};
    for (const [name, { allows }] of Object.entries(attributes)) {
      const raw = dom.getAttribute(`data-${name.toLowerCase()}`);
      if (raw === null) continue;
      try {
        const value = JSON.parse(raw) as unknown;
        if (allows(value)) attrs[name] = value;
      } catch {
        // Foreign markup with an attribute of the same name: the default stands.
      }
    }
    return attrs;
  };
}

/** The attributes of pasted markup that may stand where they are read to. */
function allowed(
  attributes: Readonly<Record<string, AttributeSpec>>,
  read: (dom: DomElement) => Record<string, unknown>,
): NonNullable<TagParseRule['getAttrs']> {
  return (dom: DomElement) =>
    Object.fromEntries(Object.entries(read(dom)).filter(([name, value]) => attributes[name]?.allows(value) ?? false));
}

function domAttrs(attrs: Readonly<Record<string, unknown>>): Record<string, string> {
  const dom: Record<string, string> = {};
  for (const [name, value] of Object.entries(attrs)) {
    if (value !== null && value !== undefined) dom[`data-${name.toLowerCase()}`] = JSON.stringify(value);
  }
  return dom;
}

const spans = (dom: DomElement): Record<string, unknown> => ({
  colspan: Math.max(1, Number(dom.getAttribute('colspan')) || 1),
  rowspan: Math.max(1, Number(dom.getAttribute('rowspan')) || 1),
});
/** Merged cells are drawn as they are. */
const drawnSpans = (attrs: Readonly<Record<string, unknown>>): Record<string, string> =>
  Object.fromEntries(
    ['colspan', 'rowspan'].flatMap((name) => {
      const span = attrs[name];
      return typeof span === 'number' && span > 1 ? [[name, String(span)]] : [];
    }),
  );
const defining = { defining: true };
const closed = { isolating: true };
const atom = { atom: true };
const inlineAtom: EditedAs = { tag: 'span', spec: { inline: true, atom: true } };

const edited: ForEachKind<EditedAs> = {
  topic: { tag: 'article' },
  fragment: { tag: 'div' },
  phrase: { tag: 'div' },
  paragraph: { tag: 'p', paste: [{ tag: 'p' }] },
  section: { tag: 'section', spec: { defining: true, isolating: false } },
  title: { tag: 'h2', spec: defining },
  bullet_list: { tag: 'ul', paste: [{ tag: 'ul' }] },
  ordered_list: {
    tag: 'ol',
    paste: [{ tag: 'ol', attrs: (dom) => ({ start: Number(dom.getAttribute('start') ?? 1) }) }],
  },
  list_item: { tag: 'li', paste: [{ tag: 'li' }], spec: defining },
  steps: { tag: 'ol' },
  step: { tag: 'li', spec: defining },
  definition_list: { tag: 'dl' },
  definition: { tag: 'div', spec: defining },
  term: { tag: 'dt' },
  description: { tag: 'dd' },
  table: { tag: 'div', spec: { isolating: true, defining: true } },
  table_grid: { tag: 'table', spec: { tableRole: 'table', isolating: true } },
  table_row: { tag: 'tr', paste: [{ tag: 'tr' }], spec: { tableRole: 'row' } },
  table_cell: {
    tag: 'td',
    paste: [{ tag: 'td', attrs: spans }],
    spec: { tableRole: 'cell', isolating: true },
    drawn: drawnSpans,
  },
  table_header: {
    tag: 'th',
    paste: [{ tag: 'th', attrs: spans }],
    spec: { tableRole: 'header_cell', isolating: true },
    drawn: drawnSpans,
  },
  figure: { tag: 'figure', spec: closed },
  picture: { tag: 'div', spec: { draggable: false } },
  caption: { tag: 'figcaption' },
  admonition: { tag: 'aside', spec: defining },
  code_block: { tag: 'pre', paste: [{ tag: 'pre' }], spec: { code: true, whitespace: 'pre', defining: true } },
  quotation: { tag: 'blockquote', paste: [{ tag: 'blockquote' }], spec: defining },
  example: { tag: 'div', spec: defining },
  footnote: { tag: 'div', spec: defining },
  display_formula: { tag: 'div', spec: atom },
  media: { tag: 'figure', spec: closed },
  choice: { tag: 'div', spec: defining },
  // What is written for one branch never runs into another, and no key takes a choice apart.
  branch: { tag: 'div', spec: { defining: true, isolating: true } },
  slot: { tag: 'div', spec: atom },
  copied: { tag: 'div', spec: defining },
  placement: { tag: 'div', spec: { atom: true, draggable: true } },
  text: { tag: '' },
  line_break: { tag: 'br', paste: [{ tag: 'br' }], spec: { inline: true, selectable: false } },
  image: inlineAtom,
  variable: inlineAtom,
  inline_placement: inlineAtom,
  cross_reference: inlineAtom,
  external_link: inlineAtom,
  index_marker: inlineAtom,
  formula: inlineAtom,
  footnote_reference: inlineAtom,
};

function attributesFor(attributes: Readonly<Record<string, AttributeSpec>>): NonNullable<NodeSpec['attrs']> {
  return Object.fromEntries(Object.entries(attributes).map(([name, { default: value }]) => [name, { default: value }]));
}

const bare = new Set(['topic', 'fragment', 'phrase', 'line_break']);

function nodeSpec(
  name: string,
  { content, groups, attributes }: KindSpec,
  { tag, paste = [], spec, drawn }: EditedAs,
): NodeSpec {
  if (name === 'text') return { group: 'inline' };
  const leaf = content === undefined;
  const own = bare.has(name)
    ? []
    : [{ tag: `${tag}[data-node=${name}]`, getAttrs: readAttrs(attributes), priority: 60 }];
  return {
    ...(content === undefined ? {} : { content }),
    ...(groups === undefined ? {} : { group: groups }),
    ...spec,
    attrs: attributesFor(attributes),
    parseDOM: [
      ...own,
      ...paste.map((rule) => ({ tag: rule.tag, ...(rule.attrs ? { getAttrs: allowed(attributes, rule.attrs) } : {}) })),
    ],
    toDOM: (node): DOMOutputSpec => {
      if (bare.has(name)) return leaf ? [tag] : [tag, 0];
      const attrs = { 'data-node': name, ...domAttrs(node.attrs), ...drawn?.(node.attrs) };
      return leaf ? [tag, attrs] : [tag, attrs, 0];
    },
  };
}

interface MarkedAs {
  readonly tag: string;
  readonly paste?: NonNullable<MarkSpec['parseDOM']>;
  readonly spec?: Partial<MarkSpec>;
}

const href = (dom: DomElement): Record<string, unknown> => ({ href: dom.getAttribute('href') ?? '' });
const shift = { excludes: 'subscript superscript' };

const marked: Readonly<Record<MarkKind, MarkedAs>> = {
  // Conditions nest: an inline range may stand in another one, so the mark does not exclude itself.
  condition: { tag: 'span', spec: { excludes: '', inclusive: true } },
  stamp: { tag: 'span', spec: { inclusive: true } },
  link: { tag: 'a', spec: { inclusive: false }, paste: [{ tag: 'a[href]', getAttrs: href }] },
  strong: { tag: 'strong', paste: [{ tag: 'strong' }, { tag: 'b' }] },
  emphasis: { tag: 'em', paste: [{ tag: 'em' }, { tag: 'i' }] },
  quote: { tag: 'q', paste: [{ tag: 'q' }] },
  defined_term: { tag: 'dfn', paste: [{ tag: 'dfn' }] },
  cited_title: { tag: 'cite', paste: [{ tag: 'cite' }] },
  interface_label: { tag: 'b' },
  key: { tag: 'kbd', paste: [{ tag: 'kbd' }] },
  code: { tag: 'code', spec: { code: true }, paste: [{ tag: 'code' }] },
  superscript: { tag: 'sup', spec: shift, paste: [{ tag: 'sup' }] },
  subscript: { tag: 'sub', spec: shift, paste: [{ tag: 'sub' }] },
};

function markSpec(name: string, as: MarkedAs): MarkSpec {
  const attributes = isMarkKind(name) ? markKinds[name].attributes : {};
  return {
    ...as.spec,
    attrs: attributesFor(attributes),
    parseDOM: [
      { tag: `${as.tag}[data-mark=${name}]`, getAttrs: readAttrs(attributes), priority: 60 },
      ...(as.paste ?? []),
    ],
    toDOM: (mark): DOMOutputSpec => [as.tag, { 'data-mark': name, ...domAttrs(mark.attrs) }, 0],
  };
}

/** The schema of all bodies. */
export const contentSchema = new Schema({
  nodes: Object.fromEntries(
    Object.entries(kinds).map(([name, spec]) => [name, nodeSpec(name, spec, edited[isNodeKind(name) ? name : 'text'])]),
  ),
  marks: Object.fromEntries(Object.entries(marked).map(([name, as]) => [name, markSpec(name, as)])),
  topNode: 'topic',
});
