import { contentSchema } from '@allomorph/core';
import type { Attrs, Node, NodeType, ResolvedPos } from 'prosemirror-model';
import { wrapInList } from 'prosemirror-schema-list';
import { NodeSelection, Selection, type Command, type EditorState, type Transaction } from 'prosemirror-state';
import { findWrapping } from 'prosemirror-transform';
import { withoutSelected } from './remove-keys';
import { insertFootnote } from './footnotes';
import { markType, nodeType } from './schema-types';
import { sectionHere } from './sections';
import { emptyTable } from './tables';
import { makeChoice } from './choices';
import { turnInto } from './turn-into';

const text = (content: string): Node | undefined => (content === '' ? undefined : contentSchema.text(content));
const paragraph = (content = ''): Node => nodeType('paragraph').create(null, text(content));

/** One thing of structure that the insert menu offers. */
export interface Structure {
  readonly title: string;
  readonly words: string;
  /** In a line: what it is for. */
  readonly purpose: string;
  readonly command: Command;
  /** What comes in a size of its own. */
  readonly sized?: (rows: number, columns: number) => Command;
}

/** The four of hazards by the severity of what may happen, as in ANSI Z535.6 (2011), section 3 (from memory). */
const admonitionPurposes = {
  note: 'worth knowing besides',
  tip: 'makes the work easier',
  important: 'must not be overlooked',
  notice: 'what may be damaged, without danger to people',
  caution: 'may lead to minor injury',
  warning: 'could lead to death or serious injury',
  danger: 'will lead to death or serious injury',
} as const;

/** Everything of structure that can be inserted or made of the block at the cursor. */
export const structures: readonly Structure[] = [
  {
    title: 'Section',
    words: 'heading title part',
    purpose: 'a part with a title, with more parts in it',
    command: sectionHere,
  },
  {
    title: 'Bullet list',
    words: 'points items',
    purpose: 'points in no order',
    command: wrapInList(nodeType('bullet_list')),
  },
  {
    title: 'Numbered list',
    words: 'ordered items',
    purpose: 'points in an order, or cited by number',
    command: wrapInList(nodeType('ordered_list')),
  },
  {
    title: 'Steps',
    words: 'procedure instructions numbered',
    purpose: 'what the reader does, one act each',
    command: wrapInList(nodeType('steps')),
  },
  {
    title: 'Definition list',
    words: 'terms glossary',
    purpose: 'terms with what they mean; the glossary takes them',
    command: insertBlock(() => definitionList()),
  },
  {
    title: 'Table',
    words: 'grid rows columns',
    purpose: 'what is compared, in rows and columns',
    command: insertBlock(() => emptyTable(3, 3)),
    sized: (rows, columns) => insertBlock(() => emptyTable(rows, columns)),
  },
  ...(['note', 'tip', 'important', 'notice', 'caution', 'warning', 'danger'] as const).map((kind) => ({
    title: kind.charAt(0).toUpperCase() + kind.slice(1),
    words: 'admonition hazard safety advice',
    purpose: admonitionPurposes[kind],
    command: wrapBlock(nodeType('admonition'), { kind }),
  })),
  {
    title: 'Code block',
    words: 'listing program output',
    purpose: 'text as a machine reads or writes it',
    command: turnInto('code_block'),
  },
  {
    title: 'Quotation',
    words: 'quote citation',
    purpose: 'words of somebody else',
    command: wrapBlock(nodeType('quotation')),
  },
  { title: 'Example', words: 'sample', purpose: 'one case, shown', command: wrapBlock(nodeType('example')) },
  {
    title: 'Choice',
    words: 'branches variants alternatives otherwise',
    purpose: 'one of several texts, by variant',
    command: makeChoice,
  },
  {
    title: 'Video or audio',
    words: 'recording film sound media transcript poster',
    purpose: 'a recording, of a file or at an address, with its transcript',
    command: insertBlock(() => nodeType('media').create(null, paragraph())),
  },
  {
    title: 'Slot',
    words: 'collection tips rotate snippets tags',
    purpose: 'a snippet of a collection, chosen by rule',
    command: insertBlock(() => nodeType('slot').create()),
  },
  {
    title: 'Formula in the line',
    words: 'equation mathematics tex inline',
    purpose: 'mathematics within a sentence',
    command: insertFormula,
  },
  {
    title: 'Formula',
    words: 'equation mathematics tex display',
    purpose: 'mathematics on a line of its own',
    command: insertBlock(() => nodeType('display_formula').create({ source: '' })),
  },
  {
    title: 'Footnote',
    words: 'note reference foot',
    purpose: 'what would hold up the reader here',
    command: insertFootnote,
  },
  {
    title: 'Index marker',
    words: 'register keyword see also',
    purpose: 'leads here from the index',
    command: insertMarker,
  },
  { title: 'Paragraph', words: 'text plain', purpose: 'plain text', command: turnInto('paragraph') },
];

