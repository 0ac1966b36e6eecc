import { bothLimits, conditionOn, limitsOf, type Limits } from '@allomorph/core';
import { Fragment, type Node, type NodeType, type ResolvedPos } from 'prosemirror-model';
import { Selection, TextSelection, type EditorState, type Transaction } from 'prosemirror-state';
import { markType, nodeType } from './schema-types';

/** Where keys and acts of structure find what they work on. */

/** An empty paragraph. */
export function isEmptyParagraph(node: Node | null | undefined): boolean {
  return node?.type.name === 'paragraph' && node.content.size === 0;
}

/** The depth of the nearest node around a position that has one of the names; -1: there is none. */
export function depthOf($pos: ResolvedPos, ...names: readonly string[]): number {
  for (let depth = $pos.depth; depth >= 0; depth -= 1) if (names.includes($pos.node(depth).type.name)) return depth;
  return -1;
}

/** Whether a position is in the last child of the node at a depth. */
export function isLastIn($pos: ResolvedPos, depth: number): boolean {
  return $pos.index(depth) === $pos.node(depth).childCount - 1;
}

/** What holds one thing that is shown, and no text besides: what is written next goes behind it. */
const shows: ReadonlySet<string> = new Set(['figure', 'media', 'table', 'definition_list']);

/** The nearest place behind a position where a block may stand, out of figures and the like; null: there is none. */
export function placeBehind($pos: ResolvedPos, type: NodeType): number | null {
  let outermost = 0;
  for (let depth = $pos.depth; depth > 0; depth -= 1) if (shows.has($pos.node(depth).type.name)) outermost = depth;
  if (outermost === 0 && $pos.parent.canReplaceWith($pos.index(), $pos.index(), type)) return $pos.pos;
  for (let depth = outermost || $pos.depth; depth > 0; depth -= 1) {
    const index = $pos.indexAfter(depth - 1);
    if ($pos.node(depth - 1).canReplaceWith(index, index, type)) return $pos.after(depth);
  }
  return null;
}

/** The cursor in a text block, which nothing is selected of; null: there is none. */
export function cursorIn({ selection }: EditorState): ResolvedPos | null {
  return selection instanceof TextSelection ? selection.$cursor : null;
}

/** The same where it stands at the very start, or the very end, of its block. */
export function cursorAt(state: EditorState, end: 'start' | 'end'): ResolvedPos | null {
  const $cursor = cursorIn(state);
  if (!$cursor) return null;
  return $cursor.parentOffset === (end === 'start' ? 0 : $cursor.parent.content.size) ? $cursor : null;
}

/** Puts an empty paragraph somewhere and the cursor into it; one that is there already is taken. */
export function writeAt(tr: Transaction, position: number): Transaction {
  if (!isEmptyParagraph(tr.doc.resolve(position).nodeAfter)) tr.insert(position, nodeType('paragraph').create());
  return tr.setSelection(TextSelection.create(tr.doc, position + 1)).scrollIntoView();
}

/** Puts the cursor to the nearest text, looking forward first. */
export function cursorNear(tr: Transaction, position: number, direction: 1 | -1 = 1): Transaction {
  return tr.setSelection(Selection.near(tr.doc.resolve(position), direction)).scrollIntoView();
}

/** A block that is besides limited as what stood around it was: no key and no change of kind lets it into more variants. */
export function limited(node: Node, by: Limits): Node {
  if ((by.when === null && by.stamp === null) || !('when' in node.attrs)) return node;
  const limits = bothLimits(limitsOf(node), by, 'stamp' in node.attrs);
  return node.type.create({ ...node.attrs, ...limits }, node.content, node.marks);
}

/** The title that a paragraph becomes: a condition of the paragraph stays on its words. */
export function titleOf(paragraph: Node): Node {
  const when = conditionOn(paragraph);
  const words =
    when === null
      ? paragraph.content
      : Fragment.from(
          paragraph.children.map((each) => each.mark(markType('condition').create({ when }).addToSet(each.marks))),
        );
  return nodeType('title').create(null, words);
}
