import { limitsOf, type Limits } from '@allomorph/core';
import { Fragment, type Node, type NodeRange, type ResolvedPos } from 'prosemirror-model';
import { NodeSelection, TextSelection, type Command, type EditorState, type Transaction } from 'prosemirror-state';
import { limited, titleOf } from './places';
import { nodeType } from './schema-types';

/**
 * What blocks can be turned into. Words, ids and conditions stay: where a block goes that had a condition, what it held has it now.
 */
export const blockKinds = [
  { name: 'paragraph', title: 'Paragraph' },
  { name: 'section', title: 'Section title' },
  { name: 'bullet_list', title: 'Bullet list' },
  { name: 'ordered_list', title: 'Numbered list' },
  { name: 'steps', title: 'Steps' },
  { name: 'note', title: 'Note' },
  { name: 'tip', title: 'Tip' },
  { name: 'important', title: 'Important' },
  { name: 'notice', title: 'Notice' },
  { name: 'caution', title: 'Caution' },
  { name: 'warning', title: 'Warning' },
  { name: 'danger', title: 'Danger' },
  { name: 'quotation', title: 'Quotation' },
  { name: 'example', title: 'Example' },
  { name: 'code_block', title: 'Code' },
] as const;
export type BlockKind = (typeof blockKinds)[number]['name'];

const unlimited: Limits = { when: null, stamp: null };
const lists = ['bullet_list', 'ordered_list', 'steps'] as const;
const frames = ['admonition', 'quotation', 'example'] as const;
const isList = (name: string): boolean => lists.some((list) => list === name);
const isFrame = (name: string): boolean => frames.some((frame) => frame === name);

/** What the block at the cursor is: the nearest list or frame around it, else itself; null for what is turned into nothing. */
export function kindAtCursor({ selection }: EditorState): BlockKind | null {
  const node = nodeAt(selection);
  if (!node) return null;
  if (node.type.name === 'admonition') return node.attrs['kind'] as BlockKind;
  if (node.type.name === 'title') return 'section';
  return blockKinds.find(({ name }) => name === node.type.name)?.name ?? null;
}

function nodeAt(selection: EditorState['selection']): Node | null {
  if (selection instanceof NodeSelection) return selection.node;
  const { $from } = selection;
  const depth = turnedDepth($from);
  return depth < 0 ? null : $from.node(depth);
}

/** The depth of what is turned: a list or a frame where the cursor is directly in it, else the text block. */
function turnedDepth($from: ResolvedPos): number {
  if ($from.parent.type.name === 'title') return $from.node(-1).type.name === 'section' ? $from.depth : -1;
  if (['caption', 'term'].includes($from.parent.type.name)) return -1;
  const holder = $from.depth > 1 ? $from.node(-1).type.name : '';
  if (holder === 'list_item' || holder === 'step') return $from.depth - 2;
  return isFrame(holder) ? $from.depth - 1 : $from.depth;
}

/** A block without what frames it: the blocks that it holds, with its condition on each. */
function bare(block: Node): readonly Node[] {
  const own = limitsOf(block);
  const within = (node: Node): Node => limited(node, own);
  if (isList(block.type.name))
    return block.children.flatMap((item) => item.children.map((child) => within(limited(child, limitsOf(item)))));
  if (isFrame(block.type.name))
    return block.children.map((child) =>
      within(child.type.name === 'title' ? nodeType('paragraph').create(null, child.content) : child),
    );
  return [block];
}

