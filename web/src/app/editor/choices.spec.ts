import { checkBody, Selector, type ContentNode } from '@allomorph/core';
import type { Command, EditorState } from 'prosemirror-state';
import { addBranch, isInChoice, makeChoice, moveBranch, removeBranch, unwrapChoice } from './choices';
import { editingState } from './editing-state';
import { vocabulary } from './testing';
import { notationOf, stateOf } from './testing-notation';

const stateAt = (notation: string): EditorState =>
  stateOf(notation, (doc) =>
    editingState(
      doc.toJSON() as ContentNode,
      { selector: null, vocabulary, mode: 'ghost' },
      { openInsertMenu: () => undefined },
    ),
  );
const after = (before: string, command: Command): EditorState => {
  const state = stateAt(before);
  let next = state;
  expect(command(state, (tr) => (next = state.apply(tr))))
    .withContext(before)
    .toBeTrue();
  expect(checkBody(next.doc.toJSON() as ContentNode)).toEqual([]);
  return next;
};

describe('A choice', () => {
  const table: readonly (readonly [what: string, command: Command, before: string, wanted: string])[] = [
    ['is made of the block at the cursor', makeChoice, 'p{a|b}', 'choice{b{p{|ab}} b{p{}}}'],
    ['is made of blocks without conditions', makeChoice, 'p{x} p{[a} p{b]}', 'p{x} choice{b{p{|a} p{b}} b{p{}}}'],
    ['takes conditions to its branches', makeChoice, 'p!{[a} p!{b} p{c]}', 'choice{b!{p{|a} p{b}} b{p{c}}}'],
    ['begins empty where nothing stands', makeChoice, 'p{|}', 'choice{b{p{|}} b{p{}}}'],
    ['gets a branch before the other case', addBranch, 'choice{b!{p{a}} b{p{b|}}}', 'choice{b!{p{a}} b{p{|}} b{p{b}}}'],
    [
      'gets a branch behind one with a condition',
      addBranch,
      'choice{b!{p{a|}} b{p{b}}}',
      'choice{b!{p{a}} b{p{|}} b{p{b}}}',
    ],
    ['has its branches moved down', moveBranch(1), 'choice{b!{p{a|}} b{p{b}}}', 'choice{b{p{b}} b!{p{a|}}}'],
    ['has its branches moved up', moveBranch(-1), 'choice{b!{p{a}} b{p{c} p{b|}}}', 'choice{b{p{c} p{b|}} b!{p{a}}}'],
    ['loses a branch', removeBranch, 'choice{b!{p{a}} b{p{b|}} b{p{c}}}', 'choice{b!{p{a}} b{p{|c}}}'],
    ['is none any more with one branch', removeBranch, 'p{x} choice{b!{p{a}} b{p{b|}}}', 'p{x} p!{|a}'],
  ];
  for (const [what, command, before, wanted] of table) {
    it(`${what}: ${before}`, () => expect(notationOf(after(before, command))).toBe(wanted));
  }

  it('moves no branch past its ends', () => {
    expect(moveBranch(-1)(stateAt('choice{b!{p{a|}} b{p{b}}}'))).toBeFalse();
    expect(moveBranch(1)(stateAt('choice{b!{p{a}} b{p{b|}}}'))).toBeFalse();
    expect(isInChoice(stateAt('p{a|}'))).toBeFalse();
  });

  it('is taken apart into blocks that are in exactly where they were', () => {
    const apart = after('choice{b!{p{a|}} b{p{b} p{c}}}', unwrapChoice);
    expect(apart.doc.children.slice(1).map(({ attrs }) => attrs['when'] as unknown)).toEqual([
      'os is linux',
      'not os is linux',
      'not os is linux',
    ]);
    for (const os of ['linux', 'mac']) {
      const selector = new Selector(vocabulary, { axes: { os: { default: 'out', in: [os] } } });
      const shown = apart.doc.children.slice(1).filter(({ attrs }) => selector.holds(attrs['when'] as string));
      expect(shown.map((block) => block.textContent)).toEqual(os === 'linux' ? ['a'] : ['b', 'c']);
    }
  });

  it('stays where a branch stands behind one for all cases: nobody sees it, and all would', () => {
    expect(unwrapChoice(stateAt('choice{b{p{a|}} b{p{b}}}'))).toBeFalse();
  });
});
