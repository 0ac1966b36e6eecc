import { Schema, type DOMOutputSpec, type MarkSpec, type NodeSpec } from 'prosemirror-model';

/**
 * The one schema of content: what editor, importers, engine and renderers agree on.
 *
 * Bodies of topics are `topic` nodes (a title, then blocks and sections), bodies of snippets are
 * `fragment` nodes (blocks and sections) or `phrase` nodes (inline content), and a variable's values
 * are `phrase` nodes.
 *
 * Attributes used throughout: `id`, the stable name of a block within its component, and `when`, the
 * text form of the condition under which the node applies (null: always).
 */

interface DomElement {
  getAttribute(name: string): string | null;
}

/** Reads the attributes that `domAttrs` wrote. */
function readAttrs(names: readonly string[]): (dom: DomElement) => Record<string, unknown> {
  return (dom) => {
    const attrs: Record<string, unknown> = {};
    for (const name of names) {
      const raw = dom.getAttribute(`data-${name.toLowerCase()}`);
      if (raw === null) continue;
      try {
        attrs[name] = JSON.parse(raw) as unknown;
      } catch {
        // Foreign markup with an attribute of the same name: the default stands.
      }
    }
    return attrs;
  };
}

function domAttrs(attrs: Readonly<Record<string, unknown>>): Record<string, string> {
  const dom: Record<string, string> = {};
  for (const [name, value] of Object.entries(attrs)) {
    if (value !== null && value !== undefined) dom[`data-${name.toLowerCase()}`] = JSON.stringify(value);
  }
  return dom;
}

type Defaults = Record<string, unknown>;

function nodeSpec(
  name: string,
  tag: string,
  defaults: Defaults,
  spec: NodeSpec,
  paste: readonly { tag: string; attrs?: (dom: DomElement) => Record<string, unknown> }[] = [],
): NodeSpec {
  const leaf = spec.content === undefined;
  return {
    ...spec,
    attrs: Object.fromEntries(Object.entries(defaults).map(([key, value]) => [key, { default: value }])),
    parseDOM: [
      { tag: `${tag}[data-node=${name}]`, getAttrs: readAttrs(Object.keys(defaults)) as never, priority: 60 },
      ...paste.map((rule) => ({ tag: rule.tag, ...(rule.attrs ? { getAttrs: rule.attrs as never } : {}) })),
    ],
    toDOM: (node): DOMOutputSpec => {
      const attrs = { 'data-node': name, ...domAttrs(node.attrs) };
      return leaf ? [tag, attrs] : [tag, attrs, 0];
    },
  };
}

const block = { id: null, when: null };

/** Kinds of admonition: two kinds of advice, and the signal words of ANSI Z535.6 and ISO 3864-2. */
export const admonitionKinds = ['note', 'tip', 'important', 'notice', 'caution', 'warning', 'danger'] as const;
export type AdmonitionKind = (typeof admonitionKinds)[number];

/** How a cross-reference reads. */
export const referenceForms = ['title', 'number-title', 'number', 'page', 'text'] as const;

