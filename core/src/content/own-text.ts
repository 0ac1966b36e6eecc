import type { Component } from '../model/component.js';
import { contentBody } from '../model/component.js';
import { ownCondition, placedPart } from '../select/select.js';
import { bothConditions } from '../variation/condition-syntax.js';
import { bothLimits, limitsOf } from '../variation/stamps.js';
import { assignIds, idsAfter } from './body.js';
import { kinds } from '../model/kinds.js';
import { addMark } from '../model/marks.js';
import {
  childrenOf,
  makeNode,
  paragraphOf,
  textAttr,
  walk,
  withContent,
  type ContentMark,
  type ContentNode,
} from '../model/node.js';

/**
 * The blocks that stand for a placement once it is turned into own text. They remember their source
 * (`copied`) where the schema lets them: sections do not stand inside a copy. The placement's condition, that of the source
 * itself and those around a placed section go on with them; ids are left out, as the source keeps its own.
 * @param source the placed component at the revision that was shown; a topic or snippet
 */
export function ownTextOf(placement: ContentNode, source: Component): readonly ContentNode[] {
  const body = contentBody(source);
  if (!body) return [];
  const part = placedPart(body, textAttr(placement, 'section'), placement.attrs?.['withTitle'] === true, paragraphOf);
  if (!part) return [];
  const blocks = (part.titled ? [makeNode('section', null, part.nodes)] : part.nodes).map(withoutIds);
  if (blocks.length === 0) return [];
  const when = part.conditions.reduce(bothConditions, textAttr(placement, 'when'));
  const limited = { ...placement, attrs: { ...placement.attrs, when } };
  if (blocks.some((block) => block.type === 'section')) return blocks.map((block) => alsoOn(block, limited));
  const stamped = blocks.map((block) => alsoOn(block, { ...limited, attrs: { ...limited.attrs, when: null } }));
  return [makeNode('copied', { when, component: source.key, revision: source.revision }, stamped)];
}

/** The inline content that stands for an inline placement once it is turned into own text. */
export function ownWordsOf(placement: ContentNode, source: Component): readonly ContentNode[] {
  const body = contentBody(source);
  if (body?.type !== 'phrase') return [];
  const own = ownCondition(source);
  const limit: readonly ContentMark[] = own === null ? [] : [{ type: 'condition', attrs: { when: own } }];
  const outer = [...(placement.marks ?? []), ...limit];
  return childrenOf(body).map((node) => {
    const marks = outer.reduce((sum, mark) => addMark(sum, mark), node.marks ?? []);
    return marks.length > 0 ? { ...node, marks } : node;
  });
}

/** A body with one block placement turned into own text; the same body where there is no such placement. */
export function turnIntoOwnText(body: ContentNode, placement: string, source: Component): ContentNode {
  const turn = (node: ContentNode): ContentNode => {
    if (!node.content) return node;
    const content = node.content.flatMap((child) =>
      child.type === 'placement' && textAttr(child, 'id') === placement ? ownTextOf(child, source) : [turn(child)],
    );
    return content.some((child, at) => child !== node.content?.[at]) ? withContent(node, content) : node;
  };
  const turned = turn(body);
  return turned === body ? body : assignIds(turned, idsAfter(turned));
}

/** Blocks made into a snippet, and the body in which a placement stands in their place. */
export interface MadeSnippet {
  readonly body: ContentNode;
  /** A `fragment`. */
  readonly snippet: ContentNode;
  /** Ids that are now found in the snippet: references to them from elsewhere must follow. */
  readonly moved: readonly string[];
}

/**
 * Turns neighbouring blocks into a snippet plus a placement of it. Cross-references inside the body that
 * led to the blocks lead into the snippet afterwards, those inside the snippet that led to the rest of
 * the body lead back to it.
 * @param first id of the first block; @param last id of the last one, a sibling of the first
 * @param keys the body's own key and that of the snippet
 * @returns null where the ids do not name siblings in that order
 */
export function turnIntoSnippet(
  body: ContentNode,
  first: string,
  last: string,
  keys: { readonly own: string; readonly snippet: string },
): MadeSnippet | null {
  let taken: readonly ContentNode[] = [];
  const take = (node: ContentNode): ContentNode => {
    if (!node.content || taken.length > 0) return node;
    const from = node.content.findIndex((child) => textAttr(child, 'id') === first);
    const to = node.content.findIndex((child) => textAttr(child, 'id') === last);
    if (from >= 0 && to >= from) {
      taken = node.content.slice(from, to + 1);
      const placement = makeNode('placement', { component: keys.snippet });
      return withContent(node, [...node.content.slice(0, from), placement, ...node.content.slice(to + 1)]);
    }
    return withContent(node, node.content.map(take));
  };
  const rest = take(body);
  if (taken.length === 0) return null;
  const moved: string[] = [];
  walk(makeNode('fragment', null, taken), (node) => {
    const id = textAttr(node, 'id');
    if (id !== null) moved.push(id);
  });
  const inside = new Set(moved);
  const intoSnippet = (target: string): string | null => (inside.has(target) ? keys.snippet : null);
  const backToBody = (target: string): string | null => (inside.has(target) ? null : keys.own);
  return {
    body: assignIds(redirect(rest, intoSnippet), idsAfter(body)),
    snippet: redirect(makeNode('fragment', null, taken), backToBody),
    moved,
  };
}

/** Gives references without a component, which mean their own body, the component that now holds their target. */
function redirect(node: ContentNode, holder: (target: string) => string | null): ContentNode {
  if (node.type === 'cross_reference' && textAttr(node, 'component') === null) {
    const component = holder(textAttr(node, 'target') ?? '');
    return component === null ? node : { ...node, attrs: { ...node.attrs, component } };
  }
  return node.content
    ? withContent(
        node,
        node.content.map((child) => redirect(child, holder)),
      )
    : node;
}

/** A block that bears what a placement bore, too. */
function alsoOn(block: ContentNode, placement: ContentNode): ContentNode {
  const other = limitsOf(placement);
  if (other.when === null && other.stamp === null) return block;
  const { when, stamp } = bothLimits(limitsOf(block), other, 'stamp' in kinds[block.type].attributes);
  return { ...block, attrs: { ...block.attrs, when, ...(stamp === null ? {} : { stamp }) } };
}

function withoutIds(node: ContentNode): ContentNode {
  const content = node.content?.map(withoutIds);
  if (node.attrs?.['id'] === undefined) return content ? { ...node, content } : node;
  return { ...makeNode(node.type, { ...node.attrs, id: null }, content), ...(node.marks ? { marks: node.marks } : {}) };
}
