import { build } from '../../../tests/support/build.js';
import {
  axes,
  component,
  entry,
  fragment,
  only,
  p,
  phrase,
  place,
  publicationOf,
  recipeOf,
  section,
  sourceOf,
  topic,
  topicBody,
} from '../../../tests/support/library-parts.js';
import { Memory } from '../assemble/memory.js';
import { assembleBody, assemblePublication } from '../assemble/assemble.js';
import { componentFrom, type Component } from '../model/component.js';
import { makeNode } from '../model/node.js';
import type { Recipe } from '../model/publication.js';
import type { Source } from '../model/source.js';
import { flattenPages } from '../number/numbered.js';
import { OriginTeller } from '../origin/origin.js';
import { web } from '../output/web/web.js';
import { conditionFindings } from '../reach/condition-findings.js';
import { coverageOf } from '../reach/coverage.js';
import { staleness } from '../reach/freshness.js';
import { reachOf } from '../reach/reach.js';
import { VariantSets } from '../variation/variant-sets.js';

/** A component that says of itself to whom it applies (product.md, Topics' own conditions). */
const limitedTopic = (key: string, when: string, text = `text of ${key}`): Component =>
  component(
    'topic',
    key,
    only(when, topicBody(`Title of ${key}`, p(text), section('s1', 'Part', p(`part of ${key}`)))),
  );
const limitedSnippet = (key: string, when: string): Component =>
  component('snippet', key, only(when, fragment(p(`text of ${key}`))));
const later = (each: Component): Component => componentFrom({ ...each, revision: each.revision + 1 });

const book = publicationOf([
  entry('e1', 't1', { entries: [entry('e2', 't2', { entries: [entry('e3', 't3')] })] }),
  entry('e4', 't2'),
]);
const on = (os: string, more: Partial<Recipe> = {}): Recipe =>
  recipeOf(book, { profile: { axes: { os: { default: 'out', in: [os] } } }, ...more });
const pagesIn = (source: Source, recipe: Recipe): readonly string[] =>
  flattenPages(build(source, recipe).numbered.pages).map(({ topic: key }) => key ?? '');
const textIn = (source: Source, recipe: Recipe): string =>
  build(source, recipe)
    .files.filter(({ path }) => path === 't1.html')
    .map(({ text }) => text)
    .join('')
    .replace(/<[^>]+>/g, ' ')
    .replace(/\s+/g, ' ');
const sourceWith = (...more: Component[]): Source =>
  sourceOf([topic('t1', p('x')), limitedTopic('t2', 'os is mac'), topic('t3', p('x')), ...more]);

