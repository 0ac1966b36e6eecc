import { known } from '../model/known.js';
import type { ComponentOf } from '../model/component.js';
import { limits } from '../model/limits.js';
import { textAttr } from '../model/node.js';
import { placedPart } from '../select/select.js';
import type { Assembly } from './assembly.js';
import { titledSection } from './sections.js';
import { Memo } from './memo.js';
import { preparedComponent } from './memory.js';
import type { Place } from './place.js';
import { makePrepared, missingBlock, weightOf, type PreparedNode } from './prepared.js';

type Placeable = ComponentOf<'topic' | 'snippet'>;

/** A block placement as what it places. */
export function placeBlocks(assembly: Assembly, node: PreparedNode, place: Place): readonly PreparedNode[] {
  const component = assembly.component(node, ['topic', 'snippet'], place);
  if (!component) return missingBlock();
  const withTitle = node.attrs?.['withTitle'] === true;
  const content = placedContent(assembly, component, textAttr(node, 'section'), withTitle, place);
  return content.length === 0 ? [] : [placed(component, node.id ?? component.key, content, textAttr(node, 'stamp'))];
}

/** A slot with what may stand in it: each candidate as if it were placed there. */
export function fillSlot(assembly: Assembly, node: PreparedNode, place: Place): readonly PreparedNode[] {
  const id = node.id ?? 'slot';
  const candidates = assembly.reading.candidates(node, place);
  const content = candidates.flatMap((candidate): PreparedNode[] => {
    const component = assembly.reading.component(candidate.key);
    if (component?.kind !== 'snippet') return [];
    const blocks = placedContent(assembly, component, null, false, place);
    return blocks.length === 0 ? [] : [placed(component, `${id}-${component.key}`, blocks)];
  });
  if (content.length === 0) {
    const collection = textAttr(node, 'collection') ?? '';
    assembly.report('warning', 'missing-slot-content', `No snippet of “${collection}” fits the slot here.`, place);
    return [];
  }
  const wanted = textAttr(node, 'stated');
  const stated = content.some((each) => textAttr(each, 'component') === wanted)
    ? wanted
    : textAttr(known(content[0]), 'component');
  return [makePrepared('slot', { id, stated }, content)];
}

function placed(
  { key, revision }: Placeable,
  placement: string,
  content: readonly PreparedNode[],
  stamp: string | null = null,
): PreparedNode {
  const attrs = { placement, component: key, revision };
  return makePrepared('placed', stamp === null ? attrs : { ...attrs, stamp }, content);
}

function placedContent(
  assembly: Assembly,
  component: Placeable,
  section: string | null,
  withTitle: boolean,
  place: Place,
): readonly PreparedNode[] {
  const { reading } = assembly;
  const cycle = reading.cycleAround(component.key, place);
  if (cycle !== null) {
    assembly.report('error', 'placement-cycle', `Placements form a cycle: ${cycle}.`, place);
    return [];
  }
  const prepared = preparedComponent(reading.remembered, component);
  const name = `${withTitle ? 'titled' : ''}${section === null ? '' : `#${section}`}`;
  let memo = prepared.placed.get(name);
  if (!memo) prepared.placed.set(name, (memo = new Memo()));
  const inside: Place = { ...place, component, around: { key: component.key, outer: place.around } };
  const piece = reading.piece(memo, inside, () =>
    assembly.inside(() => {
      reading.checkConditions(prepared);
      return partToPlace(assembly, component, prepared.body, section, withTitle, inside);
    }),
  );
  reading.include(piece, component.key);
  if (weightOf(piece.result) <= limits.placedNodes) return piece.result;
  const message = `What “${component.title}” places comes to more than ${limits.placedNodes} nodes; it was left out.`;
  assembly.report('error', 'too-large', message, place);
  return missingBlock();
}

function partToPlace(
  assembly: Assembly,
  component: Placeable,
  body: PreparedNode,
  section: string | null,
  withTitle: boolean,
  place: Place,
): readonly PreparedNode[] {
  if (!assembly.reading.nodeHolds(body)) return [];
  if (body.type === 'phrase') {
    const content = assembly.line(body, place);
    return content.length > 0 ? [makePrepared('paragraph', undefined, content)] : [];
  }
  const part = placedPart(body, section, withTitle, (line) => makePrepared('paragraph', undefined, line));
  if (!part) {
    assembly.report('error', 'missing-target', `“${component.title}” has no section “${section}”.`, place);
    return [];
  }
  if (!part.conditions.every((when) => assembly.reading.holds(when))) return [];
  const { nodes } = part;
  return part.titled ? titledSection(assembly, nodes, place) : assembly.flow(nodes, place);
}