const nodes: Record<string, NodeSpec> = {
  topic: { content: 'title flow+', attrs: {}, toDOM: () => ['article', 0] },
  fragment: { content: 'flow+', attrs: {}, toDOM: () => ['div', 0] },
  phrase: { content: 'inline*', attrs: {}, toDOM: () => ['div', 0] },

  paragraph: nodeSpec('paragraph', 'p', block, { group: 'block flow', content: 'inline*' }, [{ tag: 'p' }]),
  section: nodeSpec(
    'section',
    'section',
    { ...block, numbered: true },
    { group: 'flow', content: 'title flow*', defining: true, isolating: false },
  ),
  title: nodeSpec('title', 'h2', {}, { content: 'inline*', defining: true }),
  bullet_list: nodeSpec('bullet_list', 'ul', block, { group: 'block flow', content: 'list_item+' }, [{ tag: 'ul' }]),
  ordered_list: nodeSpec(
    'ordered_list',
    'ol',
    { ...block, start: 1, style: 'decimal' },
    { group: 'block flow', content: 'list_item+' },
    [{ tag: 'ol' }],
  ),
  list_item: nodeSpec('list_item', 'li', block, { content: 'block+', defining: true }, [{ tag: 'li' }]),
  steps: nodeSpec('steps', 'ol', block, { group: 'block flow', content: 'step+' }),
  step: nodeSpec('step', 'li', block, { content: 'block+', defining: true }),
  definition_list: nodeSpec('definition_list', 'dl', block, { group: 'block flow', content: 'definition+' }),
  definition: nodeSpec('definition', 'div', block, { content: 'term+ description', defining: true }),
  term: nodeSpec('term', 'dt', { when: null }, { content: 'inline*' }),
  description: nodeSpec('description', 'dd', {}, { content: 'block+' }),
  table: nodeSpec('table', 'div', block, {
    group: 'block flow',
    content: 'caption? table_grid',
    isolating: true,
    defining: true,
  }),
  table_grid: nodeSpec(
    'table_grid',
    'table',
    { columns: null },
    { content: 'table_row+', tableRole: 'table', isolating: true },
  ),
  table_row: nodeSpec(
    'table_row',
    'tr',
    { ...block, header: false },
    { content: '(table_cell | table_header)*', tableRole: 'row' },
    [{ tag: 'tr' }],
  ),
  table_cell: nodeSpec(
    'table_cell',
    'td',
    { colspan: 1, rowspan: 1, colwidth: null, align: null },
    { content: 'block+', tableRole: 'cell', isolating: true },
    [{ tag: 'td', attrs: spans }],
  ),
  table_header: nodeSpec(
    'table_header',
    'th',
    { colspan: 1, rowspan: 1, colwidth: null, align: null },
    { content: 'block+', tableRole: 'header_cell', isolating: true },
    [{ tag: 'th', attrs: spans }],
  ),
  figure: nodeSpec('figure', 'figure', block, { group: 'block flow', content: 'picture+ caption?', isolating: true }),
  picture: nodeSpec('picture', 'div', { component: '', alt: null, width: null, when: null }, { draggable: false }),
  caption: nodeSpec('caption', 'figcaption', {}, { content: 'inline*' }),
  admonition: nodeSpec(
    'admonition',
    'aside',
    { ...block, kind: 'note' },
    { group: 'block flow', content: 'title? block+', defining: true },
  ),
  code_block: nodeSpec(
    'code_block',
    'pre',
    { ...block, language: null },
    { group: 'block flow', content: 'inline*', code: true, whitespace: 'pre', defining: true },
    [{ tag: 'pre' }],
  ),
  quotation: nodeSpec(
    'quotation',
    'blockquote',
    { ...block, attribution: null },
    { group: 'block flow', content: 'block+', defining: true },
    [{ tag: 'blockquote' }],
  ),
  example: nodeSpec('example', 'div', block, { group: 'block flow', content: 'title? block+', defining: true }),
  footnote: nodeSpec('footnote', 'div', block, { group: 'block flow', content: 'block+', defining: true }),
  choice: nodeSpec('choice', 'div', block, { group: 'block flow', content: 'branch+', defining: true }),
  branch: nodeSpec('branch', 'div', { when: null }, { content: 'block+', defining: true }),
  slot: nodeSpec(
    'slot',
    'div',
    { ...block, collection: null, matching: null, stated: null },
    { group: 'block flow', atom: true },
  ),
  copied: nodeSpec(
    'copied',
    'div',
    { ...block, component: '', revision: null },
    { group: 'block flow', content: 'block+', defining: true },
  ),
  placement: nodeSpec(
    'placement',
    'div',
    { ...block, component: '', section: null, mode: 'live', revision: null, withTitle: false },
    { group: 'block flow', atom: true, draggable: true },
  ),

  text: { group: 'inline' },
  line_break: {
    group: 'inline',
    inline: true,
    selectable: false,
    parseDOM: [{ tag: 'br' }],
    toDOM: (): DOMOutputSpec => ['br'],
  },
  image: nodeSpec(
    'image',
    'span',
    { component: '', alt: null, when: null },
    { group: 'inline', inline: true, atom: true },
  ),
  variable: nodeSpec('variable', 'span', { key: '' }, { group: 'inline', inline: true, atom: true }),
  inline_placement: nodeSpec(
    'inline_placement',
    'span',
    { id: null, component: '', mode: 'live', revision: null },
    { group: 'inline', inline: true, atom: true },
  ),
  cross_reference: nodeSpec(
    'cross_reference',
    'span',
    { component: null, target: null, form: 'title', text: null },
    { group: 'inline', inline: true, atom: true },
  ),
  external_link: nodeSpec('external_link', 'span', { component: '' }, { group: 'inline', inline: true, atom: true }),
  index_marker: nodeSpec(
    'index_marker',
    'span',
    { primary: '', secondary: null, see: null, seeAlso: null },
    { group: 'inline', inline: true, atom: true },
  ),
  footnote_reference: nodeSpec(
    'footnote_reference',
    'span',
    { target: '' },
    { group: 'inline', inline: true, atom: true },
  ),
};

