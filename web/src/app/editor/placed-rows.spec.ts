import type { ContentNode } from '@allomorph/core';
import { editingState } from './editing-state';
import { placedRows } from './placed-rows';
import { vocabulary } from './testing';

describe('What is placed on a page', () => {
  it('is everything that comes from elsewhere or leads there, in its order, with the revision that it stays at', () => {
    const text = { type: 'text', text: 'x' } as const;
    const body = {
      type: 'topic',
      content: [
        { type: 'title', content: [text, { type: 'variable', attrs: { key: 'v' } }] },
        {
          type: 'paragraph',
          content: [
            { type: 'cross_reference', attrs: { component: 't', target: 'a' } },
            { type: 'cross_reference', attrs: { component: null, target: 'b' } },
            { type: 'inline_placement', attrs: { component: 'p', mode: 'held', revision: 2 } },
            { type: 'external_link', attrs: { component: 'l' } },
          ],
        },
        { type: 'copied', attrs: { component: 'c', revision: 3 }, content: [{ type: 'paragraph', content: [text] }] },
        {
          type: 'section',
          content: [{ type: 'title' }, { type: 'placement', attrs: { component: 's', mode: 'live' } }],
        },
        { type: 'figure', content: [{ type: 'picture', attrs: { component: 'i' } }] },
        { type: 'slot', attrs: { collection: 'tips' } },
      ],
    } as unknown as ContentNode;
    const { doc } = editingState(
      body,
      { selector: null, vocabulary, mode: 'ghost' },
      { openInsertMenu: () => undefined },
    );
    expect(placedRows(doc).map(({ kind, component, held }) => [kind, component, held])).toEqual([
      ['variable', 'v', null],
      ['reference', 't', null],
      ['reference', null, null],
      ['placed', 'p', 2],
      ['link', 'l', null],
      ['copy', 'c', 3],
      ['placed', 's', null],
      ['picture', 'i', null],
      ['slot', null, null],
    ]);
  });
});
