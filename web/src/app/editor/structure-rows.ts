import { conditionOn } from '@allomorph/core';
import type { Node } from 'prosemirror-model';
import type { Command } from 'prosemirror-state';
import { kindName } from './schema-types';
import { NodeSelection, Selection } from 'prosemirror-state';

/** A block of a body as a row of its structure. */
export interface StructureRow {
  /** Where the block begins. */
  readonly position: number;
  readonly size: number;
  /** Names the row while the body changes: its id, or its way from the top. */
  readonly name: string;
  /** From 1. */
  readonly level: number;
  readonly type: string;
  /** What people call it. */
  readonly kind: string;
  /** How it begins. */
  readonly text: string;
  readonly when: string | null;
  /** The conditions of what it stands in. */
  readonly around: readonly string[];
  readonly hasBelow: boolean;
}

/** What is a row only where it is more than the text of what it stands in. */
const silent: ReadonlySet<string> = new Set([
  'title',
  'caption',
  'term',
  'description',
  'table_grid',
  'table_cell',
  'table_header',
  'picture',
]);
const holders: ReadonlySet<string> = new Set(['list_item', 'step', 'table_cell', 'table_header', 'description']);
const longest = 90;

const kindNames: Readonly<Partial<Record<string, string>>> = {
  ordered_list: 'numbered list',
  list_item: 'item',
  table_row: 'row',
  code_block: 'code',
  definition: 'term',
  placement: 'placed',
};

/**
 * The blocks of a body as rows, those that are folded without what is in them.
 * @param titleOf what a component is called
 */
export function structureRows(
  doc: Node,
  folded: ReadonlySet<string>,
  titleOf: (component: string) => string,
): readonly StructureRow[] {
  const rows: StructureRow[] = [];
  const visit = (parent: Node, start: number, level: number, way: string, around: readonly string[]): void => {
    parent.forEach((node, offset, index) => {
      if (node.isInline) return;
      const position = start + offset;
      const isText = node.type.name === 'paragraph' && index === 0 && holders.has(parent.type.name);
      const inner = position + 1;
      if (silent.has(node.type.name) || isText) {
        if (!node.isTextblock) visit(node, inner, level, `${way}${index}.`, around);
        return;
      }
      const id: unknown = node.attrs['id'];
      const name = typeof id === 'string' ? id : `${way}${index}`;
      const when = conditionOn(node);
      const before = rows.length;
      rows.push({
        position,
        size: node.nodeSize,
        name,
        level,
        type: node.type.name,
        kind: kindOf(node),
        text: textOf(node, titleOf),
        when,
        around,
        hasBelow: false,
      });
      if (!node.isTextblock && !node.isLeaf)
        visit(node, inner, level + 1, `${way}${index}.`, when === null ? around : [...around, when]);
      const row = rows[before];
      if (row && rows.length > before + 1) {
        rows[before] = { ...row, hasBelow: true };
        if (folded.has(name)) rows.length = before + 1;
      }
    });
  };
  visit(doc, 0, 1, '', []);
  return rows;
}

function kindOf(node: Node): string {
  if (node.type.name === 'admonition') return String(node.attrs['kind']);
  if (node.type.name === 'branch') return node.attrs['when'] === null ? 'otherwise' : 'branch';
  return kindNames[node.type.name] ?? kindName(node.type.name);
}

/** The first words in a block; of what is placed, the title. */
function textOf(node: Node, titleOf: (component: string) => string): string {
  const component: unknown = node.attrs['component'];
  if (typeof component === 'string' && component !== '') return titleOf(component);
  if (node.type.name === 'display_formula') return String(node.attrs['source']);
  const words = (block: Node): string =>
    block
      .textBetween(0, block.content.size, ' ', (leaf) => {
        const named: unknown = leaf.attrs['key'] ?? leaf.attrs['component'];
        return typeof named === 'string' && leaf.type.name !== 'cross_reference' ? titleOf(named) : '';
      })
      .trim();
  let text = node.isTextblock ? words(node) : '';
  let picture = '';
  node.descendants((each) => {
    if (text === '' && each.isTextblock) text = words(each);
    const shown: unknown = each.type.name === 'picture' ? each.attrs['component'] : null;
    if (picture === '' && typeof shown === 'string') picture = titleOf(shown);
    return text === '' && !each.isTextblock;
  });
  text ||= picture;
  return text.length > longest ? `${text.slice(0, longest)}…` : text;
}

export type DropAt = 'before' | 'behind' | 'into';

/** Moves a block before, behind or to the end of another one; what may not stand there by itself gets around it what it needs. */
export function moveTo(from: number, target: number, place: DropAt): Command {
  return (state, dispatch) => {
    const [node, other] = [state.doc.nodeAt(from), state.doc.nodeAt(target)];
    if (!node || !other) return false;
    const to = place === 'before' ? target : place === 'behind' ? target + other.nodeSize : target + other.nodeSize - 1;
    if (to >= from && to <= from + node.nodeSize) return false;
    const $to = state.doc.resolve(to);
    const index = $to.index();
    // A title stays first, and a caption where it is.
    const match = $to.parent.contentMatchAt(index);
    const around = match.findWrapping(node.type);
    if (!around) return false;
    const wrapped = [...around].reverse().reduce<Node>((inner, type) => type.create(null, inner), node);
    if (!$to.parent.canReplaceWith(index, index, wrapped.type)) return false;
    const $from = state.doc.resolve(from);
    const own = $from.index();
    const { tr } = state;
    if ($from.parent.canReplace(own, own + 1)) tr.delete(from, from + node.nodeSize);
    else {
      // What held nothing else goes as well, such as a list with its only item.
      const depth = emptiedDepth(state.doc, from);
      if (depth === null || (to > $from.before(depth) && to < $from.after(depth))) return false;
      tr.delete($from.before(depth), $from.after(depth));
    }
    const at = tr.mapping.map(to);
    if (!dispatch) return true;
    tr.insert(at, wrapped);
    const inner = at + around.length;
    const moved = tr.doc.nodeAt(inner);
    tr.setSelection(
      moved && NodeSelection.isSelectable(moved)
        ? NodeSelection.create(tr.doc, inner)
        : Selection.near(tr.doc.resolve(inner + 1)),
    );
    dispatch(tr.scrollIntoView());
    return true;
  };
}

/** The depth of the outermost node around a block that would hold nothing without it and may go; null: there is none. */
function emptiedDepth(doc: Node, position: number): number | null {
  const $from = doc.resolve(position);
  for (let depth = $from.depth; depth > 0; depth -= 1) {
    if ($from.node(depth).childCount > 1) return null;
    const index = $from.index(depth - 1);
    if ($from.node(depth - 1).canReplace(index, index + 1)) return depth;
  }
  return null;
}
