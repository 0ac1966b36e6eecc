import fc from 'fast-check';
import { assemblePublication } from '../assemble/assemble.js';
import type { Component } from '../model/component.js';
import {
  component,
  entry,
  fragment,
  list,
  only,
  p,
  phrase,
  place,
  publicationOf,
  recipeOf,
  section,
  see,
  snippet,
  sourceOf,
  textIn,
  topic,
  topicBody,
  words,
} from '../../../tests/support/library-parts.js';
import { checkBody } from './body.js';
import { makeNode, walk, type ContentNode } from '../model/node.js';
import { ownTextOf, ownWordsOf, turnIntoOwnText, turnIntoSnippet } from './own-text.js';

const withId = (id: string, node: ContentNode): ContentNode => ({ ...node, attrs: { ...node.attrs, id } });
const read = (...components: Component[]): string =>
  textIn(
    assemblePublication(sourceOf(components), recipeOf(publicationOf([entry('e1', 't')]))).entries[0]?.blocks ?? [],
  ).replace(/\|+/g, '|');
const targets = (node: ContentNode): unknown[] => {
  const found: unknown[] = [];
  walk(node, (each) => {
    if (each.type === 'cross_reference') found.push([each.attrs?.['component'] ?? null, each.attrs?.['target']]);
  });
  return found;
};

describe('A placement turned into own text', () => {
  const source = component('snippet', 's', fragment(withId('b1', p('one')), withId('b2', p('two'))), 3);

  it('stands as a copy that remembers its source, with the condition of the placement', () => {
    const placement = withId('p1', only('os is linux', place('s')));
    expect(ownTextOf(placement, source)).toEqual([
      makeNode('copied', { when: 'os is linux', component: 's', revision: 3 }, [p('one'), p('two')]),
    ]);
    const body = topicBody('T', withId('b1', p('x')), placement);
    const turned = turnIntoOwnText(body, 'p1', source);
    expect(checkBody(turned)).toEqual([]);
    expect(read(component('topic', 't', turned))).toBe('x|one|two');
    expect(turnIntoOwnText(body, 'elsewhere', source)).toBe(body);
  });

  it('stands as plain blocks where it brings sections', () => {
    const other = topic('u', p('a'), section('s1', 'S', p('b')));
    const blocks = ownTextOf(only('os is linux', place('u')), other);
    expect(blocks.map((block) => [block.type, block.attrs?.['when']])).toEqual([
      ['paragraph', 'os is linux'],
      ['section', 'os is linux'],
    ]);
    expect(ownTextOf(place('u', { withTitle: true }), other).map((block) => block.type)).toEqual(['section']);
  });

  it('brings a section alone where only that was placed, under all that it stood under', () => {
    const limited = component(
      'topic',
      'u',
      only('os is linux', topicBody('U', p('a'), only('level is basic', section('s1', 'S', p('b'))))),
    );
    const [copy, ...more] = ownTextOf(place('u', { section: 's1' }), limited);
    expect(more).toEqual([]);
    expect(copy?.attrs?.['when']).toBe('os is linux and level is basic');
    expect(copy?.content).toEqual([p('b')]);
    expect(ownTextOf(place('u', { section: 'gone' }), limited)).toEqual([]);
    const [word] = ownWordsOf(
      makeNode('inline_placement', { component: 'ph' }),
      component('snippet', 'ph', only('os is mac', phrase('x'))),
    );
    expect(word?.marks).toEqual([{ type: 'condition', attrs: { when: 'os is mac' } }]);
  });

  it('stands as words in a line, under both conditions', () => {
    const placement: ContentNode = {
      type: 'inline_placement',
      attrs: { component: 'ph' },
      marks: [{ type: 'condition', attrs: { when: 'os is mac' } }],
    };
    const placed = component('snippet', 'ph', phrase('a ', words('level is basic', 'b')));
    expect(ownWordsOf(placement, placed).map((node) => (node.marks ?? []).map((mark) => mark.attrs?.['when']))).toEqual(
      [['os is mac'], ['level is basic', 'os is mac']],
    );
    expect(ownWordsOf(placement, source)).toEqual([]);
  });

  it('reads as before in every variant', () => {
    const when = fc.constantFrom(null, 'os is linux', 'os is mac', 'level is basic');
    const block = fc
      .tuple(when, fc.constantFrom('a', 'b', 'c'))
      .map(([condition, text]) => (condition ? only(condition, p(text)) : p(text)));
    fc.assert(
      fc.property(fc.array(block, { minLength: 1, maxLength: 4 }), when, (blocks, around) => {
        const placed = snippet('s', ...blocks);
        const body = topicBody('T', p('x'), withId('p1', around ? only(around, place('s')) : place('s')));
        expect(read(component('topic', 't', turnIntoOwnText(body, 'p1', placed)))).toBe(
          read(component('topic', 't', body), placed),
        );
      }),
    );
  });
});

describe('Own text turned into a snippet', () => {
  const keys = { own: 't', snippet: 's' };
  const body = topicBody(
    'T',
    withId('b1', p('start', see(null, 'b3'))),
    withId('b2', p('one', see(null, 'b1'))),
    withId('b3', list(withId('b4', p('two')))),
    withId('b5', p('end')),
  );

  it('leaves a placement, moves the blocks, and lets references follow', () => {
    const made = turnIntoSnippet(body, 'b2', 'b3', keys);
    expect(made?.moved).toEqual(['b2', 'b3', 'b4']);
    expect(made && checkBody(made.body)).toEqual([]);
    expect(made && checkBody(made.snippet)).toEqual([]);
    expect(made && targets(made.body)).toEqual([['s', 'b3']]);
    expect(made && targets(made.snippet)).toEqual([['t', 'b1']]);
    expect(made && read(component('topic', 't', made.body), component('snippet', 's', made.snippet))).toBe(
      read(component('topic', 't', body)),
    );
  });

  it('takes blocks at any depth, and refuses what is no run of siblings', () => {
    const nested = topicBody('T', section('s1', 'S', withId('b1', p('a')), withId('b2', p('b'))));
    expect(turnIntoSnippet(nested, 'b1', 'b1', keys)?.moved).toEqual(['b1']);
    expect(turnIntoSnippet(body, 'b3', 'b2', keys)).toBeNull();
    expect(turnIntoSnippet(body, 'b4', 'b5', keys)).toBeNull();
  });
});
