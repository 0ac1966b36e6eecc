import { markKinds } from './kinds.js';
import { textAttr, type ContentMark } from './node.js';

const rank = new Map(Object.keys(markKinds).map((name, index) => [name, index]));
const shifts = new Set(['superscript', 'subscript']);

/**
 * Adds a mark inside others, in the order that the schema asks for. A mark takes the place of one of its
 * own type; conditions stand beside each other.
 */
export function addMark(marks: readonly ContentMark[], mark: ContentMark): readonly ContentMark[] {
  const kept = marks.filter((each) => {
    if (mark.type === 'condition')
      return each.type !== 'condition' || textAttr(each, 'when') !== textAttr(mark, 'when');
    return each.type !== mark.type && !(shifts.has(each.type) && shifts.has(mark.type));
  });
  const own = rank.get(mark.type) ?? 0;
  const at = kept.findIndex((each) => (rank.get(each.type) ?? 0) > own);
  return at < 0 ? [...kept, mark] : [...kept.slice(0, at), mark, ...kept.slice(at)];
}
