import { checkBody, makeNode, makeText, tidyBody, type ContentNode } from '@allomorph/core';
import { baseKeymap } from 'prosemirror-commands';
import { NodeSelection, TextSelection, type EditorState } from 'prosemirror-state';
import { limit, limitTargets, likelyTarget } from './limit-targets';
import { enter } from './enter-keys';
import { typedBehind } from './keys';
import { removeWithParent } from './remove-keys';
import { after, at, editorOn } from './testing';

const p = (text: string): ContentNode => makeNode('paragraph', null, text === '' ? [] : [makeText(text)]);
const topic = (...flow: ContentNode[]): ContentNode =>
  makeNode('topic', null, [makeNode('title', null, [makeText('T')]), ...flow]);
const branch = (when: string | null, ...flow: ContentNode[]): ContentNode => makeNode('branch', { when }, flow);
const choice = (...branches: ContentNode[]): ContentNode => makeNode('choice', null, branches);
const linux = 'os is linux';

const bodyOf = (state: EditorState): readonly ContentNode[] =>
  (tidyBody(state.doc.toJSON() as ContentNode).content ?? []).slice(1);
const selecting = (state: EditorState, type: string): EditorState => {
  let found = -1;
  state.doc.descendants((node, position) => {
    if (found < 0 && node.type.name === type) found = position;
  });
  return state.apply(state.tr.setSelection(NodeSelection.create(state.doc, found)));
};

describe('Keys in a choice', () => {
  it('leave it with Enter twice at the end of a branch, and tear nothing', () => {
    const twice = (text: string): EditorState => {
      const body = topic(choice(branch(linux, p('one')), branch(null, p('other'))), p('behind'));
      return after(after(editorOn(body, text), enter), enter);
    };
    const whole = choice(branch(linux, p('one')), branch(null, p('other')));
    for (const text of ['one', 'other']) {
      const state = twice(text);
      expect(bodyOf(state))
        .withContext(text)
        .toEqual([whole, p(''), p('behind')].map((node) => tidyBody(node)));
      expect(state.selection.$from.depth).withContext(text).toBe(1);
    }
  });

  it('never bring the words of one branch into another', () => {
    const body = topic(choice(branch(linux, p('one')), branch(null, p('other'))), p('behind'));
    for (const [key, text] of [
      ['Backspace', 'other'],
      ['Backspace', 'one'],
      ['Delete', 'one'],
      ['Delete', 'other'],
    ] as const) {
      const behind = editorOn(body, text);
      const { from } = behind.selection;
      const place = key === 'Delete' ? from : from - text.length;
      const state = behind.apply(behind.tr.setSelection(TextSelection.create(behind.doc, place)));
      let result = state;
      baseKeymap[key]?.(state, (transaction) => (result = state.apply(transaction)));
      expect(bodyOf(result)).withContext(`${key} at ${text}`).toEqual(bodyOf(state));
    }
  });
});

describe('A condition', () => {
  it('is put on all blocks that a selection reaches across', () => {
    const body = topic(p('one'), p('two'), p('three'), p('four'));
    const from = at(editorOn(body), 'two').selection.from - 1;
    const to = at(editorOn(body), 'three').selection.from - 1;
    const state = editorOn(body);
    const across = state.apply(state.tr.setSelection(TextSelection.create(state.doc, from, to)));
    const targets = limitTargets(across);
    const target = targets[likelyTarget(targets)];
    if (target?.kind !== 'blocks') throw new Error('The selection reaches across two blocks.');
    const limited = after(across, limit(target, linux));
    expect(bodyOf(limited).map((node) => node.attrs?.['when'] ?? null)).toEqual([null, linux, linux, null]);
    expect(limitTargets(limited).at(-1)).toEqual({ ...target, when: linux });
  });
});

describe('A selected node', () => {
  it('stays when a letter is struck, which goes behind it', () => {
    const blocks = selecting(editorOn(topic(makeNode('placement', { component: 's' }), p('end'))), 'placement');
    const typed = typedBehind(blocks, 'x');
    expect(typed && bodyOf(blocks.apply(typed)).map(({ type }) => type)).toEqual([
      'placement',
      'paragraph',
      'paragraph',
    ]);
    const inLine = makeNode('paragraph', null, [makeText('a '), makeNode('variable', { key: 'v' }), makeText(' b')]);
    const line = selecting(editorOn(topic(inLine)), 'variable');
    const after = typedBehind(line, 'x');
    expect(after && bodyOf(line.apply(after))[0]?.content?.map((node) => node.text ?? node.type)).toEqual([
      'a ',
      'variable',
      'x b',
    ]);
    expect(typedBehind(editorOn(topic(p('a')), 'a'), 'x')).toBeNull();
  });

  it('that is the only picture of a figure goes with its figure', () => {
    const figure = makeNode('figure', null, [makeNode('picture', { component: 'i' }), makeNode('caption')]);
    const state = after(selecting(editorOn(topic(p('a'), figure)), 'picture'), removeWithParent);
    expect(bodyOf(state)).toEqual([p('a')]);
    const two = makeNode('figure', null, [
      makeNode('picture', { component: 'i' }),
      makeNode('picture', { component: 'j' }),
    ]);
    expect(removeWithParent(selecting(editorOn(topic(two)), 'picture'))).toBeFalse();
    expect(checkBody(topic(two))).toEqual([]);
  });
});
