import { columnsOf } from './body.js';
import type { ContentMark, ContentNode } from './node.js';

/** Something inside may differ between variants: a condition, a placement, a variable, a choice, ... */
export const varies = 1;
/** Something inside counts, can be referred to by its number, or refers: a section, a figure, a reference, ... */
export const notable = 2;
/** Something inside reads by what it leads to or by its page: a reference, a footnote, a chapter's title, ... */
export const linked = 8;
/** What stands inside depends on more than conditions, variables and placed snippets: on pictures, slots, ... */
export const open = 4;

/**
 * A node of a body made ready for the engine: what it asks of a node again and again stands in fields, in
 * one layout for all nodes, and what was made of it can be remembered with it. It is content like any
 * other; its members are those of the content schema and these.
 */
export interface PreparedNode extends ContentNode {
  readonly content: readonly PreparedNode[] | undefined;
  readonly id: string | null;
  readonly when: string | null;
  /** What it holds, itself included: the sum of `varies`, `notable`, `open` and `linked`. */
  readonly traits: number;
  /** How many sections, figures, tables, examples and steps it holds, itself included. */
  readonly labels: number;
  /** Unlike that of any other node. */
  readonly serial: number;
  /** Memory of assembly. */
  forms: unknown;
  /** Memory of output. */
  html: unknown;
}

/** A body made ready; every body once, as bodies never change. */
export function prepareBody(body: ContentNode): PreparedNode {
  let prepared = bodies.get(body);
  if (!prepared) bodies.set(body, (prepared = prepareNode(body)));
  return prepared;
}

const bodies = new WeakMap<ContentNode, PreparedNode>();
let serials = 0;

/** A node and all in it made ready. */
export function prepareNode(node: ContentNode): PreparedNode {
  return layOut(node, node.content?.map(prepareNode), ownTraits(node));
}

/** A prepared node as it reads with other content; the node itself where that is the same. */
export function derive(node: PreparedNode, content: readonly PreparedNode[]): PreparedNode {
  return content === node.content ? node : layOut(node, content, ownTraits(node));
}

/** A prepared inline node with other marks. */
export function deriveMarked(node: PreparedNode, marks: readonly ContentMark[]): PreparedNode {
  return layOut({ ...node, marks }, node.content, node.traits);
}

function layOut(
  { type, attrs, text, marks }: ContentNode,
  content: readonly PreparedNode[] | undefined,
  own: number,
): PreparedNode {
  let traits = own;
  let labels = labelled.has(type) ? 1 : 0;
  if (content) {
    for (const child of content) {
      traits |= child.traits;
      labels += child.labels;
    }
  }
  const id = attrs?.['id'];
  const when = attrs?.['when'];
  serials += 1;
  return {
    type,
    attrs,
    content,
    text,
    marks,
    id: typeof id === 'string' ? id : null,
    when: typeof when === 'string' && when !== '' ? when : null,
    traits,
    labels,
    serial: serials,
    forms: undefined,
    html: undefined,
  } as PreparedNode;
}

const varying = new Set(['placement', 'choice', 'copied']);
const opening = new Set(['inline_placement', 'slot', 'external_link', 'picture', 'image']);
const labelled = new Set(['section', 'figure', 'table', 'example', 'step']);
const linking = new Set(['cross_reference', 'footnote', 'footnote_reference', 'index_marker', 'slot']);

function ownTraits(node: ContentNode): number {
  let traits = 0;
  const { type, attrs, marks } = node;
  if (marks) {
    for (const mark of marks) {
      if (mark.type === 'condition') traits |= varies;
      else if (mark.type === 'link' && String(mark.attrs?.['href']).includes('{')) traits |= varies | open;
      else if (mark.type === 'defined_term') traits |= notable;
    }
  }
  if (node.text !== undefined) return traits;
  if (attrs?.['when']) traits |= varies;
  if (varying.has(type)) traits |= varies;
  if (opening.has(type)) traits |= varies | open;
  if (labelled.has(type)) traits |= notable;
  if (linking.has(type)) traits |= notable | linked;
  if (type === 'variable') {
    traits |= varies;
    // The built-in ones depend on the place; a chapter's title is filled in by the output.
    if (String(attrs?.['key']).startsWith('@')) traits |= open | notable | linked;
  }
  // Left with its title only, a section is reported.
  if (type === 'section' && (node.content?.length ?? 0) < 2) traits |= varies;
  if (type === 'table_grid' && columnsOf(node).some((column) => column.when)) traits |= varies;
  return traits;
}

/** The traits of a node, where it is a prepared one. */
export function knownTraits(node: ContentNode): number | undefined {
  return (node as Partial<PreparedNode>).traits;
}

/** A node of the engine's own making. */
export function makePrepared(
  type: string,
  attrs: Readonly<Record<string, unknown>> | undefined,
  content: readonly PreparedNode[] | undefined,
): PreparedNode {
  const node = { type, attrs };
  return layOut(node, content, ownTraits(node));
}

/** The children of a prepared node; an empty list for leaves. */
export function partsOf(node: PreparedNode): readonly PreparedNode[] {
  return node.content ?? nothing;
}

const nothing: readonly PreparedNode[] = [];
