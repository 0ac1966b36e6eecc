import { Fragment, type Node } from 'prosemirror-model';
import { Plugin, type EditorState, type Transaction } from 'prosemirror-state';
import { changedRange, type Range } from './changed-range';
import { nodeType } from './schema-types';

/**
 * Keeps what is on the page such that it can be saved. Pasting and deleting across blocks of different kinds can leave a block
 * without what it must have, or with what it may not: the first is added empty, the second goes behind the block.
 */
export function repairContent(): Plugin {
  return new Plugin({
    appendTransaction: (transactions, _, state) => {
      if (!transactions.some(({ docChanged }) => docChanged)) return undefined;
      const { size } = state.doc.content;
      const maps = transactions.flatMap(({ mapping }) => [...mapping.maps]);
      const { from, to } = changedRange(maps, size);
      // What stands beside a change may have lost what it must have.
      const tr = repaired(state, { from: Math.max(0, from - 1), to: Math.min(size, to + 1) });
      return tr.docChanged ? tr : undefined;
    },
  });
}

function isWhole(node: Node): boolean {
  if (node.type.name === 'table_grid' && node.children.every(({ childCount }) => childCount === 0)) return false;
  return node.type.validContent(node.content);
}

function repaired(state: EditorState, { from, to }: Range): Transaction {
  const { tr } = state;
  const broken: number[] = [];
  if (from <= to)
    state.doc.nodesBetween(from, to, (node, position) => {
      if (!node.isLeaf && !isWhole(node)) broken.push(position);
      return !node.isTextblock;
    });
  // From the end: what is inside comes before what is around, and nothing moves that is still to be looked at.
  for (const position of broken.reverse()) {
    const node = tr.doc.nodeAt(position);
    if (!node || isWhole(node)) continue;
    const { fixed, rest } = fixedNode(node);
    tr.replaceWith(position, position + node.nodeSize, fixed);
    putBehind(tr, position + fixed.nodeSize, rest);
  }
  if (!isWhole(tr.doc)) {
    const { fixed, rest } = fixedNode(tr.doc);
    tr.replaceWith(0, tr.doc.content.size, fixed.content);
    putBehind(tr, tr.doc.content.size, rest);
  }
  return tr;
}

/** A node with all that it must have, and what it may not have. */
function fixedNode(node: Node): { readonly fixed: Node; readonly rest: readonly Node[] } {
  if (node.type.name === 'table_grid' && node.childCount > 0) {
    const cell = nodeType('table_cell').create(null, nodeType('paragraph').create());
    return { fixed: node.copy(Fragment.from(node.children.map((row) => row.copy(Fragment.from(cell))))), rest: [] };
  }
  const filled = node.type.createAndFill(node.attrs, node.content, node.marks);
  if (filled?.type.validContent(filled.content)) return { fixed: filled, rest: [] };
  const kept: Node[] = [];
  const rest: Node[] = [];
  let match = node.type.contentMatch;
  node.forEach((child) => {
    // What must come before it is there empty.
    const before = match.fillBefore(Fragment.from(child));
    const after = before && match.matchFragment(before.append(Fragment.from(child)));
    if (before && after) {
      kept.push(...before.content, child);
      match = after;
    } else rest.push(child);
  });
  const end = match.fillBefore(Fragment.empty, true);
  return { fixed: node.type.create(node.attrs, [...kept, ...(end?.content ?? [])], node.marks), rest };
}

/** Puts content to the next place where it may stand; what cannot stand anywhere by itself, its words in a paragraph. */
function putBehind(tr: Transaction, position: number, nodes: readonly Node[]): void {
  for (const node of [...nodes].reverse()) {
    const isBlock = node.type.isInGroup('block') || node.type.isInGroup('flow');
    const words = node.isInline ? Fragment.from(node) : inlineOf(node);
    if (!isBlock && words.size === 0) continue;
    const block = isBlock ? node : nodeType('paragraph').create(null, words);
    const $place = tr.doc.resolve(position);
    for (let depth = $place.depth; depth >= 0; depth -= 1) {
      const index = $place.indexAfter(depth);
      if (!$place.node(depth).canReplaceWith(index, index, block.type)) continue;
      tr.insert(depth === $place.depth ? position : $place.after(depth + 1), block);
      break;
    }
  }
}

/** The inline content of all text blocks in a node, one behind the other. */
function inlineOf(node: Node): Fragment {
  let words = Fragment.empty;
  node.descendants((each) => {
    if (each.isTextblock) words = words.append(each.content);
    return !each.isTextblock;
  });
  return words;
}