function spans(dom: DomElement): Record<string, unknown> {
  return {
    colspan: Math.max(1, Number(dom.getAttribute('colspan')) || 1),
    rowspan: Math.max(1, Number(dom.getAttribute('rowspan')) || 1),
  };
}

function markSpec(
  name: string,
  tag: string,
  defaults: Defaults,
  spec: MarkSpec = {},
  paste: NonNullable<MarkSpec['parseDOM']> = [],
): MarkSpec {
  return {
    ...spec,
    attrs: Object.fromEntries(Object.entries(defaults).map(([key, value]) => [key, { default: value }])),
    parseDOM: [
      { tag: `${tag}[data-mark=${name}]`, getAttrs: readAttrs(Object.keys(defaults)) as never, priority: 60 },
      ...paste,
    ],
    toDOM: (mark): DOMOutputSpec => [tag, { 'data-mark': name, ...domAttrs(mark.attrs) }, 0],
  };
}

const marks: Record<string, MarkSpec> = {
  // Conditions nest: an inline range may stand in another one, so the mark does not exclude itself.
  condition: markSpec('condition', 'span', { when: '' }, { excludes: '', inclusive: true }),
  link: markSpec('link', 'a', { href: '' }, { inclusive: false }, [
    { tag: 'a[href]', getAttrs: ((dom: DomElement) => ({ href: dom.getAttribute('href') ?? '' })) as never },
  ]),
  strong: markSpec('strong', 'strong', {}, {}, [{ tag: 'strong' }, { tag: 'b' }]),
  emphasis: markSpec('emphasis', 'em', {}, {}, [{ tag: 'em' }, { tag: 'i' }]),
  quote: markSpec('quote', 'q', {}, {}, [{ tag: 'q' }]),
  defined_term: markSpec('defined_term', 'dfn', {}, {}, [{ tag: 'dfn' }]),
  cited_title: markSpec('cited_title', 'cite', {}, {}, [{ tag: 'cite' }]),
  interface_label: markSpec('interface_label', 'b', {}),
  key: markSpec('key', 'kbd', {}, {}, [{ tag: 'kbd' }]),
  // The kind says what it is: code, command, file, input, output, parameter, replaceable, prompt, name.
  code: markSpec('code', 'code', { kind: 'code' }, {}, [{ tag: 'code' }]),
  superscript: markSpec('superscript', 'sup', {}, { excludes: 'subscript superscript' }, [{ tag: 'sup' }]),
  subscript: markSpec('subscript', 'sub', {}, { excludes: 'subscript superscript' }, [{ tag: 'sub' }]),
};

/** The schema of all bodies. */
export const contentSchema = new Schema({ nodes, marks, topNode: 'topic' });

/** The attribute defaults of a type of node or mark; empty for an unknown type. */
export function attributeDefaults(type: string): Readonly<Record<string, unknown>> {
  return defaultsByType.get(type) ?? noDefaults;
}

const noDefaults = {};
const defaultsByType = new Map<string, Readonly<Record<string, unknown>>>(
  [...Object.entries(nodes), ...Object.entries(marks).map(([name, spec]) => [`mark:${name}`, spec] as const)].map(
    ([name, spec]) => [
      name,
      Object.fromEntries(
        Object.entries((spec as NodeSpec | MarkSpec).attrs ?? {}).map(([attr, { default: value }]) => [attr, value]),
      ),
    ],
  ),
);
