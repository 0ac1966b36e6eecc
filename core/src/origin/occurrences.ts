import { anchorFor } from '../number/anchors.js';
import { childrenOf, isLeftOut, textAttr, type AssembledNode } from '../model/node.js';

/** A component that stands on a page, and how it comes there. */
export interface PlacedComponent {
  readonly component: string;
  /** Null: the newest. */
  readonly revision: number | null;
  /** The block of the component around it that brings it; null for the topic of the page. */
  readonly by: string | null;
}

/** A passage of a page. */
export interface Occurrence {
  /** Names it on the page. */
  readonly anchor: string;
  /** Its id in its component; null for the line of a snippet that holds one line. */
  readonly block: string | null;
  /** From the topic of the page down to the component that holds it. */
  readonly way: readonly PlacedComponent[];
  /** Whether it, or what it stands in, is only shown as left out. */
  readonly isOut: boolean;
}

/** The name of a passage on its page; null for nodes that are no passage of their own. */
export function passageAnchor(placements: readonly string[], node: AssembledNode): string | null {
  const id = textAttr(node, 'id');
  if (id !== null) return anchorFor(placements, id);
  // The line of a snippet is a paragraph without an id.
  return node.type === 'paragraph' ? anchorFor(placements, '@line') : null;
}

/** All passages of a page, in order. */
export function occurrencesIn(blocks: readonly AssembledNode[], topic: string): readonly Occurrence[] {
  const found: Occurrence[] = [];
  const visit = (
    nodes: readonly AssembledNode[],
    placements: readonly string[],
    way: readonly PlacedComponent[],
    slot: string | null,
    isIn: boolean,
  ): void => {
    for (const node of nodes) {
      const isOut = !isIn || isLeftOut(node);
      if (node.type === 'placed') {
        const placement = textAttr(node, 'placement') ?? '';
        const revision = node.attrs?.['revision'];
        const inside: PlacedComponent = {
          component: textAttr(node, 'component') ?? '',
          revision: typeof revision === 'number' ? revision : null,
          by: slot ?? placement,
        };
        visit(childrenOf(node), [...placements, placement], [...way, inside], null, !isOut);
        continue;
      }
      const anchor = passageAnchor(placements, node);
      const block = textAttr(node, 'id');
      if (anchor !== null) found.push({ anchor, block, way, isOut });
      visit(childrenOf(node), placements, way, node.type === 'slot' ? block : null, !isOut);
    }
  };
  visit(blocks, [], [{ component: topic, revision: null, by: null }], null, true);
  return found;
}
