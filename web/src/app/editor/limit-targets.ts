import type { Node } from 'prosemirror-model';
import { NodeSelection, type Command, type EditorState } from 'prosemirror-state';
import { CellSelection } from 'prosemirror-tables';
import { markType } from './schema-types';
import { columnTarget, limitColumn, type ColumnTarget } from './table-columns';

/** What a condition can be put on: words, a block of the chain that the cursor stands in, or a column of a table. */
export type LimitTarget =
  | ColumnTarget
  /** The component itself, wherever it stands. */
  | { readonly kind: 'whole'; readonly type: string; readonly when: string | null }
  | {
      readonly kind: 'words';
      readonly from: number;
      readonly to: number;
      readonly when: string | null;
      readonly stamp: string | null;
    }
  | {
      readonly kind: 'block';
      readonly position: number;
      readonly type: string;
      readonly when: string | null;
      /** Undefined: it can bear none. */
      readonly stamp: string | null | undefined;
      /** Of a branch: the conditions of those before it, none of which may hold. */
      readonly unless?: readonly (string | null)[];
    }
  | {
      readonly kind: 'blocks';
      readonly positions: readonly number[];
      /** What they make up together, where that has a name of its own: a cell keeps its place, whatever of it applies. */
      readonly named?: string;
      /** The condition that all of them have; null where they have none, or different ones. The stamp likewise. */
      readonly when: string | null;
      readonly stamp: string | null | undefined;
    };

type BlockTarget = Extract<LimitTarget, { readonly kind: 'block' }>;

/** The chain of blocks that the selection stands in, outermost first, and the words where there are any. */
export function limitTargets(state: EditorState): readonly LimitTarget[] {
  const { selection } = state;
  const { doc } = state;
  const targets: LimitTarget[] = [
    { kind: 'whole', type: doc.type.name, when: (doc.attrs['when'] as string | null) ?? null },
  ];
  const { $from } = selection;
  for (let depth = 1; depth <= $from.depth; depth += 1) {
    const node = $from.node(depth);
    if ('when' in node.attrs) {
      const target = blockTarget($from.before(depth), node);
      const isBranch = node.type.name === 'branch';
      targets.push(
        isBranch ? { ...target, unless: branchesBefore($from.node(depth - 1), $from.index(depth - 1)) } : target,
      );
    }
    const column = node.type.name === 'table_grid' ? columnTarget($from, depth) : null;
    if (column) targets.push(column);
    // Only where a row and a column do not fit: what a cell holds is limited, and the cell stays.
    if (isCell(node)) {
      const inCell = together(blocksIn(node, $from.start(depth)), 'this cell');
      if (inCell) targets.push(inCell);
    }
  }
  if (selection instanceof NodeSelection) {
    if (selection.node.isInline) {
      const { from, to, node } = selection;
      targets.push({ kind: 'words', from, to, when: conditionOf(node), stamp: stampOf(node) });
    } else if ('when' in selection.node.attrs) targets.push(blockTarget(selection.from, selection.node));
    return targets;
  }
  const several = selection instanceof CellSelection ? selectedCells(selection) : selectedBlocks(state);
  if (several) targets.push(several);
  const words = wordsRange(state);
  if (words) targets.push(words);
  return targets;
}

/** The neighbouring blocks that a selection reaches across. */
function selectedBlocks({ selection: { $from, $to } }: EditorState): LimitTarget | null {
  const range = $from.sameParent($to) ? null : $from.blockRange($to);
  if (!range) return null;
  const blocks: BlockTarget[] = [];
  let position = range.start;
  for (let index = range.startIndex; index < range.endIndex; index += 1) {
    const node = range.parent.child(index);
    if ('when' in node.attrs) blocks.push(blockTarget(position, node));
    position += node.nodeSize;
  }
  return blocks.length < 2 ? null : together(blocks);
}

/** The rows that are chosen whole, or else what the chosen cells hold. */
function selectedCells(selection: CellSelection): LimitTarget | null {
  const blocks: BlockTarget[] = [];
  const rows = new Map<number, BlockTarget>();
  let cells = 0;
  selection.forEachCell((cell, position) => {
    cells += 1;
    blocks.push(...blocksIn(cell, position + 1));
    const $cell = selection.$anchorCell.doc.resolve(position);
    rows.set($cell.before(), blockTarget($cell.before(), $cell.parent));
  });
  if (selection.isRowSelection())
    return together([...rows.values()], rows.size === 1 ? 'this row' : `these ${rows.size} rows`);
  return together(blocks, cells === 1 ? 'this cell' : `these ${cells} cells`);
}

const isCell = (node: Node): boolean => ['cell', 'header_cell'].includes(String(node.type.spec['tableRole']));

function blocksIn(parent: Node, start: number): readonly BlockTarget[] {
  const blocks: BlockTarget[] = [];
  parent.forEach((node, offset) => {
    if ('when' in node.attrs) blocks.push(blockTarget(start + offset, node));
  });
  return blocks;
}

