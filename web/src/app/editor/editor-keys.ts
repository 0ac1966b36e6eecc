import type { KeyBinding } from '../shared/bindings';

/** What keys do in the text. The page's keymap and the list of keys are both made from this table. */
export const editorKeys = {
  insertMenu: [{ key: 'Mod-Space', title: 'Open the insert menu anywhere' }],
  slash: [{ key: '/', title: 'At the start of a paragraph: open the insert menu' }],
  takeOffer: [{ key: 'Mod-.', title: 'Put in what is offered at the foot of the page' }],
  find: [{ key: 'Mod-f', title: 'Find and replace on this page' }],
  strong: [{ key: 'Mod-b', title: 'Strong' }],
  emphasis: [{ key: 'Mod-i', title: 'Emphasis' }],
  undo: [{ key: 'Mod-z', title: 'Undo' }],
  redo: [
    { key: 'Mod-y', title: 'Redo' },
    { key: 'Shift-Mod-z', title: 'Redo' },
  ],
  lineBreak: [{ key: 'Shift-Enter', title: 'A line break; at the end of code: go on behind it' }],
  enter: [
    {
      key: 'Enter',
      title:
        'A new paragraph, list item, step, term or line of code; in an empty last one: go on behind what is around',
    },
  ],
  leave: [{ key: 'Mod-Enter', title: 'Go on behind the list, table, figure or frame; in a term: another term' }],
  siblingSection: [{ key: 'Alt-Enter', title: 'A new section on the same level' }],
  childSection: [{ key: 'Shift-Alt-Enter', title: 'A new section one level below' }],
  promote: [{ key: 'Shift-Alt-ArrowLeft', title: 'The section one level up, with all that is in it' }],
  demote: [{ key: 'Shift-Alt-ArrowRight', title: 'The section one level down, with all that is in it' }],
  moveUp: [{ key: 'Shift-Alt-ArrowUp', title: 'Move the block, item, row or section up' }],
  moveDown: [{ key: 'Shift-Alt-ArrowDown', title: 'Move the block, item, row or section down' }],
  backspace: [
    {
      key: 'Backspace',
      title:
        'Delete what is before the cursor, or what is chosen; right after something was made of what you typed: undo that',
    },
  ],
  forwardDelete: [{ key: 'Delete', title: 'Delete what is behind the cursor, or what is chosen' }],
  indent: [
    {
      key: 'Tab',
      title: 'Indent an item, a section in its title, or code; go to the next cell (a new row after the last) or term',
    },
  ],
  outdent: [{ key: 'Shift-Tab', title: 'Outdent the same; go to the cell or term before' }],
  toStart: [
    { key: 'ArrowLeft', title: 'With everything selected: to the start' },
    { key: 'ArrowUp', title: 'With everything selected: to the start' },
  ],
  toEnd: [
    { key: 'ArrowRight', title: 'With everything selected: to the end' },
    { key: 'ArrowDown', title: 'With everything selected: to the end' },
  ],
} as const satisfies Readonly<Record<string, readonly KeyBinding[]>>;
export type EditorKey = keyof typeof editorKeys;

/** What is no command of the page: it lets the browser move the focus. */
export const wayOutKeys: readonly KeyBinding[] = [{ key: 'Escape', title: 'Then Tab: leave the text' }];
