import { limitsOf } from '@allomorph/core';
import {
  chainCommands,
  deleteSelection,
  joinBackward,
  joinForward,
  selectNodeBackward,
  selectNodeForward,
} from 'prosemirror-commands';
import { NodeSelection, TextSelection, type Command, type EditorState, type Transaction } from 'prosemirror-state';
import { liftItem } from './lift-item';
import { undoRule } from './input-rules';
import { nodeType } from './schema-types';
import { cursorAt, cursorNear, depthOf, isEmptyParagraph, limited } from './places';
import { dissolveSection } from './sections';

/** What Backspace and Delete do at the edges of blocks: nothing is put where nobody looks for it. */

/** Takes away a selected node that its parent cannot be without: the parent goes with it, such as the figure of a picture. */
export const removeWithParent: Command = (state, dispatch) => {
  const { selection } = state;
  if (!(selection instanceof NodeSelection) || selection.node.isInline) return false;
  const { $from } = selection;
  const index = $from.index();
  if ($from.depth === 0 || $from.parent.canReplace(index, index + 1)) return false;
  if ($from.parent.type.name !== 'figure') return false;
  const around = $from.node(-1);
  const at = $from.index(-1);
  const { tr } = state;
  if (around.canReplace(at, at + 1)) tr.delete($from.before(), $from.after());
  else tr.replaceWith($from.before(), $from.after(), nodeType('paragraph').create());
  dispatch?.(tr.scrollIntoView());
  return true;
};

/** At the start of a section's title: the section is none any more; its title becomes text. */
const atSectionTitle: Command = (state, dispatch) => {
  const $cursor = cursorAt(state, 'start');
  if (!$cursor || $cursor.parent.type.name !== 'title' || $cursor.node(-1).type.name !== 'section') return false;
  return dissolveSection($cursor.before(-1))(state, dispatch);
};

/** In an empty caption or title of a block that can be without one: takes it away. */
const atEmptyCaption: Command = (state, dispatch) => {
  const $cursor = cursorAt(state, 'start');
  if (!$cursor || !['caption', 'title'].includes($cursor.parent.type.name)) return false;
  const index = $cursor.index(-1);
  if ($cursor.parent.content.size > 0 || !$cursor.node(-1).canReplace(index, index + 1)) return false;
  if (!dispatch) return true;
  const isFirst = index === 0;
  const tr = state.tr.delete($cursor.before(), $cursor.after());
  dispatch(cursorNear(tr, $cursor.before(), isFirst ? 1 : -1));
  return true;
};

/** At the start of a caption, of a title of a block, or of code with text: nothing runs out of it. */
const atClosedStart: Command = (state, dispatch) => {
  const $cursor = cursorAt(state, 'start');
  if (!$cursor) return false;
  const { parent } = $cursor;
  if (parent.type.name === 'code_block' && parent.content.size === 0) {
    dispatch?.(
      state.tr.setNodeMarkup($cursor.before(), nodeType('paragraph'), {
        id: parent.attrs['id'] as string | null,
        ...limitsOf(parent),
      }),
    );
    return true;
  }
  return parent.type.name === 'caption' || parent.type.name === 'title' || parent.type.name === 'code_block';
};

/** At the start of a term or of a description. */
const inDefinitions: Command = (state, dispatch) => {
  const $cursor = cursorAt(state, 'start');
  if (!$cursor) return false;
  if ($cursor.parent.type.name === 'term') {
    const [definition, list] = [$cursor.depth - 1, $cursor.depth - 2];
    if ($cursor.index(definition) > 0) return joinBackward(state, dispatch);
    if ($cursor.node(definition).textContent !== '') return true;
    // An entry in which nothing is written goes, and with the last one its list.
    if (!dispatch) return true;
    const { tr } = state;
    if ($cursor.node(list).childCount > 1) {
      tr.delete($cursor.before(definition), $cursor.after(definition));
      dispatch(cursorNear(tr, $cursor.before(definition), $cursor.index(list) > 0 ? -1 : 1));
    } else {
      tr.replaceWith($cursor.before(list), $cursor.after(list), nodeType('paragraph').create());
      dispatch(tr.setSelection(TextSelection.create(tr.doc, $cursor.before(list) + 1)).scrollIntoView());
    }
    return true;
  }
  const depth = depthOf($cursor, 'description');
  const isAtStart = depth > 0 && $cursor.pos - ($cursor.depth - depth) === $cursor.start(depth);
  if (!isAtStart) return false;
  // Back to the end of the term; what the description says stays there.
  dispatch?.(cursorNear(state.tr, $cursor.before(depth), -1));
  return true;
};

