import { makeNode, makeText } from './node.js';
import {
  component,
  entry,
  fragment,
  only,
  p,
  phrase,
  place,
  publicationOf,
  see,
  topicBody,
  variable,
  words,
} from '../../../tests/support/library-parts.js';
import { freeKey, keyFromTitle, libraryOf } from './component.js';
import { conditionsOf, hrefVariables, referencesOf, referencesOfPublication } from './references.js';

describe('References', () => {
  it('of a body are all found, with the block that they stand in', () => {
    const body = topicBody(
      'T',
      { ...p(variable('v'), see('u', 's1'), makeNode('inline_placement', { component: 'ph' })), attrs: { id: 'b1' } },
      { ...place('s', { mode: 'held', revision: 2 }), attrs: { component: 's', mode: 'held', revision: 2, id: 'b2' } },
      makeNode('figure', { id: 'b3' }, [makeNode('picture', { component: 'i' })]),
      { ...p(makeNode('external_link', { component: 'l' }), variable('@language')), attrs: { id: 'b4' } },
      { ...p(makeText('x', [{ type: 'link', attrs: { href: 'https://a/{+w}' } }])), attrs: { id: 'b5' } },
    );
    expect(
      referencesOf(body).map(({ target, kind, place: at, targetBlock, held }) => [target, kind, at, targetBlock, held]),
    ).toEqual([
      ['v', 'variable', 'b1', null, null],
      ['u', 'cross-reference', 'b1', 's1', null],
      ['ph', 'inline placement', 'b1', null, null],
      ['s', 'placement', 'b2', null, 2],
      ['i', 'image', 'b3', null, null],
      ['l', 'link', 'b4', null, null],
      ['w', 'variable', 'b5', null, null],
    ]);
  });

  it('of variables, links and outlines are found as well', () => {
    expect(
      referencesOf({
        type: 'variable',
        default: phrase(variable('a')),
        rules: [{ when: 'os is mac', language: null, value: phrase(variable('b')) }],
      }).map((each) => each.target),
    ).toEqual(['b', 'a']);
    expect(
      referencesOf({ type: 'link', href: 'https://{+host}/{+path}', label: '' }).map((each) => each.target),
    ).toEqual(['host', 'path']);
    const book = publicationOf([
      entry('e1', 't', { values: { v: phrase(variable('w')) }, entries: [entry('e2', 'u')] }),
    ]);
    expect(referencesOfPublication(book).map(({ target, place: at }) => [target, at])).toEqual([
      ['t', 'e1'],
      ['v', 'e1'],
      ['w', 'e1'],
      ['u', 'e2'],
    ]);
  });

  it('of addresses are the expressions of reserved expansion (RFC 6570, 3.2.3)', () => {
    // The section's own examples: {+path}/here and here?ref={+path}.
    expect(hrefVariables('{+path}/here')).toEqual(['path']);
    expect(hrefVariables('here?ref={+path}')).toEqual(['path']);
    expect(hrefVariables('{path}')).toEqual([]);
  });

  it('name all conditions of a body with their blocks', () => {
    const body = fragment({
      ...only('os is mac', p(words('level is basic', 'x'))),
      attrs: { id: 'b1', when: 'os is mac' },
    });
    expect(conditionsOf(body)).toEqual([
      { when: 'os is mac', place: 'b1' },
      { when: 'level is basic', place: 'b1' },
    ]);
  });

  it('name the conditions of columns, of versions of an image and of rules of a variable, too', () => {
    const row = makeNode('table_row', null, [makeNode('table_cell', null, [p('x')])]);
    const grid = makeNode('table_grid', { columns: [{ width: 40, when: 'os is mac' }] }, [row]);
    expect(conditionsOf(fragment(makeNode('table', { id: 'b1' }, [grid])))).toEqual([
      { when: 'os is mac', place: 'b1' },
    ]);
    const file = { digest: '0'.repeat(64), mediaType: 'image/png', width: 1, height: 1 };
    expect(conditionsOf({ type: 'image', alt: '', file, versions: [{ when: 'os is linux', file }] })).toEqual([
      { when: 'os is linux', place: null },
    ]);
    const value = phrase('v');
    const rules = [{ when: 'os is mac', language: null, value: phrase(words('level is basic', 'x')) }];
    expect(conditionsOf({ type: 'variable', default: value, rules }).map(({ when }) => when)).toEqual([
      'os is mac',
      'level is basic',
    ]);
  });
});

describe('Keys', () => {
  it('are made from titles and made free', () => {
    expect(keyFromTitle('Über den Wolken: Teil 2')).toBe('uber-den-wolken-teil-2');
    expect(keyFromTitle('???')).toBe('untitled');
    expect(freeKey('a', (key) => ['a', 'a-2'].includes(key))).toBe('a-3');
  });

  it('find components at their newest and at held revisions', () => {
    const library = libraryOf(
      [component('snippet', 's', fragment(p('3')), 3)],
      [component('snippet', 's', fragment(p('1')), 1)],
    );
    expect([library.component('s')?.revision, library.revision('s', 1)?.revision, library.revision('s', 2)]).toEqual([
      3,
      1,
      undefined,
    ]);
    expect(library.revision('s', 3)?.revision).toBe(3);
  });
});
