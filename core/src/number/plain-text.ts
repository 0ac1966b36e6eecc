import type { AssembledNode } from '../assemble/assembled.js';
import { childrenOf } from '../content/node.js';

/** The text of assembled inline content, with quotation marks where a phrase is quoted, spaces folded. */
export function plainText(nodes: readonly AssembledNode[]): string {
  return nodes
    .map((node) => {
      const text = node.type === 'line_break' ? ' ' : (node.text ?? plainText(childrenOf(node)));
      return node.marks?.some((mark) => mark.type === 'quote') ? `“${text}”` : text;
    })
    .join('')
    .replace(/\s+/g, ' ')
    .trim();
}
