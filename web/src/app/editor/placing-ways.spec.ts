import { checkBody, makeNode, makeText, type Component, type ContentNode } from '@allomorph/core';
import type { EditorState } from 'prosemirror-state';
import { placingCommand, placingWays, type PlacingWay } from './placing-ways';
import { at, editorOn } from './testing';
import { undoes } from './undo-names';

const p = (words: string): ContentNode => makeNode('paragraph', null, [makeText(words)]);
const page = makeNode('topic', null, [
  makeNode('title', null, [makeText('Rain')]),
  p('First words.'),
  p('Second words.'),
]);
const facts = { title: 'Note', revision: 4 };
const snippet: Component = {
  ...facts,
  key: 's',
  kind: 'snippet',
  body: makeNode('fragment', null, [p('Placed words.')]),
};
const topic: Component = {
  ...facts,
  key: 't',
  kind: 'topic',
  body: makeNode('topic', null, [makeNode('title', null, [makeText('Other')]), p('Words of the other.')]),
};
const phrase: Component = { ...facts, key: 'p', kind: 'snippet', body: makeNode('phrase', null, [makeText('press')]) };
const image: Component = {
  ...facts,
  key: 'i',
  kind: 'image',
  body: { type: 'image', alt: '', file: { digest: '', mediaType: '', width: null, height: null }, versions: [] },
};

const namesOf = (component: Component, inLine = false): readonly string[] =>
  placingWays(component, inLine).map(({ name }) => name);

function put(component: Component, name: PlacingWay['name'], behind: string, dropped: boolean): EditorState {
  const way = placingWays(component, false).find((each) => each.name === name);
  const state = at(editorOn(page), behind);
  let result = state;
  if (!way) throw new Error(`There is no way “${name}”.`);
  const done = placingCommand(way, dropped ? state.selection.from : null)(state, (tr) => (result = state.apply(tr)));
  expect(done).toBeTrue();
  expect(checkBody(result.doc.toJSON() as ContentNode)).toEqual([]);
  return result;
}

const outline = (state: EditorState): string =>
  state.doc.children.map((node) => `${node.type.name} ${node.attrs['mode'] ?? node.textContent}`).join(', ');

describe('Placing a component', () => {
  it('offers what each kind can be placed as', () => {
    expect(namesOf(snippet)).toEqual(['live', 'held', 'copied']);
    expect(namesOf(topic)).toEqual(['live', 'held', 'copied', 'refer']);
    expect(namesOf(phrase, true)).toEqual(['live', 'held', 'copied']);
    expect(namesOf(snippet, true)).toEqual([]);
    expect([namesOf(image), namesOf(image, true)]).toEqual([['figure', 'inline'], ['inline']]);
  });

  it('puts blocks where they were dropped, or behind the block of the cursor', () => {
    const words = 'title Rain, paragraph First words.';
    expect(outline(put(snippet, 'live', 'First', false))).toBe(`${words}, placement live, paragraph Second words.`);
    const held = put(snippet, 'held', 'First words.', true);
    expect(outline(held)).toBe(`${words}, placement held, paragraph Second words.`);
    expect(held.doc.child(2).attrs['revision']).toBe(4);
    expect(undoes(held)).toBe('Hold it at revision 4');
  });

  it('copies text that remembers its source, and words into the line', () => {
    const copied = put(snippet, 'copied', 'First words.', true);
    expect(copied.doc.child(2).type.name).toBe('copied');
    expect([copied.doc.child(2).attrs['component'], copied.doc.child(2).textContent]).toEqual(['s', 'Placed words.']);
    for (const dropped of [true, false])
      expect(put(phrase, 'copied', 'First', dropped).doc.child(1).textContent).toBe('Firstpress words.');
    expect(put(phrase, 'live', 'First', true).doc.child(1).child(1).type.name).toBe('inline_placement');
  });
});
