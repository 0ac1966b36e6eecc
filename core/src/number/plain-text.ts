import { childrenOf, type AnyNode } from '../model/node.js';

/** The signs around a quoted phrase, in one language. */
export type Quotes = readonly [string, string];

/** Those of English, for texts that belong to no language: lists in the application, names of passages. */
export const plainQuotes: Quotes = ['“', '”'];

/** The text of assembled inline content, with quotation marks where a phrase is quoted, spaces folded. */
export function plainText(nodes: readonly AnyNode[], quotes: Quotes = plainQuotes): string {
  return textOfNodes(nodes, quotes).replace(/\s+/g, ' ').trim();
}

function textOfNodes(nodes: readonly AnyNode[], quotes: Quotes): string {
  let text = '';
  let quoted = false;
  for (const node of nodes) {
    // Neighbours under one mark are one phrase.
    const isQuoted = node.marks?.some((mark) => mark.type === 'quote') ?? false;
    if (isQuoted !== quoted) text += isQuoted ? quotes[0] : quotes[1];
    quoted = isQuoted;
    text += node.type === 'line_break' ? ' ' : (node.text ?? textOfNodes(childrenOf(node), quotes));
  }
  return quoted ? text + quotes[1] : text;
}
