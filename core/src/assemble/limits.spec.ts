import { libraryOf, type Component } from '../model/component.js';
import { limits, TooLargeError } from '../model/limits.js';
import { makeNode, makeText, type ContentNode } from '../model/node.js';
import type { Publication } from '../model/publication.js';
import type { Source } from '../model/source.js';
import { numberPublication } from '../number/number.js';
import { web } from '../output/web/web.js';
import { coverageOf } from '../reach/coverage.js';
import { VariantSets } from '../variation/variant-sets.js';
import { recipeOf } from '../../../tests/support/library-parts.js';
import { assembleBody, assemblePublication } from './assemble.js';

/** Content that a person can save and that nothing could build if it were taken at its word. */

const paragraph = (...inline: readonly ContentNode[]): ContentNode => makeNode('paragraph', null, inline);
const fragment = (key: string, ...content: readonly ContentNode[]): Component => ({
  key,
  kind: 'snippet',
  title: key,
  revision: 1,
  body: makeNode('fragment', null, content),
});
const topic = (...content: readonly ContentNode[]): Component => ({
  key: 't',
  kind: 'topic',
  title: 'T',
  revision: 1,
  body: makeNode('topic', null, [makeNode('title', null, [makeText('T')]), ...content]),
});
const times = <T>(count: number, make: (at: number) => T): readonly T[] =>
  Array.from({ length: count }, (_, at) => make(at));

const publication: Publication = {
  key: 'p',
  title: makeNode('phrase', null, [makeText('P')]),
  values: {},
  entries: [{ id: 'e1', topic: 't' }],
};
const sourceOf = (...components: readonly Component[]): Source => ({
  library: libraryOf(components),
  axes: [],
  stamps: [],
  publications: new Map(),
});
const build = (source: Source) => {
  const recipe = recipeOf(publication, { profile: { axes: {} } });
  const assembled = assemblePublication(source, recipe);
  return {
    problems: assembled.problems.map(({ code }) => code),
    files: web.render(numberPublication(assembled, recipe)).files,
  };
};
const sets = new VariantSets({ axes: [], stamps: [] }, [{ axes: {} }]);

describe('Content without measure', () => {
  it('that fans out is cut where it grows too large, and the rest is built', () => {
    const fan = times(10, (at) =>
      fragment(
        `s${at}`,
        ...(at < 9 ? times(10, () => makeNode('placement', { component: `s${at + 1}` })) : [paragraph(makeText('x'))]),
      ),
    );
    const source = sourceOf(topic(paragraph(makeText('Before.')), makeNode('placement', { component: 's0' })), ...fan);
    const { problems, files } = build(source);
    expect(problems).toContain('too-large');
    expect(files.find(({ path }) => path === 't.html')?.text).toContain('Before.');
    expect(() => coverageOf(source, sets, publication)).toThrowError(TooLargeError);
  });

  it('that fans out through slots is cut as well', () => {
    const slot = (at: number): ContentNode => makeNode('slot', { id: 'b1', collection: `c${at}` });
    const members = times(8, (at) =>
      times(10, (each): Component => ({
        ...fragment(`s${at}-${each}`, at < 7 ? slot(at + 1) : paragraph(makeText('x'))),
        labels: { collection: `c${at}`, tags: {} },
      })),
    ).flat();
    const source = sourceOf(topic(slot(0)), ...members);
    const [own] = source.library.collection('c0');
    expect(build(source).problems).toContain('too-large');
    // As the preview shows a snippet by itself.
    const shown = own && assembleBody(source, recipeOf(publication, { profile: { axes: {} } }), own);
    expect(shown?.problems.map(({ code }) => code)).toContain('too-large');
  });

  it('in the values of variables is cut as well', () => {
    const variables = times(9, (at): Component => ({
      key: `v${at}`,
      kind: 'variable',
      title: `v${at}`,
      revision: 1,
      body: {
        type: 'variable',
        default: makeNode(
          'phrase',
          null,
          at < 8 ? times(10, () => makeNode('variable', { key: `v${at + 1}` })) : [makeText('x')],
        ),
        rules: [],
      },
    }));
    const { problems } = build(sourceOf(topic(paragraph(makeNode('variable', { key: 'v0' }))), ...variables));
    expect(problems).toContain('too-large');
  });

  it('that nests without end ends in a sentence', () => {
    const chain = times(3000, (at) =>
      fragment(`s${at}`, at < 2999 ? makeNode('placement', { component: `s${at + 1}` }) : paragraph(makeText('x'))),
    );
    const source = sourceOf(topic(makeNode('placement', { component: 's0' })), ...chain);
    expect(() => build(source)).toThrowError(TooLargeError);
    expect(() => coverageOf(source, sets, publication)).toThrowError(TooLargeError);
  });

  it('is not what nests as deep as placements may', () => {
    const deepest = limits.placementDepth - 1;
    const chain = times(deepest, (at) =>
      fragment(
        `s${at}`,
        makeNode('bullet_list', null, [
          makeNode('list_item', null, [
            at < deepest - 1 ? makeNode('placement', { component: `s${at + 1}` }) : paragraph(makeText('The end.')),
          ]),
        ]),
      ),
    );
    const source = sourceOf(topic(makeNode('placement', { component: 's0' })), ...chain);
    expect(build(source).files.find(({ path }) => path === 't.html')?.text).toContain('The end.');
    expect(coverageOf(source, sets, publication)[0]?.blocks).toBeGreaterThan(0);
  });
});
