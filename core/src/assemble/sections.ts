import type { Assembly } from './assembly.js';
import type { Place } from './place.js';
import { derive, makePrepared, partsOf, plainText, type PreparedNode } from './prepared.js';

/** The id under which the heading of a topic stands when the topic is placed with its title. */
export const topicHeading = '@topic';

/** A section that is left with its title only is reported, and left out where the variant says so. */
export function section(assembly: Assembly, node: PreparedNode, place: Place): PreparedNode | null {
  const content = assembly.flow(partsOf(node), place);
  if (content.every((child) => child.type === 'title')) {
    const text = content[0] ? plainText(content[0]) : '';
    assembly.report('warning', 'empty-section', `Nothing is left of the section “${text}” but its title.`, place);
    if (assembly.reading.leavesOutEmpty) return null;
  }
  return derive(node, content);
}

/** A topic that is placed with its title, as a section. */
export function titledSection(
  assembly: Assembly,
  parts: readonly PreparedNode[],
  place: Place,
): readonly PreparedNode[] {
  const titled = section(assembly, makePrepared('section', { id: topicHeading }, parts), place);
  return titled ? [titled] : [];
}
