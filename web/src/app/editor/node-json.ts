import type { ContentNode } from '@allomorph/core';
import type { Node } from 'prosemirror-model';

/*
 * The nodes of a page never change: a key makes new ones only for what holds the caret. What was made of the others is kept
 * with them, and goes with them.
 */
const contents = new WeakMap<Node, ContentNode>();
const texts = new WeakMap<Node, string>();

/** The content that a node of the page is: what `toJSON` gives, the same objects for what has not changed. */
export function contentOf(node: Node): ContentNode {
  let content = contents.get(node);
  if (!content) {
    content = {
      ...(alone(node).toJSON() as ContentNode),
      ...(node.childCount > 0 ? { content: node.children.map(contentOf) } : {}),
    };
    contents.set(node, content);
  }
  return content;
}

/** The JSON text of `contentOf`. */
export function jsonTextOf(node: Node): string {
  let text = texts.get(node);
  if (text === undefined) {
    const own = JSON.stringify(alone(node).toJSON());
    text = node.childCount > 0 ? `${own.slice(0, -1)},"content":[${node.children.map(jsonTextOf).join()}]}` : own;
    texts.set(node, text);
  }
  return text;
}

function alone(node: Node): Node {
  return node.isText ? node : node.copy();
}
