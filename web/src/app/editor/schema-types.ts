import { contentSchema } from '@allomorph/core';
import type { MarkType, NodeType } from 'prosemirror-model';

/** A node type of the content schema. */
export function nodeType(name: string): NodeType {
  const type = contentSchema.nodes[name];
  if (!type) throw new Error(`The content schema has no node “${name}”.`);
  return type;
}

/** A mark type of the content schema. */
export function markType(name: string): MarkType {
  const type = contentSchema.marks[name];
  if (!type) throw new Error(`The content schema has no mark “${name}”.`);
  return type;
}

/** What a kind of node is called on screens. */
export function kindName(type: string): string {
  return type === 'display_formula' ? 'formula' : type.replaceAll('_', ' ');
}
