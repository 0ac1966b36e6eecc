import type { ContentNode } from '@allomorph/core';
import { NodeSelection } from 'prosemirror-state';
import { after, editorOn } from './testing';
import { insertionCommand, placesOnPage } from './insertion';
import { readNotation } from './testing-notation';

const bodyOf = (notation: string): ContentNode => readNotation(notation).doc.toJSON() as ContentNode;

describe('What the insert menu inserts', () => {
  it('refers to a block of the page, which gets an id for it', () => {
    const state = editorOn(bodyOf('p{see here} s{h{One} p{x}} s{h{Two} steps{step{p{Turn it}}}}'), 'see ');
    const places = placesOnPage(state.doc);
    expect(places.map(({ kind, title, id }) => [kind, title, id])).toEqual([
      ['section', 'One', null],
      ['section', 'Two', null],
      ['step', 'Turn it', null],
    ]);
    const step = places[2]?.position ?? 0;
    const done = after(state, insertionCommand({ kind: 'refer-here', position: step }, false));
    const [place] = placesOnPage(done.doc).filter(({ kind }) => kind === 'step');
    expect(place?.id).toBe('b1');
    expect(done.doc.child(1).child(1).attrs).toEqual(
      jasmine.objectContaining({ component: null, target: 'b1', form: 'number-title' }),
    );
  });

  it('leads a selected cross-reference elsewhere, which reads as before', () => {
    const state = editorOn(bodyOf('p{see here}'), 'see ');
    const first = after(state, insertionCommand({ kind: 'refer', component: 'a', target: null }, false));
    const at = 1 + 'see '.length + first.doc.child(0).nodeSize;
    const worded = first.apply(first.tr.setNodeAttribute(at, 'form', 'page'));
    const selected = worded.apply(worded.tr.setSelection(NodeSelection.create(worded.doc, at)));
    const done = after(selected, insertionCommand({ kind: 'refer', component: 'b', target: 'b7' }, false));
    expect(done.doc.nodeAt(at)?.attrs).toEqual(
      jasmine.objectContaining({ component: 'b', target: 'b7', form: 'page' }),
    );
    expect(done.doc.child(1).childCount).toBe(worded.doc.child(1).childCount);
  });
});
