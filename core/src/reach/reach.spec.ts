import { componentFrom, type Component } from '../model/component.js';
import { makeNode, type ContentNode } from '../model/node.js';
import type { Recipe } from '../model/publication.js';
import { profiles } from '../../../tests/support/any-library.js';
import {
  component,
  constant,
  entry,
  only,
  p,
  phrase,
  place,
  publicationOf,
  recipeOf,
  snippet,
  sourceOf,
  topic,
  variable,
  words,
} from '../../../tests/support/library-parts.js';
import { reachOf, type ReachGroup } from './reach.js';

const inPhrase = (key: string): ContentNode => makeNode('inline_placement', { component: key });

const book = publicationOf([entry('e1', 't1'), entry('e2', 't2'), entry('e3', 't3')]);
const recipes: readonly Recipe[] = profiles.map((profile) => recipeOf(book, { profile }));

function reach(
  components: readonly Component[],
  changed: Component,
  of: readonly Recipe[] = recipes,
): readonly ReachGroup[] {
  const after = components.map((each) =>
    each.key === changed.key ? componentFrom({ ...changed, revision: each.revision + 1 }) : each,
  );
  const component = after.find((each) => each.key === changed.key) as Component;
  return reachOf(sourceOf(components), sourceOf(after), component, components, of);
}

describe('The reach of a change', () => {
  it('looks at the title of the publication as formats show it: its words, spaces folded', () => {
    const named = recipeOf(publicationOf([entry('e1', 't1')], { title: phrase('The ', inPhrase('p'), ' book') }));
    const after = (...parts: Parameters<typeof phrase>): number => {
      const components = [topic('t1', p('x')), component('snippet', 'p', phrase(' '))];
      return reach(components, component('snippet', 'p', phrase(...parts)), [named]).length;
    };
    expect([after(), after('  '), after('good')]).toEqual([0, 0, 1]);
    // A marker stands where a value is missing.
    expect(after(variable('none'))).toBe(1);
  });

  it('shows the passages before and after, equal ones folded', () => {
    const written = (text: string): Component => snippet('s', p(text, words('os is mac', ' On a Mac.')));
    const components = [
      topic('t1', p('x'), place('s')),
      topic('t2', only('level is expert', place('s'))),
      topic('t3', p('x')),
      written('Rain.'),
    ];
    const told = reach(components, written('Wind.')).map(({ variants, topics }) => [
      variants,
      topics.map(({ topic: key, passages }) => [
        key,
        ...passages.map(({ before, after }) => `${before?.text ?? ''} → ${after?.text ?? ''}`),
      ]),
    ]);
    expect(told).toEqual([
      [[0], [['t1', 'Rain. → Wind.']]],
      [
        [1],
        [
          ['t1', 'Rain. → Wind.'],
          ['t2', 'Rain. → Wind.'],
        ],
      ],
      [[2], [['t1', 'Rain. On a Mac. → Wind. On a Mac.']]],
      [
        [3],
        [
          ['t1', 'Rain. On a Mac. → Wind. On a Mac.'],
          ['t2', 'Rain. On a Mac. → Wind. On a Mac.'],
        ],
      ],
    ]);
    const same = [topic('t1', place('s')), topic('t2', p('x')), topic('t3', p('x')), snippet('s', p('a'))];
    expect(reach(same, snippet('s', p('b'))).map(({ variants }) => variants)).toEqual([[0, 1, 2, 3]]);
    expect(reach(same, topic('t2', p('x')))).toEqual([]);
  });

  it('goes through values that a variant gives', () => {
    const components = [
      topic('t1', p(variable('a'))),
      topic('t2', p('x')),
      topic('t3', p('x')),
      constant('a', '1'),
      constant('b', '2'),
    ];
    const given = recipeOf(book, { values: { a: phrase(variable('b')) } });
    expect(reach(components, constant('b', '3'), [recipeOf(book), given]).map(({ variants }) => variants)).toEqual([
      [1],
    ]);
  });
});
