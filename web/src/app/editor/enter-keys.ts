import { Fragment, type Node } from 'prosemirror-model';
import { chainCommands, newlineInCode, splitBlock } from 'prosemirror-commands';
import { splitListItem } from 'prosemirror-schema-list';
import { NodeSelection, Selection, TextSelection, type Command } from 'prosemirror-state';
import { liftItem } from './lift-item';
import { linesByEnter } from './input-rules';
import { withoutSelected } from './remove-keys';
import { nodeType } from './schema-types';
import { cursorAt, cursorIn, cursorNear, depthOf, isEmptyParagraph, isLastIn, placeBehind, writeAt } from './places';

/** What Enter does, block by block: it goes on writing in the way that the place suggests, and twice leaves the place. */

const items = ['list_item', 'step'] as const;

/** On a selected block: goes on behind it. */
const behindSelected: Command = (state, dispatch) => {
  const { selection } = state;
  if (!(selection instanceof NodeSelection) || selection.node.isInline) return false;
  const place = placeBehind(selection.$to, nodeType('paragraph'));
  if (place === null) return true;
  dispatch?.(writeAt(state.tr, place));
  return true;
};

/** In a title: what is behind the cursor becomes the first paragraph; at the start of a section's, room is made above it. */
const inTitle: Command = (state, dispatch) => {
  const { $from, $to } = state.selection;
  if ($from.parent.type.name !== 'title' || !$from.sameParent($to)) return false;
  if (!dispatch) return true;
  const { tr } = state;
  const holder = $from.node(-1);
  const atStart = $to.parentOffset === 0 && $from.parent.content.size > 0;
  if (atStart && holder.type.name === 'section') {
    // Above a section may stand another one: what is written there belongs to its end.
    const above = $from.before(-1);
    const before = tr.doc.resolve(above).nodeBefore;
    const place = before?.type.name === 'section' ? above - 1 : above;
    dispatch(writeAt(tr.insert(place, nodeType('paragraph').create()), place));
    return true;
  }
  const rest = $from.parent.slice($to.parentOffset).content;
  const end = $from.end();
  tr.delete($from.pos, end);
  const place = tr.mapping.map(end) + 1;
  if (rest.size === 0) writeAt(tr, place);
  else {
    tr.insert(place, nodeType('paragraph').create(null, rest));
    tr.setSelection(TextSelection.create(tr.doc, place + 1)).scrollIntoView();
  }
  dispatch(tr);
  return true;
};

/** In a caption: goes on in the table below it, or behind the figure. */
const inCaption: Command = (state, dispatch) => {
  const { $from, $to } = state.selection;
  if ($from.parent.type.name !== 'caption' || !$from.sameParent($to)) return false;
  if (!dispatch) return true;
  const { tr } = state;
  if (isLastIn($from, $from.depth - 1)) dispatch(writeAt(tr, $from.after(-1)));
  else dispatch(cursorNear(tr, $from.after()));
  return true;
};

/** In a term: at its end goes on to what it means; in its midst makes two terms of it. */
const inTerm: Command = (state, dispatch) => {
  const { $from, $to } = state.selection;
  if ($from.parent.type.name !== 'term' || !$from.sameParent($to)) return false;
  if (!dispatch) return true;
  const { tr } = state;
  const definition = $from.node(-1);
  const isEmpty = $from.parent.content.size === 0;
  const lists = $from.depth - 2;
  if (isEmpty && definition.textContent === '' && isLastIn($from, lists)) {
    dispatch(leaveDefinitions(state.tr, $from.before(lists), $from.index(lists)));
    return true;
  }
  if (isEmpty && definition.childCount > 2) {
    tr.delete($from.before(), $from.after());
    dispatch(cursorNear(tr, tr.mapping.map($from.after())));
    return true;
  }
  if ($to.parentOffset === $to.parent.content.size) {
    tr.delete($from.pos, $to.pos);
    dispatch(cursorNear(tr, tr.mapping.map($from.end()) + 1));
    return true;
  }
  return splitBlock(state, dispatch);
};