/** At the start of the first paragraph of what frames its content: the paragraph comes out, and stands above. */
const outOfFrame: Command = (state, dispatch) => {
  const $cursor = cursorAt(state, 'start');
  if ($cursor?.parent.type.name !== 'paragraph') return false;
  const depth = $cursor.depth - 1;
  const frame = $cursor.node(depth);
  if (!['admonition', 'quotation', 'example', 'footnote', 'copied'].includes(frame.type.name)) return false;
  if ($cursor.index(depth) !== 0) return false;
  if (!dispatch) return true;
  const { tr } = state;
  const place = $cursor.before(depth);
  const paragraph = limited($cursor.parent, limitsOf(frame));
  if (frame.childCount === 1) tr.replaceWith(place, $cursor.after(depth), paragraph);
  else {
    tr.delete($cursor.before(), $cursor.after());
    tr.insert(place, paragraph);
  }
  dispatch(tr.setSelection(TextSelection.create(tr.doc, place + 1)).scrollIntoView());
  return true;
};

/** After what is closed in itself: an empty paragraph goes, and the cursor goes into what stands before. */
const intoClosed: Command = (state, dispatch) => {
  const $cursor = cursorAt(state, 'start');
  if (!$cursor || !isEmptyParagraph($cursor.parent)) return false;
  const before = state.doc.resolve($cursor.before()).nodeBefore;
  if (!before || !['table', 'choice', 'definition_list'].includes(before.type.name)) return false;
  const index = $cursor.index(-1);
  if (!$cursor.node(-1).canReplace(index, index + 1)) return false;
  dispatch?.(cursorNear(state.tr.delete($cursor.before(), $cursor.after()), $cursor.before(), -1));
  return true;
};

/** What no text runs into: keys select it first. */
const closed: ReadonlySet<string> = new Set([
  'table',
  'choice',
  'definition_list',
  'figure',
  'media',
  'placement',
  'slot',
  'display_formula',
]);

/** At the start of a block behind one that is closed in itself, with text: the block before is selected, and nothing moves. */
const selectClosed: Command = (state, dispatch) => {
  const $cursor = cursorAt(state, 'start');
  if (!$cursor) return false;
  const before = state.doc.resolve($cursor.before()).nodeBefore;
  if (!before || !closed.has(before.type.name)) return false;
  dispatch?.(
    state.tr.setSelection(NodeSelection.create(state.doc, $cursor.before() - before.nodeSize)).scrollIntoView(),
  );
  return true;
};

/** Deletes what is selected. A section of whose title the end is left goes on as text: there is no section without its title. */
export const removeSelected: Command = (state, dispatch) => {
  const { selection } = state;
  const { $from, $to } = selection;
  if (selection.empty) return false;
  if (selection instanceof NodeSelection || $from.sameParent($to) || $from.depth === 0)
    return deleteSelection(state, dispatch);
  const tr = joined(state) ?? unjoined(state);
  const isInTitle = $to.parent.type.name === 'title' && $to.depth > 1 && $to.node(-1).type.name === 'section';
  if (isInTitle && $from.sharedDepth($to.pos) < $to.depth - 1 && tr.selection.$from.depth > 0) dissolveUntitled(tr);
  dispatch?.(tr.scrollIntoView());
  return true;
};

/** A transaction after which nothing is selected that reaches across blocks: to go on with. */
export function withoutSelected(state: EditorState): Transaction {
  let { tr } = state;
  if (state.selection instanceof TextSelection && !state.selection.$from.sameParent(state.selection.$to))
    removeSelected(state, (removed) => (tr = removed));
  return tr;
}

/** What is selected taken out, and what is left of the first and the last block put together; null: they do not go together. */
function joined(state: EditorState): Transaction | null {
  try {
    const tr = state.tr.deleteSelection();
    tr.doc.check();
    return tr;
  } catch {
    // Blocks of kinds that hold different things.
    return null;
  }
}

