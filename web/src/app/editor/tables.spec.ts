import { checkBody, type ContentNode } from '@allomorph/core';
import type { Command } from 'prosemirror-state';
import { editingState } from './editing-state';
import { addColumnInFront } from './table-columns';
import { moveColumn } from './table-moves';
import { alignCells, sortRows, toggleCaption, toggleHeaderColumn } from './tables';
import { vocabulary } from './testing';
import { notationOf, stateOf } from './testing-notation';

describe('A table', () => {
  const done = (before: string, command: Command) => {
    const state = stateOf(before, (doc) =>
      editingState(
        doc.toJSON() as ContentNode,
        { selector: null, vocabulary, mode: 'ghost' },
        { openInsertMenu: () => undefined },
      ),
    );
    let after = state;
    if (!command(state, (tr) => (after = state.apply(tr)))) return null;
    expect(checkBody(after.doc.toJSON() as ContentNode)).toEqual([]);
    return after;
  };
  const notationAfter = (before: string, command: Command): string | null => {
    const after = done(before, command);
    return after && notationOf(after);
  };
  const page = 'table{grid{head{th{p{a}} th{p{b}}} row{td{p{10|}} td{p{x}}} row!{td{p{9}} td{p{y}}}}}';

  it('is sorted by the column at the cursor, numbers by their value, with the conditions of its rows', () => {
    // The cursor goes with its row.
    expect(notationAfter(page, sortRows(false))).toBe(
      'table{grid{head{th{p{a}} th{p{b}}} row!{td{p{9}} td{p{y}}} row{td{p{10|}} td{p{x}}}}}',
    );
    expect(notationAfter(page, sortRows(true))).toBe(page);
    expect(done('table{grid{row{td{p{a|}}}}}', sortRows(false))).toBeNull();
  });

  it('has header columns, and ordinary ones again; header rows stay', () => {
    const headed = 'table{grid{head{th{p{a}} th{p{b}}} row{th{p{10|}} td{p{x}}} row!{th{p{9}} td{p{y}}}}}';
    expect(notationAfter(page, toggleHeaderColumn)).toBe(headed);
    expect(notationAfter(headed, toggleHeaderColumn)).toBe(page);
  });

  it('gets a caption, to be written at once, and goes without it', () => {
    expect(notationAfter('table{grid{row{td{p{a|}}}}}', toggleCaption)).toBe('table{cap{|} grid{row{td{p{a}}}}}');
    expect(notationAfter('table{cap{T} grid{row{td{p{a|}}}}}', toggleCaption)).toBe('table{grid{row{td{p{a|}}}}}');
  });

  it('has columns that are added before others, and moved with what is said of them', () => {
    expect(notationAfter(page, addColumnInFront)).toContain('row{td{p{}} td{p{10|}} td{p{x}}}');
    expect(notationAfter(page, moveColumn(1))).toBe(
      'table{grid{head{th{p{b}} th{p{a}}} row{td{p{x}} td{p{|10}}} row!{td{p{y}} td{p{9}}}}}',
    );
    expect(done(page, moveColumn(-1))).toBeNull();
  });

  it('has cells whose text stands at the right', () => {
    const after = done(page, alignCells('right'));
    expect(JSON.stringify(after?.doc.toJSON()).match(/"align":"right"/g)?.length).toBe(1);
  });
});
