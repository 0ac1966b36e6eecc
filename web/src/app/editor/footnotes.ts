import { idsAfter } from '@allomorph/core';
import { TextSelection, type Command } from 'prosemirror-state';
import { contentOf } from './node-json';
import { nodeType } from './schema-types';

/**
 * Calls a new footnote at the cursor, and puts it, to be written, behind the block of its section that the cursor stands in. It
 * has the conditions of neither: both are on what they stand in.
 */
export const insertFootnote: Command = (state, dispatch) => {
  const { $to } = state.selection;
  const callType = nodeType('footnote_reference');
  if (!$to.parent.inlineContent || !$to.parent.canReplaceWith($to.index(), $to.index(), callType)) return false;
  const footnote = nodeType('footnote');
  // Out of tables, lists and frames: behind the block that the section, or the page, has.
  let depth = 1;
  while (depth < $to.depth && $to.node(depth).type.name === 'section') depth += 1;
  const holder = $to.node(depth - 1);
  const index = $to.indexAfter(depth - 1);
  if (!holder.canReplaceWith(index, index, footnote)) return false;
  if (!dispatch) return true;
  const id = idsAfter(contentOf(state.doc))();
  const { tr } = state;
  tr.insert($to.after(depth), footnote.create({ id }, nodeType('paragraph').create()));
  const inside = $to.after(depth) + 2;
  tr.insert($to.pos, callType.create({ target: id }, null, $to.marks()));
  dispatch(
    tr.setSelection(TextSelection.create(tr.doc, inside + callType.create({ target: id }).nodeSize)).scrollIntoView(),
  );
  return true;
};