/** In an empty last paragraph of a description: the next term; where nothing at all was written, behind the list. */
const inDescription: Command = (state, dispatch) => {
  const $cursor = cursorIn(state);
  if (!$cursor || !isEmptyParagraph($cursor.parent)) return false;
  const depth = $cursor.depth - 1;
  if ($cursor.node(depth).type.name !== 'description' || !isLastIn($cursor, depth)) return false;
  if (!dispatch) return true;
  const { tr } = state;
  const [definition, list] = [depth - 1, depth - 2];
  const isBare = $cursor.node(definition).textContent === '';
  if (isBare && isLastIn($cursor, list)) {
    dispatch(leaveDefinitions(tr, $cursor.before(list), $cursor.index(list)));
    return true;
  }
  const next = $cursor.after(definition);
  tr.insert(
    next,
    nodeType('definition').create(null, [
      nodeType('term').create(),
      nodeType('description').create(null, nodeType('paragraph').create()),
    ]),
  );
  tr.setSelection(TextSelection.create(tr.doc, next + 2));
  if ($cursor.node(depth).childCount > 1) tr.delete($cursor.before(), $cursor.after());
  dispatch(tr.scrollIntoView());
  return true;
};

/** Takes the last, empty entry out of a definition list, or the list itself where it is the only one, and goes on behind. */
function leaveDefinitions(tr: Parameters<typeof writeAt>[0], list: number, index: number): typeof tr {
  const node = tr.doc.nodeAt(list);
  if (!node || node.childCount <= 1) {
    tr.replaceWith(list, list + (node?.nodeSize ?? 0), nodeType('paragraph').create());
    return tr.setSelection(TextSelection.create(tr.doc, list + 1)).scrollIntoView();
  }
  const end = list + node.nodeSize;
  tr.delete(end - 1 - node.child(index).nodeSize, end - 1);
  return writeAt(tr, tr.mapping.map(end));
}

/** In an empty last paragraph of a list item: the next item after others, or out of the list where the item is empty. */
const inItem: Command = (state, dispatch) => {
  const $cursor = cursorIn(state);
  if (!$cursor || !isEmptyParagraph($cursor.parent)) return false;
  const depth = $cursor.depth - 1;
  const item = $cursor.node(depth);
  if (!items.some((name) => name === item.type.name) || !isLastIn($cursor, depth)) return false;
  if (item.childCount === 1) return liftItem(item.type)(state, dispatch);
  if (!dispatch) return true;
  const { tr } = state;
  const behind = $cursor.after(depth);
  tr.insert(behind, item.type.create(null, nodeType('paragraph').create()));
  tr.setSelection(TextSelection.create(tr.doc, behind + 2));
  tr.delete($cursor.before(), $cursor.after());
  dispatch(tr.scrollIntoView());
  return true;
};

/** What one leaves by Enter in an empty last paragraph. */
const containers: ReadonlySet<string> = new Set(['admonition', 'quotation', 'example', 'footnote', 'copied', 'media']);

const inContainer: Command = (state, dispatch) => {
  const $cursor = cursorIn(state);
  if (!$cursor || !isEmptyParagraph($cursor.parent)) return false;
  const depth = $cursor.depth - 1;
  const container = $cursor.node(depth);
  if (!containers.has(container.type.name) || !isLastIn($cursor, depth)) return false;
  if (!dispatch) return true;
  const { tr } = state;
  const isOnly = container.textContent === '' && container.childCount <= 2 && !hasLeaves(container);
  if (isOnly) {
    tr.replaceWith($cursor.before(depth), $cursor.after(depth), nodeType('paragraph').create());
    dispatch(tr.setSelection(TextSelection.create(tr.doc, $cursor.before(depth) + 1)).scrollIntoView());
    return true;
  }
  const behind = $cursor.after(depth);
  const keeps = container.childCount === 1 || container.child(container.childCount - 2).type.name === 'title';
  if (!keeps) tr.delete($cursor.before(), $cursor.after());
  dispatch(writeAt(tr, tr.mapping.map(behind)));
  return true;
};

function hasLeaves(node: Node): boolean {
  let found = false;
  node.descendants((each) => {
    if (each.isLeaf && !each.isText) found = true;
    return !found;
  });
  return found;
}

