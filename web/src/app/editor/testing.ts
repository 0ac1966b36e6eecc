import { checkBody, type Axis, type ContentNode, type Vocabulary } from '@allomorph/core';
import { TextSelection, type Command, type EditorState } from 'prosemirror-state';
import { editingState } from './editing-state';

/** One axis, `os` (linux, mac). */
export const axes: readonly Axis[] = [
  {
    key: 'os',
    title: 'System',
    values: ['linux', 'mac'].map((key) => ({ key, title: key, code: key.slice(0, 2), colour: 0, pattern: 0 })),
  },
];

/** With two stamps: one without a condition, and one with. */
export const vocabulary: Vocabulary = {
  axes,
  stamps: [
    { key: 'value', title: 'Torque value', on: 'both', from: null, when: null },
    { key: 'trained', title: 'Trained staff', on: 'blocks', from: null, when: 'os is linux' },
  ],
};

/** An editor on a body, with the cursor behind a text. */
export function editorOn(body: ContentNode, behind?: string): EditorState {
  const state = editingState(body, { selector: null, vocabulary, mode: 'ghost' }, { openInsertMenu: () => undefined });
  return behind === undefined ? state : at(state, behind);
}

/** The same with the cursor behind a text, or with the text selected. */
export function at(state: EditorState, text: string, select = false): EditorState {
  let from = -1;
  state.doc.descendants((node, position) => {
    const index = node.isText ? (node.text ?? '').indexOf(text) : -1;
    if (from < 0 && index >= 0) from = position + index;
  });
  const end = from + text.length;
  return state.apply(state.tr.setSelection(TextSelection.create(state.doc, select ? from : end, end)));
}

/** The state after a command, which must be done and leave valid content. */
export function after(state: EditorState, command: Command): EditorState {
  let result = state;
  expect(command(state, (transaction) => (result = state.apply(transaction)))).toBeTrue();
  expect(checkBody(result.doc.toJSON() as ContentNode)).toEqual([]);
  return result;
}