/** An index marker before the selection, whose words become its heading; it is selected, to be described. */
function insertMarker({ doc, selection, tr }: EditorState, dispatch?: (transaction: Transaction) => void): boolean {
  const { $from, from, to } = selection;
  if (!$from.parent.inlineContent) return false;
  const primary = doc.textBetween(from, to, ' ').trim();
  tr.insert(from, nodeType('index_marker').create({ primary }));
  dispatch?.(tr.setSelection(NodeSelection.create(tr.doc, from)).scrollIntoView());
  return true;
}

/** A formula in place of the selection, selected, to be written in its panel. */
function insertFormula(state: EditorState, dispatch?: (transaction: Transaction) => void): boolean {
  const { $from, from, to } = state.selection;
  const formula = nodeType('formula').create({ source: '' });
  if (
    !$from.sameParent(state.selection.$to) ||
    !$from.parent.canReplaceWith($from.index(), $from.index(), formula.type)
  )
    return false;
  const { tr } = state;
  tr.replaceWith(from, to, formula);
  dispatch?.(tr.setSelection(NodeSelection.create(tr.doc, from)).scrollIntoView());
  return true;
}

function definitionList(): Node {
  const definition = nodeType('definition').create(null, [
    nodeType('term').create(),
    nodeType('description').create(null, paragraph()),
  ]);
  return nodeType('definition_list').create(null, definition);
}

/**
 * Puts a block where the cursor is: in place of an empty paragraph, else behind the block. The cursor
 * goes into it.
 */
export function insertBlock(make: () => Node): Command {
  return (state, dispatch) => {
    const at = placeForBlock(state.selection.$from, make().type);
    if (!at) return false;
    if (dispatch) {
      const node = make();
      const { tr } = state;
      if (at.replace) tr.replaceWith(at.from, at.to, node);
      else tr.insert(at.to, node);
      const start = at.replace ? at.from : at.to;
      if (node.isAtom) tr.setSelection(NodeSelection.create(tr.doc, start));
      else tr.setSelection(Selection.near(tr.doc.resolve(start + 1)));
      dispatch(tr.scrollIntoView());
    }
    return true;
  };
}

function placeForBlock($from: ResolvedPos, type: NodeType): { from: number; to: number; replace: boolean } | null {
  for (let depth = $from.depth; depth > 0; depth -= 1) {
    const parent = $from.node(depth - 1);
    const index = $from.index(depth - 1);
    const block = $from.node(depth);
    const [from, to] = [$from.before(depth), $from.after(depth)];
    const empty = block.type.name === 'paragraph' && block.content.size === 0;
    if (empty && parent.canReplaceWith(index, index + 1, type)) return { from, to, replace: true };
    if (parent.canReplaceWith(index + 1, index + 1, type)) return { from, to, replace: false };
  }
  return null;
}

/** Wraps the blocks of the selection. */
function wrapBlock(type: NodeType, attrs: Attrs | null = null): Command {
  return (state, dispatch) => {
    const { $from, $to } = state.selection;
    const range = $from.blockRange($to);
    const wrapping = range && findWrapping(range, type, attrs);
    if (!range || !wrapping) return insertBlock(() => type.create(attrs, paragraph()))(state, dispatch);
    dispatch?.(state.tr.wrap(range, wrapping).scrollIntoView());
    return true;
  };
}

