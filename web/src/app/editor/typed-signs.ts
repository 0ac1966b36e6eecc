import { Plugin, TextSelection, type Command, type EditorState } from 'prosemirror-state';
import type { KeyBinding } from '../shared/bindings';
import type { InsertMode } from './insertion';

/** What the insert menu is opened for, and by which typed sign. */
export interface MenuAsked {
  readonly mode: InsertMode;
  /** Empty: by a key or a button. */
  readonly sign: string;
}

export const menuForAll: MenuAsked = { mode: 'all', sign: '' };
export const menuToRefer: MenuAsked = { mode: 'refer', sign: '' };
export const menuForVariables: MenuAsked = { mode: 'variable', sign: '' };

const signs: Readonly<Partial<Record<string, InsertMode>>> = { '@': 'refer', '{': 'variable' };

/** The signs, for the list of keys. */
export const typedSigns: readonly KeyBinding[] = [
  { key: '@', title: 'Where a word begins: refer to a topic, section, figure, table or step' },
  { key: '{', title: 'Where a word begins: put in a variable' },
];

/** Opens the menu for a sign that is typed where a word begins; inside words and code it is only a sign. */
export function openBySigns(open: (asked: MenuAsked) => void): Plugin {
  return new Plugin({
    props: {
      handleTextInput: (view, _from, _to, text) => {
        const mode = signs[text];
        if (mode === undefined || view.composing || !beginsWord(view.state)) return false;
        open({ mode, sign: text });
        return true;
      },
    },
  });
}

function beginsWord({ selection, storedMarks }: EditorState): boolean {
  const { $from } = selection;
  if (!(selection instanceof TextSelection) || !$from.parent.inlineContent || $from.parent.type.spec.code) return false;
  if ((storedMarks ?? $from.marks()).some(({ type }) => type.spec.code)) return false;
  const before = $from.parent.textBetween(Math.max(0, $from.parentOffset - 1), $from.parentOffset, null, '\ufffc');
  return before === '' || /[\s([{“„«‘‚‹–—/]/u.test(before);
}

/** Writes text in the place of the selection, as if it were typed. */
export function typeText(text: string): Command {
  return (state, dispatch) => {
    dispatch?.(state.tr.insertText(text).scrollIntoView());
    return true;
  };
}
