import { checkBody, type ContentNode } from '@allomorph/core';
import { editingState } from './editing-state';
import { moveTo, structureRows, type DropAt } from './structure-rows';
import { vocabulary } from './testing';
import { notationOf, stateOf } from './testing-notation';

const stateAt = (notation: string) =>
  stateOf(notation, (doc) =>
    editingState(
      doc.toJSON() as ContentNode,
      { selector: null, vocabulary, mode: 'ghost' },
      { openInsertMenu: () => undefined },
    ),
  );
const rowsOf = (notation: string, ...folded: string[]) =>
  structureRows(stateAt(notation).doc, new Set(folded), (key) => `Title of ${key}`);

describe('The structure of a page', () => {
  it('is its blocks as a tree, with how each begins and where it applies', () => {
    const rows = rowsOf(
      's!{h{One} ul{li{p{a} p{more}} li!{p{b}}} note{p{c}}} fig{pic{} cap{A caption}} pl{} table{cap{t} grid{head{th{p{x}}} row{td{p{y} code{z}}}}}',
    );
    expect(
      rows.map(({ level, kind, text, when, around }) => [level, kind, text, when !== null, around.length]),
    ).toEqual([
      [1, 'section', 'One', true, 0],
      [2, 'bullet list', 'a', false, 1],
      [3, 'item', 'a', false, 1],
      [4, 'paragraph', 'more', false, 1],
      [3, 'item', 'b', true, 1],
      [2, 'note', 'c', false, 1],
      [3, 'paragraph', 'c', false, 1],
      [1, 'figure', 'A caption', false, 0],
      [1, 'placed', 'Title of shared', false, 0],
      [1, 'table', 't', false, 0],
      [2, 'row', 'x', false, 0],
      [2, 'row', 'y', false, 0],
      [3, 'code', 'z', false, 0],
    ]);
  });

  it('hides what is in folded blocks', () => {
    const rows = rowsOf('s{h{a} p{b}} s{h{c} p{d}}', '1');
    expect(rows.map(({ text, hasBelow }) => [text, hasBelow])).toEqual([
      ['a', true],
      ['c', true],
      ['d', false],
    ]);
  });

  const moved = (notation: string, from: number, target: number, place: DropAt): string | null => {
    const state = stateAt(notation);
    const rows = structureRows(state.doc, new Set(), () => '');
    let after = state;
    const done = moveTo(
      rows[from]?.position ?? -1,
      rows[target]?.position ?? -1,
      place,
    )(state, (tr) => (after = state.apply(tr)));
    expect(checkBody(after.doc.toJSON() as ContentNode)).toEqual([]);
    return done ? notationOf(after).replace('<', '') : null;
  };

  it('is changed by dragging a block before, behind or into another one, with everything in it', () => {
    expect(moved('p{a} p{b} p{c}', 2, 0, 'before')).toBe('p{c} p{a} p{b}');
    expect(moved('p{a} p{b} p{c}', 0, 2, 'behind')).toBe('p{b} p{c} p{a}');
    expect(moved('p{x} s{h{a} p{b}} s{h{c} p{d}}', 1, 3, 'into')).toBe('p{x} s{h{c} p{d} s{h{a} p{b}}}');
    expect(moved('s{h{a} s!{h{b} p{c}}} p{d}', 1, 0, 'behind')).toBe('s{h{a}} s!{h{b} p{c}} p{d}');
    expect(moved('ul{li{p{a}} li!{p{b}}}', 2, 1, 'before')).toBe('ul{li!{p{b}} li{p{a}}}');
  });

  it('gives what is moved what it needs around it, and takes away what is left empty', () => {
    expect(moved('p{x} ul{li{p{a}}}', 0, 2, 'behind')).toBe('ul{li{p{a}} li{p{x}}}');
    expect(moved('p{x} ul{li{p{a}}} ol{li{p{b}}}', 2, 4, 'behind')).toBe('p{x} ol{li{p{b}} li{p{a}}}');
  });

  it('lets nothing be moved into itself, or where it may not stand', () => {
    expect(moved('s{h{a} s{h{b}}}', 0, 1, 'into')).toBeNull();
    expect(moved('s{h{a}} note{p{b}}', 0, 1, 'into')).toBeNull();
  });
});
