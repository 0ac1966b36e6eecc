import { makeNode, makeText, type AnyNode, type ContentMark, type ContentNode } from '../../core/src/model/node.js';
import {
  componentFrom,
  libraryOf,
  type Component,
  type ComponentBody,
  type ComponentKind,
} from '../../core/src/model/component.js';
import { plainDesign } from '../../core/src/design/design.js';
import type { OutlineEntry, Publication, Recipe } from '../../core/src/model/publication.js';
import { newRecipe, type VariantRecipe } from '../../core/src/contract/publications.js';
import type { Source } from '../../core/src/model/source.js';
import type { Stamp } from '../../core/src/model/stamp.js';
import type { Axis, AxisValue } from '../../core/src/model/axis.js';

/** Short builders for tests of the engine. */

type Inline = ContentNode | string;
const inline = (parts: readonly Inline[]): ContentNode[] =>
  parts.map((part) => (typeof part === 'string' ? makeText(part) : part));

export const p = (...parts: Inline[]): ContentNode => makeNode('paragraph', null, inline(parts));
export const phrase = (...parts: Inline[]): ContentNode => makeNode('phrase', null, inline(parts));
export const title = (...parts: Inline[]): ContentNode => makeNode('title', null, inline(parts));
export const only = (when: string, node: ContentNode): ContentNode => ({ ...node, attrs: { ...node.attrs, when } });
export const words = (when: string, text: string, ...more: ContentMark[]): ContentNode =>
  makeText(text, [{ type: 'condition', attrs: { when } }, ...more]);
export const variable = (key: string): ContentNode => makeNode('variable', { key });
export const place = (component: string, more: Readonly<Record<string, unknown>> = {}): ContentNode =>
  makeNode('placement', { component, ...more });
export const see = (component: string | null, target: string | null, form = 'title'): ContentNode =>
  makeNode('cross_reference', { component, target, form });
export const section = (id: string, heading: string, ...flow: ContentNode[]): ContentNode =>
  makeNode('section', { id }, [title(heading), ...flow]);
export const list = (...items: ContentNode[]): ContentNode =>
  makeNode(
    'bullet_list',
    null,
    items.map((item) => (item.type === 'list_item' ? item : makeNode('list_item', null, [item]))),
  );
export const topicBody = (heading: string, ...flow: ContentNode[]): ContentNode =>
  makeNode('topic', null, [title(heading), ...flow]);
export const fragment = (...flow: ContentNode[]): ContentNode => makeNode('fragment', null, flow);

export const component = (kind: ComponentKind, key: string, body: ComponentBody, revision = 1): Component =>
  componentFrom({ key, kind, title: key, revision, body });
export const topic = (key: string, ...flow: ContentNode[]): Component =>
  component('topic', key, topicBody(`Title of ${key}`, ...flow));
export const snippet = (key: string, ...flow: ContentNode[]): Component => component('snippet', key, fragment(...flow));
export const constant = (key: string, text: string): Component =>
  component('variable', key, { type: 'variable', default: phrase(text), rules: [] });

/** A value of an axis, with values under it. */
export const axisValue = (key: string, ...values: readonly AxisValue[]): AxisValue => ({
  key,
  title: key,
  code: 'X',
  colour: 0,
  pattern: 0,
  ...(values.length > 0 ? { values } : {}),
});

/** Two axes: `os` (linux, mac) and `level` (basic, expert). */
export const axes: readonly Axis[] = [
  ['os', 'linux', 'mac'],
  ['level', 'basic', 'expert'],
].map(([key = '', ...values]) => ({
  key,
  title: key,
  values: values.map((each) => ({ key: each, title: each, code: each.slice(0, 2), colour: 0, pattern: 0 })),
}));

export const sourceOf = (
  components: readonly Component[],
  held: readonly Component[] = [],
  stamps: readonly Stamp[] = [],
): Source => ({
  library: libraryOf(components, held),
  axes,
  stamps,
  publications: new Map(),
});

export const entry = (id: string, topicKey: string, more: Partial<OutlineEntry> = {}): OutlineEntry => ({
  id,
  topic: topicKey,
  ...more,
});

export const publicationOf = (entries: readonly OutlineEntry[], more: Partial<Publication> = {}): Publication => ({
  key: 'book',
  title: phrase('The Book'),
  values: {},
  entries,
  ...more,
});

/** A recipe in which `os` is linux and `level` is basic, unless it is said otherwise. */
export const recipeOf = (publication: Publication, more: Partial<Recipe> = {}): Recipe => ({
  publication,
  variantTitle: 'Linux, basic',
  profile: { axes: { os: { default: 'out', in: ['linux'] }, level: { default: 'out', in: ['basic'] } } },
  values: {},
  language: 'en',
  design: plainDesign,
  buildDate: '2026-11-24',
  leaveOutEmpty: false,
  ...more,
});

/** The recipe of a variant as it is stored. */
export const variantRecipe: VariantRecipe = { ...newRecipe, title: 'V', profile: 'p' };

/** The text of nodes, blocks separated by “|”. */
export function textIn(nodes: readonly AnyNode[]): string {
  const text = (node: AnyNode): string => {
    if (node.text !== undefined) return node.text;
    if (node.type === 'missing') return '[missing]';
    const inner = (node.content ?? []).map(text);
    return inner.join(['paragraph', 'title', 'caption', 'term', 'code_block', 'phrase'].includes(node.type) ? '' : '|');
  };
  return nodes.map(text).join('|');
}
