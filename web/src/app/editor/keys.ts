import { contentSchema } from '@allomorph/core';
import type { Node } from 'prosemirror-model';
import {
  NodeSelection,
  Plugin,
  Selection,
  TextSelection,
  type Command,
  type EditorState,
  type Transaction,
} from 'prosemirror-state';
import type { EditorView } from 'prosemirror-view';
import { nodeType } from './commands';

/** What keys do that the packages' own commands do not know of: choices, pictures, and whole nodes that are selected. */

/** Enter in an empty last paragraph of a branch goes on behind the choice. */
export const leaveBranch: Command = (state, dispatch) => {
  const { $from, empty } = state.selection;
  if (!empty || $from.depth < 3 || $from.parent.type.name !== 'paragraph' || $from.parent.content.size > 0)
    return false;
  const branch = $from.node(-1);
  if (branch.type.name !== 'branch' || $from.index(-1) !== branch.childCount - 1) return false;
  const [parent, index] = [$from.node(-3), $from.indexAfter(-3)];
  if (!parent.canReplaceWith(index, index, nodeType('paragraph'))) return false;
  if (!dispatch) return true;
  const { tr } = state;
  const behind = $from.after(-2);
  tr.insert(behind, nodeType('paragraph').create());
  tr.setSelection(TextSelection.create(tr.doc, behind + 1));
  if (branch.childCount > 1) tr.delete($from.before(), $from.after());
  dispatch(tr.scrollIntoView());
  return true;
};

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

/** What is typed on a selected node stands behind it: nothing that is placed goes because a letter was struck. */
export function typedBehind(state: EditorState, text: string): Transaction | null {
  const { selection, tr } = state;
  if (!(selection instanceof NodeSelection)) return null;
  const { node, $to } = selection;
  const words = contentSchema.text(text);
  if (node.isInline) {
    tr.insert($to.pos, words);
    return tr.setSelection(TextSelection.create(tr.doc, $to.pos + words.nodeSize));
  }
  const behind = placeBehind(state, nodeType('paragraph').create(null, words));
  if (!behind) return null;
  tr.insert(behind.position, behind.node);
  return tr.setSelection(TextSelection.create(tr.doc, behind.position + behind.node.nodeSize - 1)).scrollIntoView();
}

/** The nearest place behind the selection where a block may stand. */
function placeBehind({ selection: { $to } }: EditorState, node: Node): { position: number; node: Node } | null {
  if ($to.parent.canReplaceWith($to.index(), $to.index(), node.type)) return { position: $to.pos, node };
  for (let depth = $to.depth; depth > 0; depth -= 1) {
    const index = $to.indexAfter(depth - 1);
    if ($to.node(depth - 1).canReplaceWith(index, index, node.type)) return { position: $to.after(depth), node };
  }
  return null;
}

/**
 * The browser puts the caret into drawn nodes where one clicks beside them; what is typed there goes nowhere. The next key finds
 * the caret behind the node.
 * @returns whether the key was a sign, which stands there now
 */
function leaveLeaf(view: EditorView, { key, ctrlKey, metaKey, altKey }: KeyboardEvent): boolean {
  const caret = view.dom.ownerDocument.getSelection();
  const leaf = caret?.isCollapsed ? outermostLeaf(view.dom, caret.anchorNode) : null;
  if (!leaf?.parentNode || view.state.selection instanceof NodeSelection) return false;
  const behind = view.posAtDOM(leaf.parentNode, [...leaf.parentNode.childNodes].indexOf(leaf) + 1);
  const { tr } = view.state;
  tr.setSelection(Selection.near(tr.doc.resolve(behind)));
  const isSign = key.length === 1 && !ctrlKey && !metaKey && !altKey;
  if (isSign) tr.insertText(key);
  view.dispatch(tr);
  return isSign;
}

/** The outermost node inside the page that cannot be edited and holds another one. */
function outermostLeaf(page: HTMLElement, inside: globalThis.Node | null): HTMLElement | null {
  let found: HTMLElement | null = null;
  for (let node = inside; node && node !== page; node = node.parentNode)
    if (node instanceof HTMLElement && node.contentEditable === 'false') found = node;
  return inside && page.contains(inside) ? found : null;
}

/** What the page says of its keys to those who cannot see where they lead. */
const wayOut = 'Tab stays in the text. Press Escape, then Tab, to leave it.';

/** Tab stays in the text while one writes; right after Escape it leads on. What is typed on a selected node goes behind it. */
export function writingKeys(): Plugin {
  let leaves = false;
  return new Plugin({
    props: {
      attributes: { 'aria-description': wayOut },
      handleTextInput: (view, _from, _to, text) => {
        const typed = typedBehind(view.state, text);
        if (typed) view.dispatch(typed);
        return typed !== null || view.state.selection instanceof NodeSelection;
      },
      handleDOMEvents: {
        keydown: (view, event) => {
          if (leaveLeaf(view, event)) {
            event.preventDefault();
            return true;
          }
          const { key } = event;
          const isWayOut = key === 'Tab' && leaves;
          if (!['Shift', 'Control', 'Alt', 'Meta'].includes(key)) leaves = key === 'Escape';
          // The page does nothing with it then; the browser moves the focus.
          return isWayOut;
        },
      },
    },
  });
}

/** Keeps Tab on the page where no command had a use for it. */
export const stay: Command = () => true;
