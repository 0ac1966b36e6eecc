import { childrenOf, textAttr, type AnyNode } from '../model/node.js';

/** The signs around a quoted phrase, in one language. */
export type Quotes = readonly [string, string];

/** What text without markup needs of the words of a language. */
export interface PlainWords {
  readonly quotes: Quotes;
  /** Stands where content cannot be shown. */
  readonly missing: string;
}

/** For texts that belong to no language: lists in the application, names of passages. */
const noLanguage: PlainWords = { quotes: ['“', '”'], missing: '' };

/** Spaces that are to be one: single ones stand in nearly every text, and stay. */
const unfolded = /\s{2,}|[^\S ]/g;

/**
 * The text of assembled inline content, with quotation marks where a phrase is quoted and a marker where something is
 * missing, spaces folded.
 */
export function plainText(nodes: readonly AnyNode[], words = noLanguage): string {
  return textOfNodes(nodes, words).replace(unfolded, ' ').trim();
}

function textOfNodes(nodes: readonly AnyNode[], words: PlainWords): string {
  const { quotes } = words;
  let text = '';
  let quoted = false;
  for (const node of nodes) {
    // Neighbours under one mark are one phrase.
    const isQuoted = node.marks?.some((mark) => mark.type === 'quote') ?? false;
    if (isQuoted !== quoted) text += isQuoted ? quotes[0] : quotes[1];
    quoted = isQuoted;
    text += node.text ?? leafText(node, words) ?? textOfNodes(childrenOf(node), words);
  }
  return quoted ? text + quotes[1] : text;
}

/** What a node reads that has no text; undefined: what it holds. */
function leafText(node: AnyNode, { missing }: PlainWords): string | undefined {
  if (node.type === 'line_break') return ' ';
  if (node.type === 'missing') return missing;
  return node.type === 'formula' ? (textAttr(node, 'source') ?? '') : undefined;
}
