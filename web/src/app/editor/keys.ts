import { contentSchema } from '@allomorph/core';
import { NodeSelection, Plugin, Selection, TextSelection, type EditorState, type Transaction } from 'prosemirror-state';
import type { EditorView } from 'prosemirror-view';
import { placeBehind } from './places';
import { removeSelected } from './remove-keys';
import { nodeType } from './schema-types';

/** What typing does beside and on whole nodes, and how the keyboard leaves the text. */

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
  const behind = placeBehind($to, nodeType('paragraph'));
  if (behind === null) return null;
  tr.insert(behind, nodeType('paragraph').create(null, words));
  return tr.setSelection(TextSelection.create(tr.doc, behind + 1 + words.nodeSize)).scrollIntoView();
}

/** Whether a selection begins in one block and ends in another. */
export function reachesAcross({ selection }: EditorState): boolean {
  return selection instanceof TextSelection && !selection.$from.sameParent(selection.$to);
}

/** What is typed over a selection that reaches across blocks. */
function typedOver(state: EditorState, text: string): Transaction | null {
  if (!reachesAcross(state)) return null;
  let typed: Transaction | null = null;
  removeSelected(state, (tr) => {
    const { $from } = tr.selection;
    typed = $from.parent.inlineContent ? tr.insertText(text) : tr;
  });
  return typed;
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
        const typed = typedBehind(view.state, text) ?? typedOver(view.state, text);
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
