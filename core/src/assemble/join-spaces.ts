import type { ContentNode } from '../content/node.js';

const spaceAtStart = /^[ \t\n\r]+/;
const spaceAtEnd = /[ \t\n\r]+$/;
const closing = /^[.,;:!?)\]}’”»…]/;
const opening = /[([{‘“«]$/;

/**
 * Mends the spaces where inline content was removed: none at the edges of the container, one instead of
 * two between words, none before closing and after opening punctuation.
 * @param nodes the inline content that stayed
 * @param gaps positions in `nodes` before which something was removed, ascending
 */
export function joinSpaces(nodes: readonly ContentNode[], gaps: readonly number[]): readonly ContentNode[] {
  if (gaps.length === 0) return nodes;
  const texts = nodes.map((node) => node.text);
  const isEmptyText = (at: number): boolean => texts[at] === '';
  for (const gap of gaps) {
    let before = gap - 1;
    while (before >= 0 && isEmptyText(before)) before -= 1;
    let after = gap;
    while (after < nodes.length && isEmptyText(after)) after += 1;
    const left = before < 0 ? null : (texts[before] ?? 'x');
    const right = after >= nodes.length ? null : (texts[after] ?? 'x');
    if (right !== null && (left === null || spaceAtEnd.test(left) || opening.test(left)) && spaceAtStart.test(right)) {
      texts[after] = right.replace(spaceAtStart, '');
    }
    const rest = right === null ? null : (texts[after] ?? 'x');
    if (left !== null && spaceAtEnd.test(left) && (rest === null || closing.test(rest))) {
      texts[before] = left.replace(spaceAtEnd, '');
    }
  }
  // Where nothing but spaces stayed, nothing did.
  if (texts.every((text) => text?.trim() === '')) return [];
  const joined: ContentNode[] = [];
  nodes.forEach((node, at) => {
    const text = texts[at];
    if (text === '') return;
    joined.push(text === node.text ? node : { ...node, text: text as string });
  });
  return joined;
}