describe('The own condition of a component', () => {
  it('holds in every entry of an outline, for what stands below it, too', () => {
    expect(pagesIn(sourceWith(), on('mac'))).toEqual(['t1', 't2', 't3', 't2']);
    expect(pagesIn(sourceWith(), on('linux'))).toEqual(['t1']);
  });

  it('holds in every placement: of the whole, of a section, in a sentence, in a slot', () => {
    const inLine = makeNode('inline_placement', { component: 'ph' });
    const placing = topic(
      't1',
      p('Begin.'),
      place('t2'),
      place('t2', { section: 's1' }),
      place('sn'),
      p('a ', inLine, ' b'),
      makeNode('slot', { id: 'slot', collection: 'tips' }),
    );
    const tip: Component = {
      ...limitedSnippet('tip', 'os is mac'),
      labels: { collection: 'tips', tags: {} },
    } as Component;
    const source = sourceOf([
      placing,
      limitedTopic('t2', 'os is mac'),
      topic('t3', p('x')),
      limitedSnippet('sn', 'os is mac'),
      component('snippet', 'ph', only('os is mac', phrase('phrase'))),
      tip,
    ]);
    const there = ['text of t2', 'part of t2', 'text of sn', 'a phrase b', 'text of tip'];
    expect(there.filter((text) => textIn(source, on('mac')).includes(text))).toEqual(there);
    const linux = textIn(source, on('linux'));
    expect(there.filter((text) => linux.includes(text))).toEqual([]);
    // The sentence closes without a doubled space.
    expect(linux).toContain('Begin. a b');
  });

  it('is told where it names what is not defined, and lets nothing in', () => {
    const source = sourceOf([topic('t1', p('x')), limitedTopic('t2', 'os is macc'), topic('t3', p('x'))]);
    const { numbered } = build(source, on('mac'));
    const told = numbered.problems.filter(({ code }) => code === 'undefined-value');
    expect(told.map(({ place: { component: key } }) => key)).toEqual(['t2']);
    expect(told[0]?.message).toContain('macc');
    expect(pagesIn(source, on('mac'))).toEqual(['t1']);
  });

  it('is read alone as it is read anywhere', () => {
    const source = sourceWith();
    const read = (os: string) => assembleBody(source, on(os), limitedTopic('t2', 'os is mac')).content.length;
    expect([read('mac') > 0, read('linux')]).toEqual([true, 0]);
  });

  it('counts in coverage, and its findings are told once for the component', () => {
    const profiles = ['mac', 'linux'].map((os) => on(os).profile);
    const sets = new VariantSets({ axes, stamps: [] }, profiles);
    const covered = coverageOf(sourceWith(), sets, book);
    expect(covered.map(({ entry: id, cells }) => [id, ...cells.map((cell) => cell.in)])).toEqual([
      ['e1', true, true],
      ['e2', true, false],
      ['e3', true, false],
      ['e4', true, false],
    ]);
    const findings = (when: string) =>
      conditionFindings(sourceOf([topic('t1', p('x')), limitedTopic('t2', when), topic('t3', p('x'))]), sets, book).map(
        ({ kind, component: key, place: block }) => [kind, key, block],
      );
    expect(findings('os is mac')).toEqual([]);
    expect(findings('os is mac, linux')).toEqual([['changes-nothing', 't2', null]]);
    expect(findings('os is mac and os is linux')).toContain(['never-in', 't2', null]);
  });

  it('makes stale what it lets in or leaves out, and nothing else', () => {
    const causes = (before: Source, recipe: Recipe, after: Source) =>
      staleness(build(before, recipe).record(), after, recipe, { memory: new Memory(), formats: [web] }).causes;
    const free = sourceOf([topic('t1', p('x')), topic('t2', p('text of t2')), topic('t3', p('x'))]);
    const limited = sourceOf([topic('t1', p('x')), later(limitedTopic('t2', 'os is mac')), topic('t3', p('x'))]);
    expect(causes(free, on('linux'), limited).length).toBeGreaterThan(0);
    const reworded = sourceOf([
      topic('t1', p('x')),
      later(limitedTopic('t2', 'os is mac', 'other words')),
      topic('t3', p('x')),
    ]);
    expect(causes(sourceWith(), on('linux'), reworded)).toEqual([]);
    expect(causes(sourceWith(), on('mac'), reworded)).toEqual([{ kind: 'component', component: 't2', from: 1, to: 2 }]);
    // Let in again: nothing but the condition tells so.
    const opened = sourceOf([topic('t1', p('x')), later(limitedTopic('t2', 'os is linux')), topic('t3', p('x'))]);
    expect(causes(sourceWith(), on('linux'), opened)).toContain({ kind: 'own condition', component: 't2' });
  });

  it('reaches what stands below its entries', () => {
    const after = later(limitedTopic('t2', 'os is linux'));
    const components = [topic('t1', p('x')), after, topic('t3', p('x'))];
    const [group] = reachOf(sourceWith(), sourceOf(components), after, components, [on('mac')]);
    expect(group?.topics.map(({ topic: key }) => key)).toEqual(['t2', 't3', 't2']);
  });

  it('is what Origin says of an entry that is left out', () => {
    const [source, recipe] = [sourceWith(), on('linux')];
    const origins = new OriginTeller(source, recipe, assemblePublication(source, recipe));
    const told = origins.leftOutOfOutline().map(({ entry: id, when }) => [id, when]);
    expect(told).toEqual([
      ['e2', 'os is mac'],
      ['e4', 'os is mac'],
    ]);
  });
});
