import { makeNode, makeText, type ContentMark, type ContentNode } from '@allomorph/core';

/** Short builders of content for the demo library. */

type Inline = ContentNode | string;

const inline = (parts: readonly Inline[]): ContentNode[] =>
  parts.map((part) => (typeof part === 'string' ? makeText(part) : part));

export const phrase = (...parts: Inline[]): ContentNode => makeNode('phrase', null, inline(parts));
export const p = (...parts: Inline[]): ContentNode => makeNode('paragraph', null, inline(parts));
export const only = (when: string, node: ContentNode): ContentNode => ({ ...node, attrs: { ...node.attrs, when } });
export const when = (condition: string, text: string): ContentNode =>
  marked(text, { type: 'condition', attrs: { when: condition } });
export const strong = (text: string): ContentNode => marked(text, { type: 'strong' });
export const label = (text: string): ContentNode => marked(text, { type: 'interface_label' });
export const variable = (key: string): ContentNode => makeNode('variable', { key });
export const place = (component: string): ContentNode => makeNode('placement', { component });
export const placeInline = (component: string): ContentNode => makeNode('inline_placement', { component });
export const see = (component: string, target: string | null = null): ContentNode =>
  makeNode('cross_reference', { component, target, form: 'number-title' });
export const section = (id: string, title: string, ...flow: ContentNode[]): ContentNode =>
  makeNode('section', { id }, [makeNode('title', null, [makeText(title)]), ...flow]);
export const bullets = (...items: (ContentNode | string)[]): ContentNode =>
  makeNode(
    'bullet_list',
    null,
    items.map((item) => listItem('list_item', item)),
  );
export const steps = (...items: (ContentNode | string)[]): ContentNode =>
  makeNode(
    'steps',
    null,
    items.map((item) => listItem('step', item)),
  );
export const admonition = (kind: string, ...blocks: ContentNode[]): ContentNode =>
  makeNode('admonition', { kind }, blocks);
export const topic = (title: string, ...flow: ContentNode[]): ContentNode =>
  makeNode('topic', null, [makeNode('title', null, [makeText(title)]), ...flow]);
export const fragment = (...flow: ContentNode[]): ContentNode => makeNode('fragment', null, flow);

/** A table with one header row. */
export function table(caption: string, head: readonly string[], ...rows: readonly (readonly Inline[])[]): ContentNode {
  const cell = (type: string, part: Inline): ContentNode => makeNode(type, null, [p(part)]);
  return makeNode('table', null, [
    makeNode('caption', null, [makeText(caption)]),
    makeNode('table_grid', null, [
      makeNode(
        'table_row',
        { header: true },
        head.map((text) => cell('table_header', text)),
      ),
      ...rows.map((row) =>
        makeNode(
          'table_row',
          null,
          row.map((part) => cell('table_cell', part)),
        ),
      ),
    ]),
  ]);
}

function listItem(type: string, item: ContentNode | string): ContentNode {
  if (typeof item === 'string') return makeNode(type, null, [p(item)]);
  return item.type === type
    ? item
    : makeNode(type, item.attrs?.['when'] ? { when: item.attrs['when'] } : null, [withoutWhen(item)]);
}

function withoutWhen(node: ContentNode): ContentNode {
  return makeNode(node.type, { ...node.attrs, when: null }, node.content);
}

function marked(text: string, mark: ContentMark): ContentNode {
  return makeText(text, [mark]);
}
