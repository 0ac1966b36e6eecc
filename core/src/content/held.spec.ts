import { compareBodies } from '../compare/compare-bodies.js';
import { componentFrom, type Component } from '../model/component.js';
import { makeNode, makeText, type ContentNode } from '../model/node.js';
import { fragment, p } from '../../../tests/support/library-parts.js';
import { broughtUpToDate, placesBehind } from './held.js';

const holder = (...flow: ContentNode[]): Component =>
  componentFrom({ key: 'h', kind: 'snippet', title: 'H', revision: 1, body: fragment(...flow) });
const held = (component: string, revision: number, type = 'placement'): ContentNode =>
  makeNode(type as 'placement', { component, mode: 'held', revision });

describe('Held content', () => {
  it('is brought to the newest revision wherever it is behind, and nothing else is touched', () => {
    const live = makeNode('placement', { component: 's', mode: 'live', revision: null });
    const own = holder(held('s', 1), live, held('t', 1), p('x ', held('s', 2, 'inline_placement')), held('s', 3));
    expect(placesBehind(own, 's', 3)).toBe(2);
    const body = broughtUpToDate(own, 's', 3) as ContentNode;
    expect(body).toEqual(
      fragment(held('s', 3), live, held('t', 1), p('x ', held('s', 3, 'inline_placement')), held('s', 3)),
    );
    expect(placesBehind({ ...own, body } as Component, 's', 3)).toBe(0);
    const variable = componentFrom({
      key: 'v',
      kind: 'variable',
      title: 'V',
      revision: 1,
      body: { type: 'variable', default: makeNode('phrase', null, [held('s', 1, 'inline_placement')]), rules: [] },
    });
    expect(placesBehind(variable, 's', 2)).toBe(1);
    expect(placesBehind({ ...variable, body: broughtUpToDate(variable, 's', 2) } as Component, 's', 2)).toBe(0);
  });
});

describe('Two bodies beside each other', () => {
  it('differ by passages, word by word, by what stands in them and by their conditions', () => {
    const paragraph = (id: string, ...content: ContentNode[]): ContentNode => makeNode('paragraph', { id }, content);
    const limited = makeText('two', [{ type: 'condition', attrs: { when: 'os is linux' } }]);
    const before = fragment(
      paragraph('a', makeText('One word.')),
      paragraph('b', makeText('two')),
      paragraph('c', makeText('Same.')),
    );
    const after = fragment(
      paragraph('a', makeText('One other word of '), makeNode('variable', { key: 'v' })),
      paragraph('b', limited),
      paragraph('c', makeText('Same.')),
      makeNode('placement', { component: 's' }),
    );
    const changes = compareBodies(before, after, (key) => `name of ${key}`).map(({ kind, before: was, after: is }) => [
      kind,
      was?.text ?? null,
      is?.text ?? null,
    ]);
    expect(changes).toEqual([
      ['changed', 'One word.', 'One other word of [name of v]'],
      ['changed', 'two', 'two (os is linux)'],
      ['same', 'Same.', 'Same.'],
      ['added', null, '[name of s]'],
    ]);
  });
});
