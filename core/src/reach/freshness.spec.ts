import { createHash } from 'node:crypto';
import { assemblePublication } from '../assemble/assemble.js';
import { Memory } from '../assemble/memory.js';
import { componentFrom, type Component } from '../model/component.js';
import { digestOf } from '../model/digest.js';
import { makeNode } from '../model/node.js';
import type { Recipe } from '../model/publication.js';
import type { Source } from '../model/source.js';
import type { Design } from '../design/design.js';
import { shippedDesign } from '../design/shipped.js';
import { numberPublication } from '../number/number.js';
import { formatsOf } from '../output/formats.js';
import { web } from '../output/web/web.js';
import { build } from '../../../tests/support/build.js';
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
import { staleness, type StaleCause, type Staleness } from './freshness.js';
import { recordBuild, type BuildRecord } from './record.js';

const book = publicationOf([entry('e1', 't1', { entries: [entry('e2', 't2')] }), entry('e3', 't3')]);
const later = (each: Component): Component => componentFrom({ ...each, revision: each.revision + 1 });
const causesOf = (before: Source, recipe: Recipe, after: Source, now: Recipe = recipe): readonly StaleCause[] =>
  staleness(build(before, recipe).record(), after, now, { memory: new Memory(), formats: [web] }).causes;

describe('Freshness', () => {
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
    // Every page says which variant it is of.
    expect(kinds({ variantTitle: 'Renamed' })).toEqual(['{"kind":"recipe","part":"variant title"}']);
    expect(kinds({})).toEqual([]);
    expect(kinds({ publication: { ...book, title: phrase('Another book') } }).length).toBe(1);
    expect(kinds({ language: 'de' })).toEqual(['{"kind":"recipe","part":"language"}']);
    expect(kinds({ design: shippedDesign('labelled') })).toEqual(['{"kind":"recipe","part":"design"}']);
    expect(kinds({ values: { v: phrase('x') } })).toEqual([]);
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

  it('is told format by format: what only one of them shows makes only that one stale', () => {
    const formats = formatsOf(['html', 'pdf', 'epub']);
    const source = sourceOf([topic('t1', p('x')), topic('t2', p('y')), topic('t3', p('z'))]);
    const recipe = recipeOf(book, { design: shippedDesign('plain') });
    const assembled = assemblePublication(source, recipe);
    const numbered = numberPublication(assembled, recipe);
    const made = formats.map((format) => ({ format, rendition: format.render(numbered) }));
    const record = JSON.parse(JSON.stringify(recordBuild(assembled, recipe, made))) as BuildRecord;
    const now = (design: Design, wanted = formats): Staleness =>
      staleness(record, source, { ...recipe, design }, { memory: new Memory(), formats: wanted });
    const { design } = recipe;
    expect(now({ ...design, web: { ...design.web, width: design.web.width + 4 } }).formats).toEqual(['html']);
    expect(now({ ...design, paper: { ...design.paper, top: design.paper.top + 4 } }).formats).toEqual(['pdf']);
    // A format that is wanted besides is not made yet; the others stay fresh.
    const more = now(design, formatsOf(['html', 'pdf', 'epub', 'markdown']));
    expect(more).toEqual({ causes: [{ kind: 'recipe', part: 'formats' }], formats: ['markdown'] });
    expect(now(design, formatsOf(['html', 'pdf'])).formats).toEqual([]);
    // Words are the same in all.
    const changed = sourceOf([later(topic('t1', p('other'))), topic('t2', p('y')), topic('t3', p('z'))]);
    expect(staleness(record, changed, recipe, { memory: new Memory(), formats }).formats).toEqual([
      'html',
      'pdf',
      'epub',
    ]);
  });
});

function phraseText(text: string): ReturnType<typeof variable> {
  return { type: 'text', text };
}
