import { makeNode, makeText } from '@allomorph/core';
import { toggleMark } from 'prosemirror-commands';
import { redo, undo } from 'prosemirror-history';
import type { Command, EditorState } from 'prosemirror-state';
import { moveBlock, removeBlock } from './commands';
import { limit, limitTargets } from './limit-targets';
import { markType } from './schema-types';
import { after, at, editorOn } from './testing';
import { turnInto } from './turn-into';
import { named, redoes, toldOfUndo, undoes } from './undo-names';

const p = (words: string): ReturnType<typeof makeNode> => makeNode('paragraph', null, [makeText(words)]);
const page = makeNode('topic', null, [
  makeNode('title', null, [makeText('Rain')]),
  p('First words.'),
  p('Second words.'),
]);

const typed = (state: EditorState, text: string): EditorState => state.apply(state.tr.insertText(text));
/** What an undo would say after a command, on the page with the cursor behind, or over, some words. */
const says = (command: Command, words = 'First', select = false): string | null =>
  undoes(after(at(editorOn(page), words, select), command));

describe('Undo', () => {
  it('says what it takes back, typing as one', () => {
    let state = at(editorOn(page), 'First');
    expect([undoes(state), redoes(state)]).toEqual([null, null]);
    for (const letter of ' of all') state = typed(state, letter);
    expect(undoes(state)).toBe('Typing “of all”');
    state = after(state, undo);
    expect([undoes(state), redoes(state), toldOfUndo(state)]).toEqual([
      null,
      'Typing “of all”',
      'Undone: Typing “of all”',
    ]);
    state = after(state, redo);
    expect([undoes(state), redoes(state), toldOfUndo(state)]).toEqual([
      'Typing “of all”',
      null,
      'Done again: Typing “of all”',
    ]);
    state = typed(at(state, 'Second'), '!');
    expect([toldOfUndo(state), redoes(state)]).toEqual(['', null]);
  });

  it('tells acts by what they do to the page', () => {
    expect(says(toggleMark(markType('strong')), 'First', true)).toBe('Strong');
    expect(says(removeBlock(6))).toBe('Delete the paragraph');
    expect(says(moveBlock(6, 1))).toBe('Move the paragraph');
    expect(says(turnInto('bullet_list'))).toContain('the bullet list');
    const state = at(editorOn(page), 'First');
    const conditions = limitTargets(state).map((target) => undoes(after(state, limit(target, 'os is mac'))));
    expect(conditions).toEqual(
      jasmine.arrayWithExactContents(['Condition of all of it', 'Condition of the paragraph']),
    );
    expect(says((now, dispatch) => (dispatch?.(now.tr.deleteSelection()), true), 'First', true)).toBe('Delete “First”');
    expect(says((now, dispatch) => (dispatch?.(now.tr.insertText('Next')), true), 'First', true)).toBe(
      'Replace “First”',
    );
  });

  it('says what an act was called where it was chosen by name', () => {
    expect(says(named('Column after', removeBlock(6)))).toBe('Column after');
  });

  it('takes such an act back alone, right after typing beside it', () => {
    const act = named('Put in', (now, dispatch) => (dispatch?.(now.tr.insertText('?')), true));
    const state = after(typed(at(editorOn(page), 'First'), '!'), act);
    expect([undoes(state), undoes(after(state, undo))]).toEqual(['Put in', 'Typing “!”']);
  });
});
