import type { KeyBinding } from '../shared/bindings';

/** What keys do in the text. The page's keymap and the list of keys are both made from this table. */
export const editorKeys = {
  insertMenu: [{ key: 'Mod-Space', title: 'Open the insert menu anywhere' }],
  slash: [{ key: '/', title: 'At the start of a paragraph: open the insert menu' }],
  strong: [{ key: 'Mod-b', title: 'Strong' }],
  emphasis: [{ key: 'Mod-i', title: 'Emphasis' }],
  undo: [{ key: 'Mod-z', title: 'Undo' }],
  redo: [
    { key: 'Mod-y', title: 'Redo' },
    { key: 'Shift-Mod-z', title: 'Redo' },
  ],
  lineBreak: [{ key: 'Shift-Enter', title: 'A line break; at the end of code: go on behind it' }],
  split: [
    {
      key: 'Enter',
      title: 'A new paragraph, list item or step; in an empty last one of a branch: go on behind the choice',
    },
  ],
  remove: [
    { key: 'Backspace', title: 'Delete what is before the cursor, or what is chosen' },
    { key: 'Delete', title: 'Delete what is behind the cursor, or what is chosen' },
  ],
  indent: [{ key: 'Tab', title: 'Indent a list item; go to the next cell of a table' }],
  outdent: [{ key: 'Shift-Tab', title: 'Outdent a list item; go to the cell before' }],
} as const satisfies Readonly<Record<string, readonly KeyBinding[]>>;
export type EditorKey = keyof typeof editorKeys;

/** What is no command of the page: it lets the browser move the focus. */
export const wayOutKeys: readonly KeyBinding[] = [{ key: 'Escape', title: 'Then Tab: leave the text' }];
