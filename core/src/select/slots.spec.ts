import { parse } from 'node-html-parser';
import { makeNode, type ContentNode } from '../model/node.js';
import type { Component } from '../model/component.js';
import { build, fileOf } from '../../../tests/support/build.js';
import {
  entry,
  only,
  p,
  publicationOf,
  recipeOf,
  section,
  snippet,
  sourceOf,
  textIn,
  topic,
} from '../../../tests/support/library-parts.js';
import { assemblePublication } from '../assemble/assemble.js';
import { candidatesOf } from './slots.js';

const tip = (key: string, subject: string, ...flow: ContentNode[]): Component => ({
  ...snippet(key, ...flow),
  labels: { collection: 'tips', tags: { subject: [subject] } },
});
const slot = (more: Readonly<Record<string, unknown>> = {}): ContentNode =>
  makeNode('slot', { id: 'sl', collection: 'tips', ...more });
const about = (subject: string, ...flow: ContentNode[]): Component => ({
  ...topic('t', ...flow),
  labels: { collection: null, tags: { subject: [subject] } },
});
const tips = [
  tip('b', 'wind', p('wind tip')),
  tip('a', 'rain', p('rain tip')),
  tip('c', 'rain', only('os is mac', p('mac tip'))),
];

describe('Slots', () => {
  it('take all of a collection, or those that share a value of a tag with the topic', () => {
    const { library } = sourceOf([...tips, snippet('other', p('x'))]);
    const keys = (node: ContentNode, of: Component) => candidatesOf(library, node, of).map(({ key }) => key);
    expect(keys(slot(), about('rain'))).toEqual(['a', 'b', 'c']);
    expect(keys(slot({ matching: 'subject' }), about('rain'))).toEqual(['a', 'c']);
    expect(keys(slot({ matching: 'subject' }), about('hail'))).toEqual([]);
    expect(keys(slot({ matching: 'audience' }), about('rain'))).toEqual([]);
    expect(keys(makeNode('slot', { collection: 'none' }), about('rain'))).toEqual([]);
  });

  it('hold what the variant lets in of the candidates, one of them stated', () => {
    const shown = (node: ContentNode) => {
      const source = sourceOf([about('rain', p('x'), node), ...tips]);
      return assemblePublication(source, recipeOf(publicationOf([entry('e', 't')])));
    };
    const [, filled] = shown(slot()).entries[0]?.blocks ?? [];
    expect([filled?.type, filled?.attrs?.['stated'], textIn(filled?.content ?? [])]).toEqual([
      'slot',
      'a',
      'rain tip|wind tip',
    ]);
    expect(shown(slot({ stated: 'b' })).entries[0]?.blocks[1]?.attrs?.['stated']).toBe('b');
    // What is stated and out gives its place to the first.
    expect(shown(slot({ stated: 'c' })).entries[0]?.blocks[1]?.attrs?.['stated']).toBe('a');
    const empty = shown(slot({ collection: 'none' }));
    expect(empty.entries[0]?.blocks.length).toBe(1);
    expect(empty.problems.map(({ code, place }) => [code, place.block])).toEqual([['missing-slot-content', 'sl']]);
  });

  it('number the stated candidate only, and show it first', () => {
    const sections = [tip('a', 'rain', section('s', 'A', p('x'))), tip('b', 'rain', section('s', 'B', p('x')))];
    const source = sourceOf([about('rain', slot({ stated: 'b' }), section('z', 'Z', p('x'))), ...sections]);
    const built = build(source, recipeOf(publicationOf([entry('e', 't')])));
    expect(built.numbered.pages[0]?.labels.map(({ number }) => number)).toEqual(['', '1.1', '1.2']);
    const page = parse(fileOf(built, 't.html'));
    expect(
      page.querySelectorAll('.slot > div').map((each) => [each.hasAttribute('hidden'), each.querySelector('h2')?.text]),
    ).toEqual([
      [true, 'A'],
      [false, '1.1 B'],
    ]);
    expect(page.querySelector('.slot')?.getAttribute('data-slot')).not.toBe('');
    expect(new Set(page.querySelectorAll('[id]').map((each) => each.id)).size).toBe(
      page.querySelectorAll('[id]').length,
    );
  });
});
