import { makeNode, makeText, type ContentMark, type ContentNode, type VariableBody } from '@allomorph/core';
import type { DemoComponent } from './demo-component.js';

/** Short builders of content for the demo library. */

export type Inline = ContentNode | string;
type Block = ContentNode | string;

const inline = (parts: readonly Inline[]): ContentNode[] =>
  parts.map((part) => (typeof part === 'string' ? makeText(part) : part));
const block = (part: Block): ContentNode => (typeof part === 'string' ? p(part) : part);
const marked = (text: string, mark: ContentMark): ContentNode => makeText(text, [mark]);

export const phrase = (...parts: Inline[]): ContentNode => makeNode('phrase', null, inline(parts));
export const p = (...parts: Inline[]): ContentNode => makeNode('paragraph', null, inline(parts));
/** A block that applies only under a condition. */
export const only = (when: string, node: ContentNode): ContentNode => ({ ...node, attrs: { ...node.attrs, when } });
/** Words that apply only under a condition. */
export const when = (condition: string, text: string): ContentNode =>
  marked(text, { type: 'condition', attrs: { when: condition } });
/** A block that bears a stamp. */
export const bears = (stamp: string, node: ContentNode): ContentNode => ({ ...node, attrs: { ...node.attrs, stamp } });
/** Something in a line that bears a stamp. */
export const bearing = (stamp: string, node: ContentNode): ContentNode => ({
  ...node,
  marks: [{ type: 'stamp', attrs: { stamp } }],
});
export const strong = (text: string): ContentNode => marked(text, { type: 'strong' });
export const emphasis = (text: string): ContentNode => marked(text, { type: 'emphasis' });
export const label = (text: string): ContentNode => marked(text, { type: 'interface_label' });
export const key = (text: string): ContentNode => marked(text, { type: 'key' });
export const term = (text: string): ContentNode => marked(text, { type: 'defined_term' });
export const code = (text: string, kind = 'command'): ContentNode => marked(text, { type: 'code', attrs: { kind } });
export const variable = (name: string): ContentNode => makeNode('variable', { key: name });
export const place = (component: string, more: Readonly<Record<string, unknown>> = {}): ContentNode =>
  makeNode('placement', { component, ...more });
export const held = (component: string, revision: number): ContentNode =>
  makeNode('placement', { component, mode: 'held', revision });
export const placeInline = (component: string): ContentNode => makeNode('inline_placement', { component });
export const link = (component: string): ContentNode => makeNode('external_link', { component });
export const see = (component: string | null, target: string | null = null, form = 'number-title'): ContentNode =>
  makeNode('cross_reference', { component, target, form });
export const mark = (primary: string, more: Readonly<Record<string, string>> = {}): ContentNode =>
  makeNode('index_marker', { primary, ...more });
/** In TeX: in a line, or on a line of its own. */
export const formula = (source: string): ContentNode => makeNode('formula', { source });
export const displayed = (id: string, source: string): ContentNode => makeNode('display_formula', { id, source });
export const slot = (collection: string, matching: string | null): ContentNode =>
  makeNode('slot', { collection, matching });
export const section = (id: string, title: string, ...flow: ContentNode[]): ContentNode =>
  makeNode('section', { id }, [makeNode('title', null, [makeText(title)]), ...flow]);
export const bullets = (...items: Block[]): ContentNode =>
  makeNode(
    'bullet_list',
    null,
    items.map((item) => listItem('list_item', item)),
  );
export const steps = (...items: Block[]): ContentNode =>
  makeNode(
    'steps',
    null,
    items.map((item) => listItem('step', item)),
  );
export const admonition = (kind: string, ...blocks: Block[]): ContentNode =>
  makeNode('admonition', { kind }, blocks.map(block));
export const example = (title: string, ...blocks: Block[]): ContentNode =>
  makeNode('example', null, [makeNode('title', null, [makeText(title)]), ...blocks.map(block)]);
