import { kindSpec, type AssembledKind, type NodeKind } from '../model/kinds.js';
import { contentBody, type Component } from '../model/component.js';
import type { OutlineEntry } from '../model/publication.js';
import { childrenOf, textAttr, type AnyNode, type ContentNode, type InTree } from '../model/node.js';
import { conditionOn } from '../variation/stamps.js';
import type { Algebra } from './algebra.js';

/** A node and where it is in. */
export interface Part<S, Node = ContentNode> {
  readonly node: Node;
  readonly set: S;
}

/** Where a node is in by the conditions on itself: its own, and those of the marks on it. */
export function ownSet<S>(algebra: Algebra<S>, node: AnyNode, within: S): S {
  let set = within;
  for (const each of [node, ...(node.marks ?? [])]) {
    const when = conditionOn(each);
    if (when !== null) set = algebra.and(set, algebra.holds(when));
  }
  return set;
}

/** The branches of a choice: each is in where its condition holds and no branch before it was taken. */
export function branchesOf<S, Node extends InTree<Node>>(
  algebra: Algebra<S>,
  choice: Node,
  within: S,
): readonly Part<S, Node>[] {
  const parts: Part<S, Node>[] = [];
  let left = within;
  for (const node of childrenOf(choice)) {
    const holds = left === algebra.none ? left : algebra.holds(textAttr(node, 'when'));
    parts.push({ node, set: algebra.and(left, holds) });
    left = algebra.minus(left, holds);
  }
  return parts;
}

/**
 * Where a node still stands when its children are in where they are: containers go with the last of what
 * they hold, a figure with its picture, a definition with its terms or its description.
 * @param parts its children, and where they remain
 * @param within where it is by its conditions
 */
export function remainsOf<S>(
  algebra: Algebra<S>,
  kind: NodeKind | AssembledKind,
  parts: readonly Part<S, { readonly type: NodeKind | AssembledKind }>[],
  within: S,
): S {
  const { remains } = kindSpec(kind);
  if (remains === undefined) return within;
  const anyOf = (wanted: (kind: NodeKind | AssembledKind) => boolean): S => {
    let sum = algebra.none;
    for (const { node, set } of parts) if (wanted(node.type)) sum = algebra.or(sum, set);
    return sum;
  };
  if (remains === 'any')
    return algebra.and(
      within,
      anyOf((each) => !kindSpec(each).heading),
    );
  return remains.reduce(
    (sum, wanted) =>
      algebra.and(
        sum,
        anyOf((each) => wanted.includes(each)),
      ),
    within,
  );
}

/** The condition that a component bears wherever it stands; null where there is none. */
export function ownCondition(component: Component | undefined): string | null {
  const body = component && contentBody(component);
  return body ? conditionOn(body) : null;
}

/**
 * The condition that an outline entry has by its topic, besides its own: it holds in every outline, and what stands below the entry
 * goes with it. Where a publication stands, its topic is not shown.
 * @param own what a topic says of itself, by its key
 */
export function conditionOfTopic(
  { topic, publication }: OutlineEntry,
  own: (topic: string) => string | null,
): string | null {
  return topic === undefined || publication !== undefined ? null : own(topic);
}

/** What of a body stands for a placement, and under which conditions of the body's own. */
export interface PlacedPart<Node> {
  readonly nodes: readonly Node[];
  /** The body's own condition, and those of a placed section and of all that it stands in. */
  readonly conditions: readonly string[];
  /** Whether the nodes stand in a section with the title of the body. */
  readonly titled: boolean;
}

/**
 * What stands for a placement of a body: all its blocks, without a topic's title unless it is asked for;
 * one section, without its title unless it is asked for; a phrase as one paragraph.
 * @param paragraph makes a paragraph of a line
 * @returns null where there is no such section
 */
export function placedPart<Node extends InTree<Node>>(
  body: Node,
  section: string | null,
  withTitle: boolean,
  paragraph: (line: readonly Node[]) => Node,
): PlacedPart<Node> | null {
  const own = conditionOn(body);
  const conditions = own === null ? [] : [own];
  if (body.type === 'phrase') return { nodes: [paragraph(childrenOf(body))], conditions, titled: false };
  if (section !== null) {
    const found = findSection(body, section, []);
    if (!found) return null;
    const { node } = found;
    return { nodes: withTitle ? [node] : childrenOf(node).slice(1), conditions: found.conditions, titled: false };
  }
  if (body.type !== 'topic') return { nodes: childrenOf(body), conditions, titled: false };
  return { nodes: withTitle ? childrenOf(body) : childrenOf(body).slice(1), conditions, titled: withTitle };
}

function findSection<Node extends InTree<Node>>(
  node: Node,
  id: string,
  around: readonly string[],
): { readonly node: Node; readonly conditions: readonly string[] } | null {
  if (kindSpec(node.type).line) return null;
  const when = conditionOn(node);
  const conditions = when ? [...around, when] : around;
  if (node.type === 'section' && textAttr(node, 'id') === id) return { node, conditions };
  for (const child of childrenOf(node)) {
    const found = findSection(child, id, conditions);
    if (found) return found;
  }
  return null;
}
