import { Selector, type ContentNode } from '@allomorph/core';
import { replaceAll, setSearchState } from 'prosemirror-search';
import { undo } from 'prosemirror-history';
import { TextSelection } from 'prosemirror-state';
import { editingState } from './editing-state';
import { countPlaces, queryOf, type PageSearch } from './find-in-page';
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
const search: PageSearch = {
  find: '',
  replace: '',
  matchesCase: false,
  wholeWords: false,
  isPattern: false,
  within: null,
};
const counted = (notation: string, more: Partial<PageSearch>) =>
  countPlaces(stateAt(notation), queryOf({ ...search, ...more })).count;

describe('Finding on the page', () => {
  it('counts words, with capitals, whole words and patterns as wanted', () => {
    const page = 'p{Wind, wind and windy} code{wind¶a.c abc}';
    expect(counted(page, { find: 'wind' })).toBe(4);
    expect(counted(page, { find: 'wind', matchesCase: true })).toBe(3);
    expect(counted(page, { find: 'wind', wholeWords: true })).toBe(3);
    expect(counted(page, { find: 'a.c' })).toBe(1);
    expect(counted(page, { find: 'a.c', isPattern: true })).toBe(2);
    expect(counted(page, { find: '(', isPattern: true })).toBe(0);
    expect(counted(page, { find: 'x*', isPattern: true })).toBeLessThan(1000);
  });

  it('says which place is selected', () => {
    const state = stateAt('p{a b a}');
    const chosen = state.apply(state.tr.setSelection(TextSelection.create(state.doc, 8, 9)));
    expect(countPlaces(chosen, queryOf({ ...search, find: 'a' }))).toEqual({ count: 2, at: 2 });
  });

  it('looks only at what a lens shows: blocks, branches, columns', () => {
    const within = new Selector(vocabulary, { axes: { os: { default: 'out', in: ['mac'] } } });
    const page = 'p!{a} s!{h{a} p{a}} p{a} choice{b!{p{a}} b{p{a}}} ul{li!{p{a}}}';
    expect(counted(page, { find: 'a' })).toBe(7);
    expect(counted(page, { find: 'a', within })).toBe(2);
  });

  it('replaces every place in one act that is undone at once', () => {
    let state = stateAt('p{|one two one} ul{li{p{One}}}');
    const before = notationOf(state);
    state = state.apply(setSearchState(state.tr, queryOf({ ...search, find: 'one', replace: '1' })));
    replaceAll(state, (tr) => (state = state.apply(tr)));
    expect(notationOf(state).replace('|', '')).toBe('p{1 two 1} ul{li{p{1}}}');
    undo(state, (tr) => (state = state.apply(tr)));
    expect(notationOf(state).replace('|', '')).toBe(before.replace('|', ''));
  });
});
