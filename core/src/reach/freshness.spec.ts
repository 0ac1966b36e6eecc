import { createHash } from 'node:crypto';
import fc from 'fast-check';
import { assemblePublication, type Source } from '../assemble/assemble.js';
import { makeNode } from '../content/node.js';
import type { Component } from '../library/component.js';
import { labelledDesign } from '../number/design.js';
import { buildSite, updateSite } from '../output/html/site-build.js';
import type { Recipe } from '../publication/publication.js';
import { anyChange, anyProfile, anyRelabelling } from '../../../tests/support/any-library.js';
import {
  axes,
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
import { contributionOf, digestOf } from './digest.js';
import { recordBuild, staleCauses, type StaleCause } from './freshness.js';
import { Selector } from '../variation/selector.js';

const book = publicationOf([entry('e1', 't1', { entries: [entry('e2', 't2')] }), entry('e3', 't3')]);
const later = (each: Component): Component => ({ ...each, revision: each.revision + 1 });
const causesOf = (before: Source, recipe: Recipe, after: Source, now: Recipe = recipe): readonly StaleCause[] => {
  const record = recordBuild({ assembled: assemblePublication(before, recipe), source: before, recipe });
  // Records are stored as JSON.
  return staleCauses(JSON.parse(JSON.stringify(record)) as typeof record, after, now);
};

describe('Freshness', () => {
  for (const [what, changes, causeOf] of [
    ['a body', anyChange, (key: string): StaleCause => ({ kind: 'component', component: key, from: 1, to: 2 })],
    ['labels', anyRelabelling, (): StaleCause => ({ kind: 'slot', collection: 'tips' })],
  ] as const) {
    it(`ends exactly where building again after a change of ${what} gives other pages`, () => {
      let stale = 0;
      fc.assert(
        fc.property(changes, anyProfile, ({ before, after, key }, profile) => {
          const recipe = recipeOf(book, { profile, design: labelledDesign });
          const [was, is] = [sourceOf(before), sourceOf(after)];
          const causes = causesOf(was, recipe, is);
          // With the revisions that were built, the same is told in another way.
          expect(causesOf(was, recipe, sourceOf(after, before))).toEqual(causes);
          const same =
            JSON.stringify(buildSite(was, recipe).files) ===
            JSON.stringify(buildSite({ ...is, publications: was.publications }, recipe).files);
          expect(causes.length === 0)
            .withContext(key)
            .toBe(same);
          if (!same) {
            expect(causes).toContain(causeOf(key));
            stale += 1;
          }
        }),
        { numRuns: 300 },
      );
      expect(stale).toBeGreaterThan(20);
    });
  }

  it('is recorded the same whether a build took over what was recorded before or not', () => {
    let shared = 0;
    fc.assert(
      fc.property(fc.oneof(anyChange, anyRelabelling), anyProfile, ({ before, after }, profile) => {
        const recipe = recipeOf(book, { profile, design: labelledDesign });
        const source = sourceOf(before);
        const first = buildSite(source, recipe);
        const record = recordBuild(first);
        const updated = updateSite(first, { ...sourceOf(after), publications: source.publications }, recipe);
        const taken = recordBuild(updated, { ...first, record });
        expect(taken).toEqual(recordBuild(updated));
        shared += taken.pages.filter((page) => record.pages.includes(page)).length;
        // What is recorded after the step is fresh.
        expect(staleCauses(taken, updated.source, recipe)).toEqual([]);
      }),
      { numRuns: 100 },
    );
    expect(shared).toBeGreaterThan(50);
  });

  it('stays where a change is in what the variant leaves out', () => {
    const written = (text: string): Component =>
      topic('t1', p('x'), only('os is mac', p(text)), p('a', words('os is mac', text)));
    const rest = [topic('t2', p('x')), topic('t3', p('x'))];
    const source = sourceOf([written('old'), ...rest]);
    expect(causesOf(source, recipeOf(book), sourceOf([later(written('new')), ...rest]))).toEqual([]);
    const mac = recipeOf(book, { profile: { axes: { os: { default: 'in' } } } });
    expect(causesOf(source, mac, sourceOf([later(written('new')), ...rest]))).toEqual([
      { kind: 'component', component: 't1', from: 1, to: 2 },
    ]);
  });

  it('stays where a word and a variable with the same value change places', () => {
    const rest = [topic('t2', p('x')), topic('t3', p('x')), constant('v', 'Dunlin')];
    const before = sourceOf([topic('t1', p('the ', variable('v'))), ...rest]);
    const after = sourceOf([later(topic('t1', p('the ', phraseText('Dunlin')))), ...rest]);
    expect(causesOf(before, recipeOf(book), after).length).toBe(0);
    expect(causesOf(before, recipeOf(book, { values: { v: phrase('Other') } }), after).length).toBe(1);
  });

  it('ends for each part of the recipe, and not for the vocabulary alone', () => {
    const source = sourceOf(['t1', 't2', 't3'].map((key) => topic(key, only('os is linux', p('x')), p('y'))));
    const recipe = recipeOf(book);
    const kinds = (now: Partial<Recipe>) =>
      causesOf(source, recipe, source, { ...recipe, ...now }).map((each) => JSON.stringify(each));
    expect(kinds({})).toEqual([]);
    expect(kinds({ variantTitle: 'Other' })).toEqual(['{"kind":"recipe","part":"title"}']);
    expect(kinds({ language: 'de' })).toEqual(['{"kind":"recipe","part":"language"}']);
    expect(kinds({ design: labelledDesign })).toEqual(['{"kind":"recipe","part":"design"}']);
    expect(kinds({ values: { v: phrase('x') } })).toEqual(['{"kind":"recipe","part":"values"}']);
    expect(kinds({ publication: { ...book, entries: book.entries.slice(0, 1) } })).toEqual(['{"kind":"outline"}']);
    expect(kinds({ profile: { axes: {} } })).toEqual([]);
    expect(kinds({ profile: { axes: { os: { default: 'out' } } } })).toEqual([
      '{"kind":"condition","when":"os is linux"}',
    ]);
    const more = { ...source, axes: [...axes, { key: 'market', title: 'Market', values: [] }] };
    expect(causesOf(source, recipe, more)).toEqual([]);
  });

  it('depends on the day only where the date is shown', () => {
    const dated = (node: ReturnType<typeof variable>) =>
      sourceOf([topic('t1', p(node)), topic('t2', p('x')), topic('t3', p('x'))]);
    const next = recipeOf(book, { buildDate: '2027-01-01' });
    expect(causesOf(dated(variable('@build-date')), recipeOf(book), dated(variable('@build-date')), next)).toEqual([
      { kind: 'recipe', part: 'date' },
    ]);
    expect(causesOf(dated(variable('@language')), recipeOf(book), dated(variable('@language')), next)).toEqual([]);
    const shown = (source: Source, recipe = recipeOf(book)): number =>
      causesOf(source, recipe, source, { ...recipe, buildDate: next.buildDate }).length;
    // In a value, in a revision that is held, in a slot, in the publication's title.
    const at = component('variable', 'at', { type: 'variable', default: phrase(variable('@build-date')), rules: [] });
    const rest = [topic('t2', p('x')), topic('t3', p('x'))];
    expect(shown(sourceOf([topic('t1', p(variable('at'))), ...rest, at]))).toBe(1);
    const old = snippet('s', p(variable('@build-date')));
    const held = topic('t1', place('s', { mode: 'held', revision: 1 }));
    expect(shown(sourceOf([held, ...rest, later(snippet('s', p('y')))], [old]))).toBe(1);
    const tip = { ...snippet('tip', p(variable('@build-date'))), labels: { collection: 'tips', tags: {} } };
    expect(shown(sourceOf([topic('t1', makeNode('slot', { collection: 'tips' })), ...rest, tip]))).toBe(1);
    const title = phrase(variable('@build-date'));
    expect(shown(sourceOf([topic('t1', p('x')), ...rest]), recipeOf({ ...book, title }))).toBe(1);
    // Not where the variant leaves it out.
    expect(shown(dated(words('os is mac', 'x')))).toBe(0);
    expect(shown(sourceOf([topic('t1', only('os is mac', p(variable('@build-date'))), p('x')), ...rest]))).toBe(0);
  });

  it('ends when a component comes, goes, or joins the collection of a slot', () => {
    const slot = makeNode('slot', { id: 'sl', collection: 'tips' });
    const tip = { ...snippet('tip', p('t')), labels: { collection: 'tips', tags: {} } };
    const two = { ...snippet('two', p('u')), labels: { collection: 'tips', tags: {} } };
    const rest = [topic('t1', slot), topic('t2', place('s')), topic('t3', p('x'))];
    const recipe = recipeOf(book);
    const source = sourceOf([...rest, tip, snippet('s', p('here'))]);
    expect(causesOf(source, recipe, sourceOf([...rest, tip, two, snippet('s', p('here'))]))).toEqual([
      { kind: 'slot', collection: 'tips' },
    ]);
    expect(causesOf(source, recipe, sourceOf([...rest, tip]))).toEqual([
      { kind: 'component', component: 's', from: 1, to: 0 },
    ]);
    const without = sourceOf([...rest, tip]);
    expect(causesOf(without, recipe, source)).toEqual([{ kind: 'component', component: 's', from: 0, to: 1 }]);
  });
});

describe('Digests', () => {
  it('are the beginning of SHA-256', () => {
    // FIPS 180-4, by NIST's example “abc”: ba7816bf 8f01cfea 414140de 5dae2223 ...
    expect(digestOf('abc')).toBe('ba7816bf8f01cfea414140de5dae2223');
    expect(digestOf('Größe')).toBe(createHash('sha256').update('Größe').digest('hex').slice(0, 32));
  });

  it('of contributions follow what a profile selects', () => {
    const linux = new Selector(axes, { axes: { os: { default: 'out', in: ['linux'] } } });
    const mac = new Selector(axes, { axes: { os: { default: 'out', in: ['mac'] } } });
    const of = (each: Component, selector: Selector): string => contributionOf(each, selector, 'en');
    const value = component('variable', 'v', {
      type: 'variable',
      default: phrase('a'),
      rules: [{ when: 'os is mac', language: null, value: phrase('b') }],
    });
    expect(of(value, linux)).toBe(of(constant('v', 'a'), linux));
    expect(of(value, mac)).toBe(of(constant('v', 'b'), mac));
    expect(of(value, mac)).not.toBe(of(value, linux));
    const link = component('link', 'l', { type: 'link', href: 'https://x.example/', label: 'x' });
    expect(of(link, linux)).toBe(of(link, mac));
  });
});

function phraseText(text: string): ReturnType<typeof variable> {
  return { type: 'text', text };
}
