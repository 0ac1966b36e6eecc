import { kindSpec, type AssembledKind, type MarkKind, type NodeKind } from './kinds.js';

/** A tree of content as plain JSON. Attributes that hold their default may be missing. */
export interface TreeNode<Kind extends string> {
  readonly type: Kind;
  readonly attrs?: Readonly<Record<string, unknown>> | undefined;
  readonly content?: readonly TreeNode<Kind>[] | undefined;
  readonly text?: string | undefined;
  readonly marks?: readonly ContentMark[] | undefined;
}

/** Bodies in the shape that the content schema reads and writes. */
export type ContentNode = TreeNode<NodeKind>;

/**
 * Assembled content: conditions applied, variables and placements replaced by what they stand for. Nodes
 * are those of bodies without what stands for something else (but for the variables that depend on the
 * place), plus
 *
 * - `placed`: the content of a block placement; `attrs.placement` is the placement's id, `attrs.component` what was
 *   placed. Ids inside are unique together with the placements around them;
 * - `slot`: the candidates of a slot, each a `placed`; `attrs.stated` is the component of the one that stands
 *   where only one can;
 * - `missing`: what cannot be shown; readers see a neutral marker;
 * - `picture` and `image` with the file that was chosen.
 */
export type AssembledNode = TreeNode<AssembledKind>;

/** Source or assembled content, for what is true of both. */
export type AnyNode = TreeNode<NodeKind | AssembledKind>;

export interface ContentMark {
  readonly type: MarkKind;
  readonly attrs?: Readonly<Record<string, unknown>> | undefined;
}

const none: readonly never[] = [];

/** A node of any tree, for what gives back nodes of the tree that it was given. */
export interface InTree<Node> {
  readonly type: NodeKind | AssembledKind;
  readonly attrs?: Readonly<Record<string, unknown>> | undefined;
  readonly content?: readonly Node[] | undefined;
}

/** The children of a node; an empty list for leaves. */
export function childrenOf<Node extends { readonly content?: readonly Node[] | undefined }>(
  node: Node,
): readonly Node[] {
  return node.content ?? none;
}

interface WithAttributes {
  readonly attrs?: Readonly<Record<string, unknown>> | undefined;
}

/** A string attribute of a node, or null where it is missing, null or not a string. */
export function textAttr(node: WithAttributes, name: string): string | null {
  const value = node.attrs?.[name];
  return typeof value === 'string' ? value : null;
}

/** Whether a node or a mark is shown although the variant leaves it out: only where origins are told, see `revealSource`. */
export function isLeftOut(of: WithAttributes): boolean {
  return of.attrs?.['leftOut'] !== undefined;
}

/** A number attribute of a node, or the given default. */
export function numberAttr(node: WithAttributes, name: string, otherwise: number): number {
  const value = node.attrs?.[name];
  return typeof value === 'number' ? value : otherwise;
}

/**
 * Visits a node and everything in it, parents first. The visitor may return false to pass over the
 * node's children.
 * @param path the ancestors of the node, outermost first
 */
export function walk<Kind extends string>(
  node: TreeNode<Kind>,
  visit: (node: TreeNode<Kind>, path: readonly TreeNode<Kind>[]) => boolean | void,
  path: readonly TreeNode<Kind>[] = [],
): void {
  if (visit(node, path) === false || !node.content) return;
  const inner = [...path, node];
  for (const child of node.content) walk(child, visit, inner);
}

/**
 * The plain text of a node, blocks separated by a space, line breaks as spaces.
 * @param leaf what stands for an inline leaf such as a variable; nothing by default
 */
export function textOf<Kind extends NodeKind | AssembledKind>(
  node: TreeNode<Kind>,
  leaf: (node: TreeNode<Kind>) => string = () => '',
): string {
  if (node.text !== undefined) return node.text;
  if (node.type === 'line_break') return ' ';
  if (!node.content) return leaf(node);
  const inline = node.content.some((child) => child.text !== undefined);
  return node.content
    .map((child) => textOf(child, leaf))
    .filter((text) => text !== '')
    .join(inline || isInlineContainer(node.type) ? '' : ' ');
}

/** Whether nodes of this kind hold inline content only. */
export function isInlineContainer(kind: NodeKind | AssembledKind): boolean {
  return kindSpec(kind).line === true;
}

/** Builds a node without empty members, so that equal trees are equal as JSON. */
export function makeNode(
  type: NodeKind,
  attrs?: Readonly<Record<string, unknown>> | null,
  content?: readonly ContentNode[],
): ContentNode {
  const kept = attrs ? Object.entries(attrs).filter(([, value]) => value !== null && value !== undefined) : [];
  return {
    type,
    ...(kept.length > 0 ? { attrs: Object.fromEntries(kept) } : {}),
    ...(content && content.length > 0 ? { content } : {}),
  };
}

/** A paragraph of a line of content. */
export const paragraphOf = (line: readonly ContentNode[]): ContentNode => makeNode('paragraph', null, line);

/** Builds a text node. */
export function makeText(text: string, marks: readonly ContentMark[] = []): ContentNode {
  return marks.length > 0 ? { type: 'text', text, marks } : { type: 'text', text };
}

/** A tree with its nodes changed one by one, children before parents; the very same where nothing changed. */
export function mapNodes(node: ContentNode, change: (node: ContentNode) => ContentNode): ContentNode {
  const content = node.content?.map((child) => mapNodes(child, change));
  const isSame = content === undefined || content.every((child, at) => child === node.content?.[at]);
  return change(isSame ? node : { ...node, content });
}

/** The same node with other children; the node itself where they are the same. */
export function withContent(node: ContentNode, content: readonly ContentNode[]): ContentNode {
  return content === node.content ? node : { ...node, content };
}
