import { conditionsOn } from '../content/body.js';
import { childrenOf, isInlineContainer, textAttr, type ContentNode } from '../model/node.js';
import { comparePassages, type PassageChange } from './compare.js';
import type { Unit } from './units.js';

/** How leaves of content read in a comparison: by what they are called. */
export type NameOf = (component: string) => string;

/**
 * Compares two bodies as they are written, passage by passage: what stands in a place instead of text is named. A passage
 * whose condition changed has changed.
 */
export function compareBodies(before: ContentNode, after: ContentNode, nameOf: NameOf): readonly PassageChange[] {
  return comparePassages(unitsOfBody(before, nameOf), unitsOfBody(after, nameOf));
}

function unitsOfBody(body: ContentNode, nameOf: NameOf): readonly Unit[] {
  const units: Unit[] = [];
  const leafText = (node: ContentNode): string => {
    const named = textAttr(node, 'key') ?? textAttr(node, 'component');
    if (named !== null) return `[${nameOf(named)}]`;
    return node.type === 'line_break' ? ' ' : (textAttr(node, 'source') ?? '');
  };
  const limited = (node: ContentNode, text: string): string => {
    const limits = conditionsOn(node);
    return limits.length > 0 ? `${text} (${limits.join('; ')})` : text;
  };
  const visit = (node: ContentNode, block: string | null): void => {
    const own = textAttr(node, 'id') ?? block;
    const unit = (text: string): void =>
      void units.push({ type: node.type, text: limited(node, text), component: '', block: own, when: null });
    if (isInlineContainer(node.type))
      unit(
        childrenOf(node)
          .map((child) => limited(child, child.text ?? leafText(child)))
          .join(''),
      );
    else if (node.content === undefined && leafText(node) !== '') unit(leafText(node));
    else childrenOf(node).forEach((child) => visit(child, own));
  };
  visit(body, null);
  return units;
}
