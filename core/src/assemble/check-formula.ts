import { readFormula } from '../formula/read-formula.js';
import { textAttr, type TreeNode } from '../model/node.js';
import type { Assembly } from './assembly.js';
import type { Place } from './place.js';

/** Why a formula cannot be drawn; null: it can, or is none. */
export function formulaFault(node: Pick<TreeNode<string>, 'type' | 'attrs'>): string | null {
  const isBlock = node.type === 'display_formula';
  if (!isBlock && node.type !== 'formula') return null;
  return readFormula(textAttr(node, 'source') ?? '', isBlock).fault;
}

/** Whether nothing of a formula is written, so that nothing can be shown. */
export function isUnwritten(node: TreeNode<string>): boolean {
  return (textAttr(node, 'source') ?? '').trim() === '';
}

/** How much of a source is named. */
const mostNamed = 60;

/** Reports a formula that cannot be drawn: readers would see its source. */
export function checkFormula(assembly: Assembly, node: TreeNode<string>, place: Place): void {
  const fault = formulaFault(node);
  if (fault === null) return;
  const source = textAttr(node, 'source') ?? '';
  const shown = source.length > mostNamed ? `${source.slice(0, mostNamed)}…` : source;
  assembly.report('error', 'bad-formula', `The formula “${shown}” cannot be drawn: ${fault}.`, place);
}
