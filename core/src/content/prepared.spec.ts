import fc from 'fast-check';
import { anyLibrary } from '../../../tests/support/any-library.js';
import { contentBody } from '../library/component.js';
import { list, only, p, place, section, see, title, variable, words } from '../../../tests/support/library-parts.js';
import { makeNode, makeText, walk, type ContentNode } from './node.js';
import { derive, linked, makePrepared, notable, open, partsOf, prepareBody, prepareNode, varies } from './prepared.js';

/** The members that the content schema knows. */
function plain({ type, attrs, content, text, marks }: ContentNode): ContentNode {
  return {
    type,
    ...(attrs ? { attrs } : {}),
    ...(content ? { content: content.map(plain) } : {}),
    ...(text !== undefined ? { text } : {}),
    ...(marks ? { marks } : {}),
  };
}

describe('Prepared bodies', () => {
  it('are the same content, laid out once', () => {
    fc.assert(
      fc.property(anyLibrary, (components) => {
        for (const component of components) {
          const body = contentBody(component);
          if (!body) continue;
          const prepared = prepareBody(body);
          expect(plain(prepared)).toEqual(plain(body));
          expect(prepareBody(body)).toBe(prepared);
        }
      }),
      { numRuns: 40 },
    );
  });

  it('count what carries a label', () => {
    fc.assert(
      fc.property(anyLibrary, (components) => {
        for (const component of components) {
          const body = contentBody(component);
          if (!body) continue;
          let labels = 0;
          walk(
            body,
            ({ type }) => void (labels += ['section', 'figure', 'table', 'example', 'step'].includes(type) ? 1 : 0),
          );
          expect(prepareBody(body).labels).toBe(labels);
        }
      }),
      { numRuns: 40 },
    );
  });

  it('know what they hold, through all that stands in them', () => {
    const traits = (node: ContentNode): string => {
      const found = prepareNode(node).traits;
      return [
        [varies, 'varies'],
        [notable, 'notable'],
        [open, 'open'],
        [linked, 'linked'],
      ]
        .filter(([bit]) => (found & Number(bit)) !== 0)
        .map(([, name]) => name)
        .join(' ');
    };
    const cases: readonly (readonly [ContentNode, string])[] = [
      [p('a'), ''],
      [list(p('a'), p('b')), ''],
      [only('os is mac', p('a')), 'varies'],
      [list(p('a'), only('os is mac', p('b'))), 'varies'],
      [p(words('os is mac', 'a')), 'varies'],
      [p(variable('name')), 'varies'],
      [p(variable('@chapter-title')), 'varies notable open linked'],
      [place('s'), 'varies'],
      [p(see('t', null)), 'notable linked'],
      [section('s', 'S', p('a')), 'notable'],
      [makeNode('section', null, [title('Only a title')]), 'varies notable'],
      [makeNode('slot', { collection: 'c' }), 'varies notable open linked'],
      [p(makeText('term', [{ type: 'defined_term' }])), 'notable'],
      [p(makeText('x', [{ type: 'link', attrs: { href: 'https://x.example/{+v}' } }])), 'varies open'],
      [p(makeText('x', [{ type: 'link', attrs: { href: 'https://x.example/' } }])), ''],
      [makeNode('table_grid', { columns: [{ when: 'os is mac' }] }, [makeNode('table_row')]), 'varies'],
    ];
    for (const [node, wanted] of cases) expect(traits(node)).withContext(JSON.stringify(node)).toBe(wanted);
  });

  it('stay themselves where nothing changes, and know what is new in them', () => {
    const node = prepareNode(list(p('a'), p('b')));
    expect(derive(node, partsOf(node))).toBe(node);
    const shorter = derive(node, partsOf(node).slice(0, 1));
    expect([shorter.type, shorter.content?.length, shorter.traits]).toEqual(['bullet_list', 1, 0]);
    const noted = makePrepared('placed', { placement: 'p1' }, [prepareNode(section('s', 'S', p('a')))]);
    expect([noted.labels, noted.traits & notable]).toEqual([1, notable]);
    expect(noted.serial).not.toBe(shorter.serial);
  });
});