export const listing = (text: string): ContentNode => makeNode('code_block', null, [makeText(text)]);
export const figure = (id: string, image: string, caption: string): ContentNode =>
  makeNode('figure', { id }, [
    makeNode('picture', { component: image }),
    makeNode('caption', null, [makeText(caption)]),
  ]);
/** The first branch whose condition holds; null: otherwise. */
export const choice = (...branches: readonly (readonly [string | null, ...ContentNode[]])[]): ContentNode =>
  makeNode(
    'choice',
    null,
    branches.map(([condition, ...blocks]) => makeNode('branch', { when: condition }, blocks)),
  );
export const definitions = (...pairs: readonly (readonly [string, Block])[]): ContentNode =>
  makeNode(
    'definition_list',
    null,
    pairs.map(([name, meaning]) =>
      makeNode('definition', null, [
        makeNode('term', null, [marked(name, { type: 'defined_term' })]),
        makeNode('description', null, [block(meaning)]),
      ]),
    ),
  );
export const topic = (title: string | readonly Inline[], ...flow: ContentNode[]): ContentNode =>
  makeNode('topic', null, [makeNode('title', null, inline(typeof title === 'string' ? [title] : title)), ...flow]);
/** Own text that remembers where it was copied from. */
export const copied = (component: string, revision: number, ...blocks: ContentNode[]): ContentNode =>
  makeNode('copied', { component, revision }, blocks);
export const fragment = (...flow: ContentNode[]): ContentNode => makeNode('fragment', null, flow);

/** One row of a table; with a condition it is a row that applies only there. */
export const row = (condition: string | null, ...cells: readonly Inline[]): ContentNode =>
  makeNode(
    'table_row',
    { when: condition },
    cells.map((part) => makeNode('table_cell', null, [p(part)])),
  );

/** A table with one header row. */
export function table(
  id: string,
  caption: string,
  head: readonly (string | readonly [text: string, when: string])[],
  ...rows: readonly ContentNode[]
): ContentNode {
  const columns = head.map((each) => (typeof each === 'string' ? {} : { when: each[1] }));
  const limited = columns.some((column) => 'when' in column);
  return makeNode('table', { id }, [
    makeNode('caption', null, [makeText(caption)]),
    makeNode('table_grid', limited ? { columns } : null, [
      makeNode(
        'table_row',
        { header: true },
        head.map((each) => makeNode('table_header', null, [p(typeof each === 'string' ? each : each[0])])),
      ),
      ...rows,
    ]),
  ]);
}

/** A topic whose title in the library is the one on its page. */
export const titled = (key: string, title: string, ...flow: ContentNode[]): DemoComponent => ({
  key,
  kind: 'topic',
  title,
  body: topic(title, ...flow),
});

export const snippetOf = (key: string, title: string, body: ContentNode): DemoComponent => ({
  key,
  kind: 'snippet',
  title,
  body,
});

/** One of a variable's values: where it applies, and in which language. */
export type Case = readonly [condition: string | null, value: ContentNode | string, language?: string];

/** @param otherwise the value where no case applies */
export function valueOf(
  key: string,
  title: string,
  otherwise: ContentNode | string | null,
  ...cases: readonly Case[]
): DemoComponent {
  const asPhrase = (each: ContentNode | string): ContentNode =>
    typeof each === 'string' || each.type !== 'phrase' ? phrase(each) : each;
  const body: VariableBody = {
    type: 'variable',
    default: otherwise === null ? null : asPhrase(otherwise),
    rules: cases.map(([condition, each, language]) => ({
      when: condition,
      language: language ?? null,
      value: asPhrase(each),
    })),
  };
  return { key, kind: 'variable', title, body };
}

function listItem(type: 'list_item' | 'step', item: Block): ContentNode {
  const node = block(item);
  const { when: condition, stamp, ...rest } = node.attrs ?? {};
  return makeNode(type, { when: condition ?? null, stamp: stamp ?? null }, [makeNode(node.type, rest, node.content)]);
}
