import { textAttr, type ContentNode } from '../../model/node.js';

/**
 * Folds white space as text flow does: runs become one space, also across nodes. A space is dropped
 * after another one only where that other one is in whenever it is itself, so that leaving out a
 * conditional phrase never joins two words.
 * @param keep whether a space at the start and at the end stays
 */
export function normalizeSpaces(
  nodes: readonly ContentNode[],
  keep: { readonly start?: boolean; readonly end?: boolean } = {},
): readonly ContentNode[] {
  const result: ContentNode[] = [];
  /** The conditions under which the space before was written; null: there is no space before. */
  let spaceBefore: readonly string[] | null = keep.start ? null : [];
  for (const node of nodes) {
    if (node.text === undefined) {
      result.push(node);
      spaceBefore = node.type === 'line_break' ? [] : null;
      continue;
    }
    const conditions = conditionsOf(node);
    let text = node.text.replace(/[ \t\r\n]+/g, ' ');
    if (text.startsWith(' ') && spaceBefore?.every((each) => conditions.includes(each))) text = text.slice(1);
    if (text === '') continue;
    result.push({ ...node, text });
    spaceBefore = text.endsWith(' ') ? conditions : null;
  }
  if (keep.end) return result;
  const last = result.at(-1);
  if (last?.text?.endsWith(' ')) {
    const text = last.text.replace(/ +$/, '');
    if (text === '') result.pop();
    else result[result.length - 1] = { ...last, text };
  }
  return result;
}

function conditionsOf(node: ContentNode): readonly string[] {
  return (node.marks ?? []).flatMap((mark) => (mark.type === 'condition' ? [textAttr(mark, 'when') ?? ''] : []));
}
