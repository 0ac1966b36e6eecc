import { asPrepared, derive, makePrepared, partsOf, type PreparedNode } from '../assemble/prepared.js';
import { known } from '../model/known.js';
import { childrenOf, isLeftOut, textAttr, type AnyNode, type AssembledNode } from '../model/node.js';
import { anchorFor } from '../number/anchors.js';
import { passageAnchor } from './occurrences.js';

/**
 * A page with what its variant leaves out: the revealed page, in which whatever the page itself does not have is marked as
 * left out. What is out by a condition is marked already; what went because nothing was left of it is marked here.
 * @param page the blocks of the page
 * @param revealed the blocks of the same page out of a revealed source
 */
export function showLeftOut(
  page: readonly AssembledNode[],
  revealed: readonly AssembledNode[],
): readonly AssembledNode[] {
  const there = whatStands(page);
  const visit = (nodes: readonly PreparedNode[], placements: readonly string[]): readonly PreparedNode[] =>
    nodes.map((node) => {
      if (isLeftOut(node)) return node;
      // eslint-disable-next-line @typescript-eslint/no-unsafe-type-assertion -- What is only in bodies has been replaced.
      const name = nameOf(node as AssembledNode, placements);
      const real = name === null ? undefined : there.get(name);
      const isOut = name !== null && !real;
      const inside = isOut && node.type !== 'placed' ? partsOf(node) : visit(partsOf(node), within(node, placements));
      // Of a slot that is in, the same candidate stands in it.
      const stated = real?.type === 'slot' ? { stated: textAttr(real, 'stated') } : {};
      const attrs = { ...node.attrs, ...stated, ...(isOut ? { leftOut: true } : {}) };
      if (isOut || real?.type === 'slot') return makePrepared(node.type, attrs, inside);
      return node.content ? derive(node, inside) : node;
    });
  // eslint-disable-next-line @typescript-eslint/no-unsafe-type-assertion -- The same.
  return visit(
    revealed.map((node) => known(asPrepared(node) ?? undefined)),
    [],
  ) as readonly AssembledNode[];
}

/** The passages of a page, and what is placed on it, by name. */
function whatStands(page: readonly AssembledNode[]): ReadonlyMap<string, AssembledNode> {
  const there = new Map<string, AssembledNode>();
  const visit = (nodes: readonly AssembledNode[], placements: readonly string[]): void => {
    for (const node of nodes) {
      const name = nameOf(node, placements);
      if (name !== null) there.set(name, node);
      visit(childrenOf(node), within(node, placements));
    }
  };
  visit(page, []);
  return there;
}

function nameOf(node: AssembledNode, placements: readonly string[]): string | null {
  return node.type === 'placed' ? anchorFor(within(node, placements), '@placed') : passageAnchor(placements, node);
}

function within(node: AnyNode, placements: readonly string[]): readonly string[] {
  return node.type === 'placed' ? [...placements, textAttr(node, 'placement') ?? ''] : placements;
}