/** The blocks that are turned: those that a selection reaches across, or the one at the cursor. */
export function turned(state: EditorState): {
  readonly blocks: readonly Node[];
  readonly from: number;
  readonly to: number;
  readonly parent: Node;
  readonly index: number;
} | null {
  const { selection } = state;
  const { $from, $to } = selection;
  if (selection instanceof NodeSelection) {
    return selection.node.isInline
      ? null
      : {
          blocks: [selection.node],
          from: selection.from,
          to: selection.to,
          parent: $from.parent,
          index: $from.index(),
        };
  }
  const depth = turnedDepth($from);
  if (depth < 1) return null;
  const range: NodeRange | null = $from.pos + 1 < $to.pos && !$from.sameParent($to) ? $from.blockRange($to) : null;
  const isWide = range && range.depth < depth && range.endIndex - range.startIndex > 1;
  if (range && isWide && !isList(range.parent.type.name) && !['list_item', 'step'].includes(range.parent.type.name)) {
    const blocks = range.parent.children.slice(range.startIndex, range.endIndex);
    if (blocks.some(({ type }) => type.name === 'title' || type.name === 'section')) return null;
    return { blocks, from: range.start, to: range.end, parent: range.parent, index: range.startIndex };
  }
  return {
    blocks: [$from.node(depth)],
    from: $from.before(depth),
    to: $from.after(depth),
    parent: $from.node(depth - 1),
    index: $from.index(depth - 1),
  };
}

/** The blocks of a kind that some blocks become; null where they cannot. */
function made(kind: BlockKind, blocks: readonly Node[]): readonly Node[] | null {
  const [only] = blocks;
  const id = blocks.length === 1 ? (only?.attrs['id'] as string | null | undefined) : null;
  const keeps = { id: id ?? null, ...(only && blocks.length === 1 ? limitsOf(only) : unlimited) };
  if (kind === 'paragraph') {
    return blocks.flatMap((block) =>
      block.type.name === 'code_block' ? [nodeType('paragraph').create(keeps, block.content)] : bare(block),
    );
  }
  if (kind === 'code_block') {
    const content = blocks.flatMap(bare).filter((block) => block.isTextblock);
    if (content.length === 0) return null;
    const lines = content.reduce(
      (all, { content: line }, at) =>
        at === 0 ? line : all.append(Fragment.from(nodeType('code_block').schema.text('\n'))).append(line),
      Fragment.empty,
    );
    return [nodeType('code_block').create(keeps, lines)];
  }
  if (isList(kind)) {
    const itemType = nodeType(kind === 'steps' ? 'step' : 'list_item');
    const items = blocks.flatMap((block): readonly Node[] => {
      if (isList(block.type.name)) {
        // Of one list the condition stays on the list.
        const own = blocks.length === 1 ? unlimited : limitsOf(block);
        return block.children.map((item) => limited(itemType.create(item.attrs, item.content), own));
      }
      const one = blocks.length === 1;
      return bare(one ? withoutOwn(block) : block).map((child) => {
        return itemType.create({ ...limitsOf(child) }, withoutLimit(child));
      });
    });
    return items.length === 0 ? null : [nodeType(kind).create(keeps, items)];
  }
  const frame = isFrame(kind) ? nodeType(kind) : nodeType('admonition');
  const attrs = isFrame(kind) ? keeps : { ...keeps, kind };
  if (only && blocks.length === 1 && isFrame(only.type.name)) {
    const content = frame.validContent(only.content) ? only.content : Fragment.from(bare(withoutOwn(only)));
    return [frame.create(attrs, content)];
  }
  return [
    frame.create(
      attrs,
      blocks.map((block) => (blocks.length === 1 ? withoutOwn(block) : block)),
    ),
  ];
}

/** A block without its id and condition, which go to what is around it now. */
function withoutOwn(block: Node): Node {
  return block.type.create({ ...block.attrs, id: null, ...unlimited }, block.content, block.marks);
}

function withoutLimit(block: Node): Node {
  return block.type.create({ ...block.attrs, ...unlimited }, block.content, block.marks);
}

