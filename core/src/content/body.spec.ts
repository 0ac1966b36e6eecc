import fc from 'fast-check';
import { fragment, only, p, section, topicBody, words } from '../../../tests/support/library-parts.js';
import { addMark } from '../model/marks.js';
import { assignIds, checkBody, idsAfter, tidyBody } from './body.js';
import { makeNode, makeText, walk, type ContentNode } from '../model/node.js';
import { admonitionKinds, type NodeKind } from '../model/kinds.js';
import { contentSchema } from './schema.js';

describe('Bodies', () => {
  it('of every kind of block pass the schema', () => {
    const cell = (type: NodeKind): ContentNode => makeNode(type, null, [p('c')]);
    const blocks: ContentNode[] = [
      p('text', makeNode('line_break'), makeNode('variable', { key: 'v' })),
      makeNode('bullet_list', null, [makeNode('list_item', null, [p('a')])]),
      makeNode('ordered_list', { start: 3 }, [makeNode('list_item', null, [p('a')])]),
      makeNode('steps', null, [
        makeNode('step', null, [p('do'), makeNode('steps', null, [makeNode('step', null, [p('so')])])]),
      ]),
      makeNode('definition_list', null, [
        makeNode('definition', null, [
          makeNode('term', null, [makeText('t')]),
          makeNode('description', null, [p('d')]),
        ]),
      ]),
      makeNode('table', null, [
        makeNode('caption', null, [makeText('c')]),
        makeNode('table_grid', null, [
          makeNode('table_row', { header: true }, [cell('table_header')]),
          makeNode('table_row', null, [cell('table_cell')]),
        ]),
      ]),
      makeNode('figure', null, [makeNode('picture', { component: 'i' }), makeNode('caption', null, [makeText('c')])]),
      ...admonitionKinds.map((kind) => makeNode('admonition', { kind }, [p('mind')])),
      makeNode('code_block', { language: 'sh' }, [makeText('ls\n')]),
      makeNode('quotation', null, [p('said')]),
      makeNode('example', null, [makeNode('title', null, [makeText('e')]), p('x')]),
      makeNode('footnote', { id: 'f1' }, [p('note')]),
      makeNode('choice', null, [makeNode('branch', { when: 'a is b' }, [p('x')]), makeNode('branch', null, [p('y')])]),
      makeNode('slot', { collection: 'tips' }),
      makeNode('copied', { component: 's', revision: 2 }, [p('own')]),
      makeNode('placement', { component: 's', mode: 'held', revision: 3 }),
    ];
    expect(checkBody(topicBody('T', ...blocks, section('s', 'S', p('x'), section('s2', 'S2'))))).toEqual([]);
  });

  it('with wrong structure, attributes or conditions are refused with the place', () => {
    expect(checkBody(topicBody('T'))[0]?.message).toContain('Invalid content for node topic');
    expect(checkBody(fragment(makeNode('list_item', null, [p('x')])))[0]?.message).toContain('Invalid content');
    expect(checkBody(makeNode('nonsense' as NodeKind))[0]?.message).toContain('nonsense');
    expect(checkBody(fragment(only('os is', p('x'))))).toEqual([
      { message: 'Condition “os is”: Expected a value, not the end.', path: ['fragment', 'paragraph'] },
    ]);
    const twice = fragment(makeNode('paragraph', { id: 'a' }), makeNode('paragraph', { id: 'a' }));
    expect(checkBody(twice)[0]?.message).toBe('The id “a” is used twice.');
    expect(checkBody(fragment(p(words('(', 'x'))))[0]?.message).toContain('Condition “(”');
  });

  it('are tidied to one form, once and for all', () => {
    const loose = fragment({
      type: 'paragraph',
      attrs: { id: null, when: null },
      content: [makeText('a'), makeText('b'), makeText('', []), makeText('c', [{ type: 'strong', attrs: {} }])],
    });
    expect(tidyBody(loose)).toEqual(fragment(p('ab', makeText('c', [{ type: 'strong' }]))));
    fc.assert(
      fc.property(fc.array(fc.tuple(fc.string(), fc.boolean()), { minLength: 1 }), (parts) => {
        const node = fragment(p(...parts.map(([text, strong]) => makeText(text, strong ? [{ type: 'strong' }] : []))));
        const tidy = tidyBody(node);
        expect(tidyBody(tidy)).toEqual(tidy);
        expect(checkBody(tidy)).toEqual([]);
      }),
    );
  });

  it('get ids for blocks that lack one, and new ones for repeated ids', () => {
    const body = fragment(makeNode('paragraph', { id: 'b3' }), makeNode('paragraph', { id: 'b3' }), p('x'));
    const ids: unknown[] = [];
    walk(assignIds(body, idsAfter(body)), (node) => {
      if (node.type === 'paragraph') ids.push(node.attrs?.['id']);
    });
    expect(ids).toEqual(['b3', 'b4', 'b5']);
  });

  it('survive the way into the editor and back', () => {
    const body = tidyBody(topicBody('T', only('os is mac', p('x', words('level is basic', 'y', { type: 'strong' })))));
    expect(tidyBody(contentSchema.nodeFromJSON(body).toJSON() as ContentNode)).toEqual(body);
  });

  it('take marks in the order of the schema, conditions beside each other', () => {
    const marks = addMark(addMark(addMark([], { type: 'strong' }), { type: 'condition', attrs: { when: 'a is b' } }), {
      type: 'condition',
      attrs: { when: 'c is d' },
    });
    expect(marks.map((mark) => mark.type)).toEqual(['condition', 'condition', 'strong']);
    expect(addMark([{ type: 'superscript' }], { type: 'subscript' })).toEqual([{ type: 'subscript' }]);
  });
});