/** Puts an inline leaf at the cursor, with the marks of the text around it. */
export function insertInline(node: Node): Command {
  return (state, dispatch) => {
    const { $from } = state.selection;
    if (!$from.parent.inlineContent) return false;
    const tr = withoutSelected(state);
    if (!tr.selection.$from.parent.inlineContent) return false;
    dispatch?.(tr.replaceSelectionWith(node, true).scrollIntoView());
    return true;
  };
}

/** The link that the selection stands in, as far as it goes. */
export function linkAt({
  doc,
  selection: { $from, from, to },
}: EditorState): { from: number; to: number; href: string } | null {
  const mark = markType('link');
  let found: { from: number; to: number; href: string } | null = null;
  const start = $from.start();
  let open: { from: number; href: string } | null = null;
  if (!$from.parent.inlineContent) return null;
  doc.nodesBetween(start, $from.end(), (node, position) => {
    if (!node.isInline) return;
    const href = node.marks.find(({ type }) => type === mark)?.attrs['href'] as string | undefined;
    if (href === undefined) {
      open = null;
      return;
    }
    open = open?.href === href ? open : { from: position, href };
    const end = position + node.nodeSize;
    if (open.from <= from && to <= end) found = { from: open.from, to: end, href };
  });
  return found;
}

/**
 * Links the selected words, changes the link that the selection stands in, or takes it away; without words the
 * address itself is put in.
 */
export function putLink(href: string | null): Command {
  return (state, dispatch) => {
    const { from, to, empty, $from } = state.selection;
    const around = linkAt(state);
    if (!$from.parent.inlineContent || (href === null && !around && empty)) return false;
    const range = around && (empty || around.from <= from) ? around : { from, to };
    const { tr } = state;
    if (href !== null && range.from === range.to) {
      tr.insert(from, contentSchema.text(href, [...$from.marks(), markType('link').create({ href })]));
    } else {
      tr.removeMark(range.from, range.to, markType('link'));
      if (href !== null) tr.addMark(range.from, range.to, markType('link').create({ href }));
    }
    dispatch?.(tr.scrollIntoView());
    return true;
  };
}

/** Moves a block among its siblings. */
export function moveBlock(position: number, by: -1 | 1): Command {
  return (state, dispatch) => {
    const $at = state.doc.resolve(position);
    const index = $at.index();
    const { parent } = $at;
    const other = index + by;
    const node = state.doc.nodeAt(position);
    if (!node || other < 0 || other >= parent.childCount) return false;
    const sibling = parent.child(other);
    // A title stays first, and what the parent's rule would not allow is not done.
    if (sibling.type.name === 'title' || sibling.type.name === 'caption' || sibling.type.name === 'term') return false;
    if (dispatch) {
      const to = by < 0 ? position - sibling.nodeSize : position + sibling.nodeSize;
      const tr = state.tr.delete(position, position + node.nodeSize).insert(to, node);
      tr.setSelection(node.isAtom ? NodeSelection.create(tr.doc, to) : Selection.near(tr.doc.resolve(to + 1)));
      dispatch(tr.scrollIntoView());
    }
    return true;
  };
}

/** Takes a block out; a place that needs a block keeps an empty paragraph. */
export function removeBlock(position: number): Command {
  return (state, dispatch) => {
    const node = state.doc.nodeAt(position);
    if (!node) return false;
    if (dispatch) {
      const $at = state.doc.resolve(position);
      const index = $at.index();
      const { tr } = state;
      if ($at.parent.canReplace(index, index + 1)) tr.delete(position, position + node.nodeSize);
      else if ($at.parent.canReplaceWith(index, index + 1, nodeType('paragraph'))) {
        tr.replaceWith(position, position + node.nodeSize, paragraph());
      } else return false;
      dispatch(tr.scrollIntoView());
    }
    return true;
  };
}