/** The selected words taken out of every block, and the blocks that were selected whole; the first and the last stay apart. */
function unjoined(state: EditorState): Transaction {
  const { tr } = state;
  const { from, to } = state.selection;
  const texts: { readonly from: number; readonly to: number }[] = [];
  state.doc.nodesBetween(from, to, (node, position) => {
    if (!node.isTextblock) return true;
    texts.push({ from: Math.max(from, position + 1), to: Math.min(to, position + 1 + node.content.size) });
    return false;
  });
  for (const text of [...texts].reverse()) {
    if (text.from < text.to) tr.delete(text.from, text.to);
    const $left = tr.doc.resolve(text.from);
    const isBetween = text.from > from && text.to < to;
    if (isBetween && $left.depth > 0 && $left.parent.content.size === 0) {
      const index = $left.index(-1);
      if ($left.node(-1).canReplace(index, index + 1)) tr.delete($left.before(), $left.after());
    }
  }
  return tr.setSelection(TextSelection.near(tr.doc.resolve(from)));
}

function dissolveUntitled(tr: Transaction): void {
  const { pos } = tr.selection.$from;
  const behind = tr.selection.$from.after();
  const section = tr.doc.nodeAt(behind);
  if (section?.type.name !== 'section' || section.child(0).content.size > 0) return;
  const rest = section.children.slice(1).map((child) => limited(child, limitsOf(section)));
  tr.replaceWith(behind, behind + section.nodeSize, rest);
  tr.setSelection(TextSelection.create(tr.doc, pos));
}

/** At the start of the first item of a list: it comes out of the list. */
const outOfList: Command = (state, dispatch) => {
  const $cursor = cursorAt(state, 'start');
  if (!$cursor || $cursor.depth < 3 || $cursor.index(-1) > 0 || $cursor.index(-2) > 0) return false;
  const { type } = $cursor.node(-1);
  return ['list_item', 'step'].includes(type.name) && liftItem(type)(state, dispatch);
};

export const backspace: Command = chainCommands(
  undoRule,
  removeWithParent,
  removeSelected,
  atSectionTitle,
  atEmptyCaption,
  atClosedStart,
  inDefinitions,
  outOfFrame,
  intoClosed,
  selectClosed,
  outOfList,
  joinBackward,
  selectNodeBackward,
);

/** At the end of the text before a section: the section becomes text, and its title goes on here. */
const beforeSection: Command = (state, dispatch) => {
  const $cursor = cursorAt(state, 'end');
  if (!$cursor || $cursor.parent.type.name === 'title') return false;
  const after = state.doc.resolve($cursor.after()).nodeAfter;
  if (after?.type.name !== 'section') return false;
  return dissolveSection($cursor.after())(state, dispatch);
};

/** At the end of what nothing may run into: a term, a caption, the last text of a description or of code. */
const atClosedEnd: Command = (state) => {
  const $cursor = cursorAt(state, 'end');
  if (!$cursor) return false;
  const { parent } = $cursor;
  if (parent.type.name === 'caption') return true;
  if (parent.type.name === 'term') return $cursor.node(-1).child($cursor.indexAfter(-1)).type.name === 'description';
  const depth = depthOf($cursor, 'description');
  if (depth > 0 && $cursor.pos + ($cursor.depth - depth) === $cursor.end(depth)) return true;
  return parent.type.name === 'code_block' && parent.content.size > 0;
};

/** At the end of a block before one that is closed in itself: that is selected; an empty paragraph goes. */
const selectClosedAfter: Command = (state, dispatch) => {
  const $cursor = cursorAt(state, 'end');
  if (!$cursor) return false;
  const { nodeAfter } = state.doc.resolve($cursor.after());
  if (!nodeAfter || !closed.has(nodeAfter.type.name)) return false;
  const index = $cursor.index(-1);
  const { tr } = state;
  if (isEmptyParagraph($cursor.parent) && $cursor.node(-1).canReplace(index, index + 1))
    tr.delete($cursor.before(), $cursor.after());
  const place = tr.mapping.map($cursor.after());
  dispatch?.(tr.setSelection(NodeSelection.create(tr.doc, place)).scrollIntoView());
  return true;
};

export const forwardDelete: Command = chainCommands(
  removeWithParent,
  removeSelected,
  atClosedEnd,
  beforeSection,
  selectClosedAfter,
  joinForward,
  selectNodeForward,
);
