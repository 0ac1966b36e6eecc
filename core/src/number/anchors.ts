import { topicHeading } from '../assemble/sections.js';

/**
 * Names an occurrence of a block on a page: its id under the placements that it stands in. Names are unique on a page, as ids
 * are in a component and placements around it; two hyphens stand between the parts and nowhere else, and no
 * name begins with `_`, which formats may use for names of their own.
 */
export function anchorFor(placements: readonly string[], id: string): string {
  const own = id === topicHeading ? '_topic' : escapePart(id);
  const path = placements.length === 0 ? own : `${placements.map(escapePart).join('--')}--${own}`;
  return path.startsWith('_') ? `-${path}` : path;
}

/** Parts that hold two hyphens in a row, or begin or end with one, are told apart from seams between parts. */
function escapePart(part: string): string {
  if (!part.includes('-')) return part;
  return part.replace(/-\./g, '-..').replace(/-(?=-|$)|^-/g, '-.');
}