/** Turns the blocks at the selection into another kind. */
export function turnInto(kind: BlockKind): Command {
  return (state, dispatch) => {
    const section = sectionToTurn(state);
    if (kind === 'section') return section === null && intoSection(state, dispatch);
    if (section !== null) return fromSection(kind, section, state, dispatch);
    const found = turned(state);
    if (!found) return false;
    const blocks = made(kind, found.blocks);
    if (!blocks) return false;
    const content = Fragment.from(blocks);
    if (!found.parent.canReplace(found.index, found.index + found.blocks.length, content)) return false;
    if (!dispatch) return true;
    const { tr } = state;
    const words = state.doc.textBetween(found.from, state.selection.from, '\n', '\ufffc').length;
    tr.replaceWith(found.from, found.to, content);
    dispatch(cursorAtWords(tr, found.from, content.size, words));
    return true;
  };
}

/** Puts the cursor behind as many words of some content as stood before it. */
function cursorAtWords(tr: Transaction, from: number, size: number, words: number): Transaction {
  let left = words;
  let found = TextSelection.near(tr.doc.resolve(from + 1)).from;
  let isFirst = true;
  tr.doc.nodesBetween(from, from + size, (node, position) => {
    if (!node.isTextblock) return left >= 0;
    if (!isFirst) left -= 1;
    isFirst = false;
    if (left >= 0 && left <= node.content.size) found = position + 1 + left;
    left -= node.content.size;
    return false;
  });
  return tr.setSelection(TextSelection.near(tr.doc.resolve(found))).scrollIntoView();
}

/** The paragraph at the cursor becomes the title of a section; what follows comes under it. */
function intoSection(state: EditorState, dispatch?: Parameters<Command>[1]): boolean {
  const { $from } = state.selection;
  const depth = $from.depth;
  if (depth < 1 || $from.parent.type.name !== 'paragraph') return false;
  const parent = $from.node(depth - 1);
  if (!['topic', 'fragment', 'section'].includes(parent.type.name)) return false;
  if (!dispatch) return true;
  const below: Node[] = [];
  let end = $from.after(depth);
  for (
    let at = $from.index(depth - 1) + 1;
    at < parent.childCount && parent.child(at).type.name !== 'section';
    at += 1
  ) {
    below.push(parent.child(at));
    end += parent.child(at).nodeSize;
  }
  const section = nodeType('section').create({ id: $from.parent.attrs['id'] as string | null }, [
    titleOf($from.parent),
    ...(below.length > 0 ? below : [nodeType('paragraph').create()]),
  ]);
  const start = $from.before(depth);
  const tr = state.tr.replaceWith(start, end, section);
  dispatch(tr.setSelection(TextSelection.create(tr.doc, start + 2 + $from.parentOffset)).scrollIntoView());
  return true;
}

/** The section that is selected, or in whose title the cursor stands: where it begins; null: there is none. */
function sectionToTurn({ selection }: EditorState): number | null {
  const { $from } = selection;
  if (selection instanceof NodeSelection) return selection.node.type.name === 'section' ? selection.from : null;
  return $from.parent.type.name === 'title' && $from.node(-1).type.name === 'section' ? $from.before(-1) : null;
}

/** A section becomes its blocks; its title a paragraph, or what the paragraph is turned into. */
function fromSection(
  kind: BlockKind,
  position: number,
  state: EditorState,
  dispatch?: Parameters<Command>[1],
): boolean {
  const section = state.doc.nodeAt(position);
  if (!section) return false;
  const own = limitsOf(section);
  const heading = nodeType('paragraph').create(
    { id: section.attrs['id'] as string | null, ...own },
    section.child(0).content,
  );
  const first = made(kind, [heading]) ?? [heading];
  const content = Fragment.from([...first, ...section.children.slice(1).map((child) => limited(child, own))]);
  const $at = state.doc.resolve(position);
  const index = $at.index();
  if (!$at.parent.canReplace(index, index + 1, content)) return false;
  if (!dispatch) return true;
  const words = state.selection instanceof NodeSelection ? 0 : state.selection.$from.parentOffset;
  const tr = state.tr.replaceWith(position, position + section.nodeSize, content);
  dispatch(cursorAtWords(tr, position, content.size, words));
  return true;
}