/** Blocks as one target. */
function together(blocks: readonly BlockTarget[], named?: string): LimitTarget | null {
  const [first] = blocks;
  if (!first) return null;
  const when = blocks.every((block) => block.when === first.when) ? first.when : null;
  const bearing = blocks.filter(({ stamp }) => stamp !== undefined);
  const [one] = bearing;
  const stamp = one && (bearing.every((block) => block.stamp === one.stamp) ? one.stamp : null);
  const positions = blocks.map((block) => block.position);
  return { kind: 'blocks', positions, when, stamp, ...(named === undefined ? {} : { named }) };
}

function branchesBefore(choice: Node, index: number): readonly (string | null)[] {
  return choice.children.slice(0, index).map((branch) => (branch.attrs['when'] as string | null) || null);
}

function blockTarget(position: number, node: Node): BlockTarget {
  const { when, stamp } = node.attrs as { when: string | null; stamp?: string | null };
  return { kind: 'block', position, type: node.type.name, when, stamp };
}

function conditionOf(node: Node): string | null {
  const mark = node.marks.find((each) => each.type.name === 'condition');
  return mark ? String(mark.attrs['when']) : null;
}

function stampOf(node: Node): string | null {
  const mark = node.marks.find((each) => each.type.name === 'stamp');
  return mark ? String(mark.attrs['stamp']) : null;
}

/** The selected words in one block, or those around the cursor that a condition or a stamp is on. */
function wordsRange(state: EditorState): LimitTarget | null {
  const { $from, $to, from, to, empty } = state.selection;
  if (!$from.parent.inlineContent) return null;
  if (!empty) {
    if (!$from.sameParent($to)) return null;
    let when: string | null = null;
    let stamp: string | null = null;
    state.doc.nodesBetween(from, to, (node) => {
      if (!node.isInline) return;
      when ??= conditionOf(node);
      stamp ??= stampOf(node);
    });
    return { kind: 'words', from, to, when, stamp };
  }
  const isMarked = (node: Node | null): node is Node =>
    node !== null && (conditionOf(node) !== null || stampOf(node) !== null);
  const node = isMarked($from.nodeAfter) ? $from.nodeAfter : $from.nodeBefore;
  if (!isMarked(node)) return null;
  const [when, stamp] = [conditionOf(node), stampOf(node)];
  const start = $from.start();
  let range: { from: number; to: number } | null = null;
  let open: number | null = null;
  $from.parent.forEach((child, offset) => {
    if (conditionOf(child) !== when || stampOf(child) !== stamp) {
      open = null;
      return;
    }
    open ??= start + offset;
    const end = start + offset + child.nodeSize;
    if (open <= from && from <= end) range = { from: open, to: end };
  });
  const found = range as { from: number; to: number } | null;
  return found ? { kind: 'words', ...found, when, stamp } : null;
}

/** The target that a writer most likely means: the words, or the block that reads as one. */
export function likelyTarget(targets: readonly LimitTarget[]): number {
  const last = targets.length - 1;
  const [target, around, outer] = [targets[last], targets[last - 1], targets[last - 2]];
  if (target?.kind !== 'block' || target.type !== 'paragraph') return last;
  if (around?.kind === 'block' && ['list_item', 'step'].includes(around.type)) return last - 1;
  // A row is meant, rather than one of its cells.
  return outer?.kind === 'block' && outer.type === 'table_row' ? last - 2 : last;
}

/** Puts a condition on a target, or takes it away with null. */
export function limit(target: LimitTarget, when: string | null): Command {
  if (target.kind === 'column') return limitColumn(target, when);
  return (state, dispatch) => {
    const { tr } = state;
    if (target.kind === 'whole') tr.setDocAttribute('when', when);
    else if (target.kind === 'words') {
      tr.removeMark(target.from, target.to, markType('condition'));
      if (when !== null) tr.addMark(target.from, target.to, markType('condition').create({ when }));
    } else {
      for (const position of target.kind === 'block' ? [target.position] : target.positions) {
        const node = state.doc.nodeAt(position);
        if (!node || !('when' in node.attrs)) return false;
        tr.setNodeAttribute(position, 'when', when);
      }
    }
    dispatch?.(tr);
    return true;
  };
}

/** Puts a stamp on a target, or takes it away with null. Of several blocks, those bear it that can. */
export function putStamp(target: LimitTarget, stamp: string | null): Command {
  return (state, dispatch) => {
    const { tr } = state;
    if (target.kind === 'column' || target.kind === 'whole') return false;
    if (target.kind === 'words') {
      tr.removeMark(target.from, target.to, markType('stamp'));
      if (stamp !== null) tr.addMark(target.from, target.to, markType('stamp').create({ stamp }));
    } else {
      for (const position of target.kind === 'block' ? [target.position] : target.positions) {
        const node = state.doc.nodeAt(position);
        if (node && 'stamp' in node.attrs) tr.setNodeAttribute(position, 'stamp', stamp);
      }
    }
    dispatch?.(tr);
    return true;
  };
}
