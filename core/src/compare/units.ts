import { chosenFileOf } from '../model/component.js';
import { recordingOf } from '../model/recording.js';
import { perContent } from '../model/per-content.js';
import type { AssembledEntry } from '../assemble/assembled.js';
import { childrenOf, isInlineContainer, textAttr, type AssembledNode } from '../model/node.js';
import { plainText } from '../number/plain-text.js';
import { bothConditions } from '../variation/condition-syntax.js';
import { conditionOn } from '../variation/stamps.js';

/**
 * One passage that readers see as one: a paragraph, a heading, a caption, a term, a listing, a formula, a picture or a
 * recording. */
export interface Unit {
  /** The type of its node. */
  readonly type: string;
  readonly text: string;
  /** The component that it was written in. */
  readonly component: string;
  /** The nearest block there that has an id. */
  readonly block: string | null;
  /** The conditions that it stands under in its topic and in what was placed there; null: none. */
  readonly when: string | null;
}

/** The passages of an assembled entry in reading order, its title first. */
export function unitsOf({ title, topic, blocks }: Pick<AssembledEntry, 'title' | 'topic' | 'blocks'>): readonly Unit[] {
  const component = topic ?? '';
  const heading: Unit = { type: 'title', text: plainText(title), component, block: null, when: null };
  return [heading, ...unitsOfBlocks(blocks, component)];
}

const unitsOfBlocks = perContent(collectUnits);

function collectUnits(blocks: readonly AssembledNode[], topic: string): readonly Unit[] {
  const units: Unit[] = [];
  const visit = (
    nodes: readonly AssembledNode[],
    component: string,
    block: string | null,
    when: string | null,
  ): void => {
    for (const node of nodes) {
      const inner = bothConditions(when, conditionOn(node));
      if (node.type === 'placed') {
        visit(childrenOf(node), textAttr(node, 'component') ?? component, null, inner);
        continue;
      }
      const own = textAttr(node, 'id') ?? block;
      const text = isInlineContainer(node.type) ? readable(node) : shownBy(node);
      if (text !== null) units.push({ type: node.type, text, component, block: own, when: inner });
      if (!isInlineContainer(node.type)) visit(childrenOf(node), component, own, inner);
    }
  };
  visit(blocks, topic, null, null);
  return units;
}

/** What a block shows by itself that is no text: a picture, a formula or a recording; null: nothing. */
function shownBy(node: AssembledNode): string | null {
  if (node.type === 'display_formula') return textAttr(node, 'source') ?? '';
  const file = chosenFileOf(node)?.digest.slice(0, 8) ?? '';
  if (node.type === 'picture') return `[${textAttr(node, 'component') ?? ''} ${file}]`;
  if (node.type !== 'media') return null;
  const recording = recordingOf(node);
  const found = [recording?.name, recording?.digest.slice(0, 8), textAttr(node, 'address'), file];
  return `[${found.filter((part) => part).join(' ')}]`;
}

/** The text of a line with its references named: what they read depends on the design, not on the content. */
function readable(node: AssembledNode): string {
  const named = childrenOf(node).map((child): AssembledNode => {
    if (child.type !== 'cross_reference') return child;
    const target = [textAttr(child, 'component'), textAttr(child, 'target')].filter((part) => part !== null).join('#');
    return { type: 'text', text: `[→ ${target}]` };
  });
  return plainText(named);
}