/** In code: a new line; behind two empty lines at the end, out of it. */
const inCode: Command = (state, dispatch) => {
  const $cursor = cursorAt(state, 'end');
  if ($cursor?.parent.type.spec.code && $cursor.parent.textContent.endsWith('\n\n')) {
    const place = $cursor.after();
    if (!dispatch) return true;
    const tr = state.tr.delete($cursor.pos - 2, $cursor.pos);
    dispatch(writeAt(tr, tr.mapping.map(place)));
    return true;
  }
  return newlineInCode(state, dispatch);
};

/** A new item after one that has a condition has none of its own: who goes on writing writes for all. */
const splitItem: Command = chainCommands(...items.map((name) => splitListItem(nodeType(name), {})));

/** In a line alone, such as a phrase, there is nowhere to go on. */
const inLine: Command = (state) => state.doc.inlineContent;

/** Behind a choice: in an empty last paragraph of a branch. */
const inBranch: Command = (state, dispatch) => {
  const $cursor = cursorIn(state);
  if (!$cursor || !isEmptyParagraph($cursor.parent)) return false;
  const depth = $cursor.depth - 1;
  const branch = $cursor.node(depth);
  if (branch.type.name !== 'branch' || !isLastIn($cursor, depth)) return false;
  const [around, index] = [$cursor.node(depth - 2), $cursor.indexAfter(depth - 2)];
  if (!around.canReplaceWith(index, index, nodeType('paragraph'))) return false;
  if (!dispatch) return true;
  const { tr } = state;
  const behind = $cursor.after(depth - 1);
  if (branch.childCount > 1) tr.delete($cursor.before(), $cursor.after());
  const place = tr.mapping.map(behind);
  tr.insert(place, nodeType('paragraph').create());
  dispatch(writeAt(tr, place));
  return true;
};

/** A selection across blocks goes first, then Enter does what it does there. */
const acrossBlocks: Command = (state, dispatch) => {
  const { $from, $to, empty } = state.selection;
  if (empty || $from.sameParent($to) || state.selection instanceof NodeSelection) return false;
  const tr = withoutSelected(state);
  // What is mended after the removal belongs to it.
  const { state: removed, transactions } = state.applyTransaction(tr);
  for (const { steps } of transactions.slice(1)) for (const step of steps) tr.step(step);
  enter(removed, (next) => {
    for (const step of next.steps) tr.step(step);
    tr.setSelection(Selection.fromJSON(tr.doc, next.selection.toJSON() as object));
  });
  dispatch?.(tr.scrollIntoView());
  return true;
};

export const enter: Command = chainCommands(
  inLine,
  acrossBlocks,
  linesByEnter,
  inCode,
  behindSelected,
  inTitle,
  inCaption,
  inTerm,
  inDescription,
  inBranch,
  inItem,
  inContainer,
  splitItem,
  splitBlock,
);

/** Leaves the innermost thing around the cursor that has an end: a new paragraph behind it. */
export const leave: Command = (state, dispatch) => {
  const { $to } = state.selection;
  const depth = depthOf(
    $to,
    'table',
    'figure',
    'admonition',
    'quotation',
    'example',
    'code_block',
    'definition_list',
    'bullet_list',
    'ordered_list',
    'steps',
    'footnote',
    'copied',
    'choice',
    'media',
  );
  if (depth < 1) return false;
  const index = $to.indexAfter(depth - 1);
  if (!$to.node(depth - 1).canReplaceWith(index, index, nodeType('paragraph'))) return false;
  dispatch?.(writeAt(state.tr, $to.after(depth)));
  return true;
};

/** Another term for the same description, below the one at the cursor. */
export const anotherTerm: Command = (state, dispatch) => {
  const depth = depthOf(state.selection.$from, 'term');
  if (depth < 0) return false;
  const place = state.selection.$from.after(depth);
  const tr = state.tr.insert(place, Fragment.from(nodeType('term').create()));
  dispatch?.(tr.setSelection(TextSelection.create(tr.doc, place + 1)).scrollIntoView());
  return true;
};
