import type { NodeKind } from '../../model/kinds.js';
import { addMark } from '../../model/marks.js';
import { childrenOf, makeNode, textAttr, type ContentNode } from '../../model/node.js';
import { bothConditions } from '../../variation/condition-syntax.js';
import { conditionMark, nameOf } from './elements.js';
import { fileOf, inPlace } from './files.js';
import type { Context, Flow, ImportSession } from './session.js';
import { partElements } from './vocabulary.js';
import type { XmlElement, XmlNode } from './xml.js';

/** The parts of a list or table, entities that hold parts expanded. */
export function partsIn(session: ImportSession, nodes: readonly XmlNode[]): readonly XmlElement[] {
  return nodes.flatMap((node) => {
    if (node.kind === 'text') return [];
    if (node.kind === 'element' && node.name !== 'xi:include') return partElements.has(node.name) ? [node] : [];
    const file = fileOf(session, node);
    const isHolding = file ? file.nodes.length > 0 : node.kind === 'entity' && session.valueNodes(node) !== null;
    if (isHolding)
      session.note(
        'resolved reuse',
        `The parts that the entity “${nameOf(node)}” holds were put in place of it.`,
        node,
      );
    if (file) return inPlace(session, file, node, () => partsIn(session, file.nodes));
    return node.kind === 'entity' ? partsIn(session, session.expandedValue(node)) : [];
  });
}

export function paragraphOf(
  session: ImportSession,
  content: readonly ContentNode[],
  when: string | null,
  context: Context,
): Flow {
  const [id, ...more] = context.anchors.splice(0);
  const target = { component: context.component, block: id ?? null };
  for (const each of id === undefined ? [] : [id, ...more]) session.named.lead(each, target);
  return makeNode('paragraph', { id, when }, content);
}

/** Sections cannot stand inside lists, cells and the like: their title becomes a paragraph there. */
export function onlyBlocks(session: ImportSession, nodes: readonly Flow[], at: XmlElement): readonly Flow[] {
  return nodes.flatMap((node) => {
    if (node.type !== 'section') return [node];
    session.note('other structure', `A section inside <${at.name}> became paragraphs.`, at);
    const [title, ...rest] = childrenOf(node);
    return [makeNode('paragraph', null, title ? childrenOf(title) : []), ...onlyBlocks(session, rest, at)];
  });
}

export function ifAny(content: readonly Flow[], make: (content: readonly Flow[]) => Flow): readonly Flow[] {
  return content.length > 0 ? [make(content)] : [];
}

export function nonEmpty(type: NodeKind, attrs: Record<string, unknown>, content: readonly ContentNode[]): Flow | null {
  return content.length > 0 ? makeNode(type, attrs, content) : null;
}

export function conditioned(nodes: readonly Flow[], when: string | null): readonly Flow[] {
  if (when === null) return nodes;
  return nodes.map((node) => ({
    ...node,
    attrs: { ...node.attrs, when: bothConditions(when, textAttr(node, 'when')) },
  }));
}

export function withCondition(nodes: readonly ContentNode[], when: string | null): readonly ContentNode[] {
  if (when === null) return nodes;
  return nodes.map((node) => ({ ...node, marks: addMark(node.marks ?? [], conditionMark(when)) }));
}
