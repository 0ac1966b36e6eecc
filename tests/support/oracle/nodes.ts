import type { Component } from '../../../core/src/model/component.js';
import type { ContentMark, ContentNode } from '../../../core/src/model/node.js';

/** Content as the naive engine handles it. */
export interface Node {
  type: string;
  attrs: Record<string, unknown>;
  content: Node[];
  text?: string;
  marks: ContentMark[];
}

/** An entry of the outline with what is in. */
export interface Entry {
  readonly id: string;
  readonly topic: string | null;
  readonly role: string;
  readonly title: Node[];
  readonly blocks: Node[];
  readonly below: Entry[];
}

/** The kinds that hold a line. */
export const lineKinds = new Set(['paragraph', 'title', 'caption', 'term', 'code_block', 'phrase']);

export function copy(node: ContentNode): Node {
  return {
    type: node.type,
    attrs: { ...node.attrs },
    content: (node.content ?? []).map(copy),
    marks: [...(node.marks ?? [])],
    ...(node.text === undefined ? {} : { text: node.text }),
  };
}

export const textNode = (text: string): Node => ({ type: 'text', attrs: {}, content: [], marks: [], text });
export const gap = (): Node => ({ type: 'gap', attrs: {}, content: [], marks: [] });
export const missing = (): Node => ({ type: 'missing', attrs: {}, content: [], marks: [] });
export const placedNode = (component: Component, placement: string, content: Node[]): Node => ({
  type: 'placed',
  attrs: { placement, component: component.key },
  content,
  marks: [],
});
