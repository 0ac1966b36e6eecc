/**
 * Bodies as plain JSON trees, in the shape that the content schema reads and writes. The engine works
 * on these; attributes that hold their default may be missing.
 */
export interface ContentNode {
  readonly type: string;
  readonly attrs?: Readonly<Record<string, unknown>>;
  readonly content?: readonly ContentNode[];
  readonly text?: string;
  readonly marks?: readonly ContentMark[];
}

export interface ContentMark {
  readonly type: string;
  readonly attrs?: Readonly<Record<string, unknown>>;
}

const none: readonly ContentNode[] = [];

/** The children of a node; an empty list for leaves. */
export function childrenOf(node: ContentNode): readonly ContentNode[] {
  return node.content ?? none;
}

/** A string attribute of a node, or null where it is missing, null or not a string. */
export function textAttr(node: ContentNode | ContentMark, name: string): string | null {
  const value = node.attrs?.[name];
  return typeof value === 'string' ? value : null;
}

/** A number attribute of a node, or the given default. */
export function numberAttr(node: ContentNode | ContentMark, name: string, otherwise: number): number {
  const value = node.attrs?.[name];
  return typeof value === 'number' ? value : otherwise;
}

/**
 * Visits a node and everything in it, parents first. The visitor may return false to pass over the
 * node's children.
 * @param path the ancestors of the node, outermost first
 */
export function walk(
  node: ContentNode,
  visit: (node: ContentNode, path: readonly ContentNode[]) => boolean | void,
  path: readonly ContentNode[] = [],
): void {
  if (visit(node, path) === false || !node.content) return;
  const inner = [...path, node];
  for (const child of node.content) walk(child, visit, inner);
}

/**
 * The plain text of a node, blocks separated by a space, line breaks as spaces.
 * @param leaf what stands for an inline leaf such as a variable; nothing by default
 */
export function textOf(node: ContentNode, leaf: (node: ContentNode) => string = () => ''): string {
  if (node.text !== undefined) return node.text;
  if (node.type === 'line_break') return ' ';
  if (!node.content) return leaf(node);
  const inline = node.content.some((child) => child.text !== undefined);
  return node.content
    .map((child) => textOf(child, leaf))
    .filter((text) => text !== '')
    .join(inline || isInlineContainer(node.type) ? '' : ' ');
}

/** Whether nodes of this type hold inline content only. */
export function isInlineContainer(type: string): boolean {
  return inlineContainers.has(type);
}

const inlineContainers = new Set(['paragraph', 'title', 'term', 'caption', 'code_block', 'phrase']);

/** Builds a node without empty members, so that equal trees are equal as JSON. */
export function makeNode(
  type: string,
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

/** Builds a text node. */
export function makeText(text: string, marks: readonly ContentMark[] = []): ContentNode {
  return marks.length > 0 ? { type: 'text', text, marks } : { type: 'text', text };
}

/** The same node with other children; the node itself where they are the same. */
export function withContent(node: ContentNode, content: readonly ContentNode[]): ContentNode {
  return content === node.content ? node : { ...node, content };
}
