import { chainCommands } from 'prosemirror-commands';
import { sinkListItem } from 'prosemirror-schema-list';
import { AllSelection, Selection, TextSelection, type Command } from 'prosemirror-state';
import { addRowAfter, goToNextCell, isInTable } from 'prosemirror-tables';
import { moveBlock } from './commands';
import { cursorNear, depthOf } from './places';
import { liftItem } from './lift-item';
import { nodeType } from './schema-types';
import { demoteSection, promoteSection } from './sections';

/** What Tab and the keys for moving do: deeper and higher, on to the next place, up and down. */

const items = ['list_item', 'step'] as const;
const step = '  ';

/** In code: the lines of the selection two signs to the right, or to the left. */
function shiftCode(outward: boolean): Command {
  return (state, dispatch) => {
    const { $from, $to, from, to, empty } = state.selection;
    if (!$from.parent.type.spec.code || !$from.sameParent($to)) return false;
    if (!dispatch) return true;
    const { tr } = state;
    if (empty && !outward) {
      dispatch(tr.insertText(step).scrollIntoView());
      return true;
    }
    const start = $from.start();
    const text = $from.parent.textBetween(0, $from.parent.content.size, '\n', '\ufffc');
    const first = text.lastIndexOf('\n', from - start - 1) + 1;
    const starts = [first];
    for (let at = first; at < to - start; at += 1) if (text[at] === '\n' && at + 1 < to - start) starts.push(at + 1);
    for (const at of starts.reverse()) {
      if (!outward) tr.insertText(step, start + at);
      else {
        const room = /^ {0,2}/.exec(text.slice(at))?.[0].length ?? 0;
        if (room > 0) tr.delete(start + at, start + at + room);
      }
    }
    dispatch(tr.scrollIntoView());
    return true;
  };
}

/** From the last cell of a table into a new row. */
const newRow: Command = (state, dispatch) => {
  if (!isInTable(state)) return false;
  if (!dispatch) return true;
  let added = state;
  addRowAfter(state, (tr) => {
    added = state.apply(tr);
    const grid = depthOf(state.selection.$from, 'table_grid');
    const row = state.selection.$from.after(grid + 1);
    dispatch(cursorNear(tr, row + 1));
  });
  return added !== state;
};

/** Between the terms and descriptions of a definition list. */
function alongDefinitions(by: 1 | -1): Command {
  return (state, dispatch) => {
    const { $from } = state.selection;
    const depth = depthOf($from, 'term', 'description');
    // Lists and tables in a description come first.
    if (depth < 0 || depthOf($from, ...items, 'table_grid') > depth) return false;
    const at = by > 0 ? $from.after(depth) : $from.before(depth);
    const found = Selection.findFrom(state.doc.resolve(at), by, true);
    const list = depth - 2;
    if (!found || found.from < $from.start(list) || found.to > $from.end(list)) return true;
    dispatch?.(state.tr.setSelection(found).scrollIntoView());
    return true;
  };
}

/** In the title of a section: the section with all that is in it. */
function whereTitle(command: Command): Command {
  return (state, dispatch) => {
    const { $from } = state.selection;
    const isTitle = $from.parent.type.name === 'title' && $from.node(-1).type.name === 'section';
    return isTitle && command(state, dispatch);
  };
}

const eachItem = (make: (type: ReturnType<typeof nodeType>) => Command): Command =>
  chainCommands(...items.map((name) => make(nodeType(name))));

/** Keeps Tab on the page where no command had a use for it. */
const stay: Command = () => true;

export const indent: Command = chainCommands(
  shiftCode(false),
  whereTitle(demoteSection),
  goToNextCell(1),
  newRow,
  alongDefinitions(1),
  eachItem(sinkListItem),
  stay,
);

export const outdent: Command = chainCommands(
  shiftCode(true),
  whereTitle(promoteSection),
  goToNextCell(-1),
  alongDefinitions(-1),
  eachItem(liftItem),
  stay,
);

/** What stands for itself when it is moved: not the text of an item or of a cell, but the item, or the row. */
const carriers: Readonly<Partial<Record<string, string>>> = {
  list_item: 'list_item',
  step: 'step',
  table_cell: 'table_row',
  table_header: 'table_row',
  term: 'definition',
  description: 'definition',
};

/** Moves what the cursor stands in among its neighbours. */
export function moveAtCursor(by: 1 | -1): Command {
  return (state, dispatch) => {
    const { selection } = state;
    const { $from } = selection;
    if (!(selection instanceof TextSelection)) return moveBlock(selection.from, by)(state, dispatch) || true;
    let depth = $from.depth;
    const holder = $from.depth > 0 ? $from.node(-1).type.name : '';
    if (['title', 'caption'].includes($from.parent.type.name)) depth -= 1;
    else if ($from.parent.type.name === 'term') depth -= 1;
    else if (carriers[holder] !== undefined && $from.index(-1) === 0) depth = depthOf($from, carriers[holder] ?? '');
    if (depth <= 0) return true;
    const from = $from.before(depth);
    const offset = $from.pos - from;
    moveBlock(from, by)(state, (moved) => {
      const node = state.doc.nodeAt(from);
      if (!node || !dispatch) return;
      // The cursor stays in the text that it stood in.
      const sibling = by < 0 ? state.doc.resolve(from).nodeBefore : state.doc.resolve(from + node.nodeSize).nodeAfter;
      const to = by < 0 ? from - (sibling?.nodeSize ?? 0) : from + (sibling?.nodeSize ?? 0);
      moved.setSelection(TextSelection.near(moved.doc.resolve(Math.min(to + offset, moved.doc.content.size))));
      dispatch(moved.scrollIntoView());
    });
    return true;
  };
}

/** Where everything is selected, an arrow leads to one end of the text. */
export function leaveAll(end: 'start' | 'end'): Command {
  return (state, dispatch) => {
    if (!(state.selection instanceof AllSelection)) return false;
    const selection = end === 'start' ? Selection.atStart(state.doc) : Selection.atEnd(state.doc);
    dispatch?.(state.tr.setSelection(selection).scrollIntoView());
    return true;
  };
}
