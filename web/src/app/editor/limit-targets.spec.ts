import { makeNode, makeText, type ContentNode } from '@allomorph/core';
import type { EditorState } from 'prosemirror-state';
import { CellSelection } from 'prosemirror-tables';
import { targetName } from './applies-when';
import { likelyTarget, limit, limitTargets } from './limit-targets';
import { contentOf } from './node-json';
import { after, editorOn } from './testing';

const cell = (...texts: string[]): ContentNode =>
  makeNode(
    'table_cell',
    null,
    texts.map((text) => makeNode('paragraph', null, [makeText(text)])),
  );
const page = makeNode('topic', null, [
  makeNode('title', null, [makeText('T')]),
  makeNode('table', null, [
    makeNode('table_grid', null, [
      makeNode('table_row', null, [cell('a1', 'more of a1'), cell('b1')]),
      makeNode('table_row', null, [cell('a2'), cell('b2')]),
    ]),
  ]),
]);

/** The state with cells picked, from the one that says one thing to the one that says another. */
function picked(from: string, to: string): EditorState {
  const state = editorOn(page, from);
  const at = (text: string): number => {
    let found = -1;
    state.doc.descendants((node, position) => {
      if (node.type.name === 'table_cell' && node.firstChild?.textContent === text) found = position;
    });
    return found;
  };
  return state.apply(state.tr.setSelection(CellSelection.create(state.doc, at(from), at(to))));
}

const limitsOf = (state: EditorState): string =>
  JSON.stringify(contentOf(state.doc))
    .match(/"when":"[^"]*"|"text":"[^"]*"/g)
    ?.join(' ') ?? '';

describe('What a condition can be put on in a table', () => {
  it('is what one cell holds, while the row is what is meant', () => {
    const state = editorOn(page, 'more of a1');
    const targets = limitTargets(state);
    expect(targets.map(targetName)).toEqual([
      'the whole topic',
      'table',
      'column 1',
      'table row',
      'this cell',
      'paragraph',
    ]);
    expect(targetName(targets[likelyTarget(targets)]!)).toBe('table row');
    const limited = after(state, limit(targets[4]!, 'os is linux'));
    expect(limitsOf(limited)).toBe(
      '"text":"T" "when":"os is linux" "text":"a1" "when":"os is linux" "text":"more of a1" "text":"b1" "text":"a2" "text":"b2"',
    );
    expect(limitTargets(limited)[4]?.when).toBe('os is linux');
  });

  it('is what several picked cells hold', () => {
    const state = picked('b1', 'b2');
    const target = limitTargets(state).at(-1)!;
    expect(targetName(target)).toBe('these 2 cells');
    expect(limitsOf(after(state, limit(target, 'os is mac')))).toBe(
      '"text":"T" "text":"a1" "text":"more of a1" "when":"os is mac" "text":"b1" "text":"a2" "when":"os is mac" "text":"b2"',
    );
  });

  it('is whole rows where whole rows are picked', () => {
    const state = picked('a1', 'b2');
    const target = limitTargets(state).at(-1)!;
    expect(targetName(target)).toBe('these 2 rows');
    const rows = after(state, limit(target, 'os is mac')).doc.child(1).child(0);
    expect(rows.children.map(({ attrs }) => attrs['when'] as unknown)).toEqual(['os is mac', 'os is mac']);
  });
});
