import fc from 'fast-check';
import { assemblePublication } from '../assemble/assemble.js';
import { makeNode, makeText, walk, type ContentNode } from '../model/node.js';
import type { Component } from '../model/component.js';
import {
  axes,
  component,
  entry,
  fragment,
  list,
  only,
  p,
  place,
  publicationOf,
  recipeOf,
  section,
  see,
  snippet,
  sourceOf,
  topic,
  variable,
  words,
} from '../../../tests/support/library-parts.js';
import type { Profile } from '../model/profile.js';
import { VariantSets } from '../variation/variant-sets.js';
import { conditionFindings } from './condition-findings.js';
import { coverageOf } from './coverage.js';
import { setsOfComponent, setsOfPublication } from './walk-sets.js';

const profiles: readonly Profile[] = ['linux', 'mac'].flatMap((os) =>
  ['basic', 'expert'].map(
    (level) => ({ axes: { os: { default: 'out', in: [os] }, level: { default: 'out', in: [level] } } }) as const,
  ),
);
const sets = new VariantSets({ axes, stamps: [] }, profiles);

describe('Sets for all variants in one pass', () => {
  const placesOf = (components: readonly Component[], kind: string) =>
    setsOfComponent(sourceOf(components), sets, components[0] as Component)
      .filter((piece) => piece.kind === kind)
      .map((piece) => [piece.component, sets.positions(piece.set)]);

  it('go through blocks, words, placements and references', () => {
    const shown = topic(
      't',
      only('os is linux', section('s', 'S', only('level is basic', p('a', variable('v'), see('u', null))))),
      only('os is mac', place('sn')),
      p('x', words('level is expert', 'y')),
    );
    const other = snippet('sn', only('level is basic', p('b')));
    expect(placesOf([shown, other], 'block')).toEqual([
      ['t', [0, 1]],
      ['t', [0]],
      ['sn', [2]],
      ['t', [0, 1, 2, 3]],
    ]);
    expect(placesOf([shown, other], 'reference')).toEqual([
      ['t', [0]],
      ['t', [0]],
    ]);
    expect(placesOf([shown, other], 'placement')).toEqual([['t', [2, 3]]]);
    expect(placesOf([shown, other], 'words')).toEqual([['t', [1, 3]]]);
  });

  it('give each branch of a choice what the ones before it left', () => {
    const branch = (when: string | null, text: string) => makeNode('branch', { when }, [p(text)]);
    const shown = topic(
      't',
      makeNode('choice', null, [branch('os is linux', 'l'), branch('level is basic', 'b'), branch(null, 'o')]),
    );
    expect(placesOf([shown], 'block').map(([, positions]) => positions)).toEqual([[0, 1, 2, 3], [0, 1], [2], [3]]);
  });

  it('give cells the rows and the columns that they cover', () => {
    const cell = (text: string, colspan = 1): ContentNode => makeNode('table_cell', { colspan }, [p(text)]);
    const grid = makeNode('table_grid', { columns: [{ when: 'os is linux' }, { when: 'os is mac' }] }, [
      makeNode('table_row', { when: 'level is basic' }, [cell('a'), cell('b')]),
      makeNode('table_row', null, [cell('wide', 2)]),
    ]);
    const shown = topic('t', makeNode('table', null, [grid]));
    expect(placesOf([shown], 'block').map(([, positions]) => positions)).toEqual([
      [0, 1, 2, 3],
      [0],
      [2],
      [0, 1, 2, 3],
    ]);
  });

  it('end at a cycle, and hold revisions that are held', () => {
    const ring = [topic('t', place('a')), snippet('a', p('x'), place('b')), snippet('b', place('a'))];
    expect(placesOf(ring, 'block')).toEqual([['a', [0, 1, 2, 3]]]);
    const newest = component('snippet', 's', fragment(p('new'), p('more')), 2);
    const older = component('snippet', 's', fragment(p('old')), 1);
    const held = topic('t', place('s', { mode: 'held', revision: 1 }));
    expect(
      setsOfComponent(sourceOf([held, newest], [older]), sets, held).filter((piece) => piece.kind === 'block').length,
    ).toBe(1);
  });

  it('agree with the assembly of each variant, block by block', () => {
    const when = fc.constantFrom(
      null,
      'os is linux',
      'os is mac',
      'level is basic',
      'not level is basic',
      'os is linux and level is expert',
    );
    let count = 0;
    const text = fc.constant(null).map(() => `text${(count += 1)}`);
    const paragraph = fc
      .tuple(when, text)
      .map(([condition, content]) => (condition ? only(condition, p(content)) : p(content)));
    const flow = fc.letrec<{ block: ContentNode }>((tie) => ({
      block: fc.oneof(
        { maxDepth: 3 },
        paragraph,
        fc
          .tuple(when, fc.array(tie('block'), { minLength: 1, maxLength: 3 }))
          .map(([condition, blocks]) => makeNode('quotation', { when: condition }, blocks)),
        fc.tuple(when, fc.constantFrom('s1', 's2')).map(([condition, key]) => place(key, { when: condition })),
        fc.tuple(when, fc.array(tie('block'), { minLength: 1, maxLength: 2 })).map(([condition, blocks]) => {
          const branches = [
            makeNode('branch', { when: condition ?? 'os is mac' }, blocks),
            makeNode('branch', null, [p(`other${(count += 1)}`)]),
          ];
          return makeNode('choice', null, branches);
        }),
      ),
    })).block;
    fc.assert(
      fc.property(
        fc.array(flow, { minLength: 1, maxLength: 4 }),
        fc.array(paragraph, { minLength: 1, maxLength: 3 }),
        when,
        (blocks, placed, entryWhen) => {
          const source = sourceOf([
            topic('t', ...blocks),
            snippet('s1', ...placed),
            snippet('s2', place('s1'), p('tail')),
          ]);
          const book = publicationOf([entry('e1', 't', { when: entryWhen })]);
          const [row] = setsOfPublication(source, sets, book);
          profiles.forEach((profile, at) => {
            const assembled = assemblePublication(source, recipeOf(book, { profile }));
            const wanted: string[] = [];
            assembled.entries.forEach((each) =>
              each.blocks.forEach((block) => walk(block, (node) => void (node.text && wanted.push(node.text)))),
            );
            const found = (row?.pieces ?? [])
              .filter((piece) => piece.node.type === 'paragraph' && sets.has(piece.set, at))
              .map((piece) => piece.node.content?.[0]?.text ?? '');
            expect(found).toEqual(wanted);
          });
        },
      ),
      { numRuns: 150 },
    );
  });
});

describe('Coverage', () => {
  it('counts what each variant has of each entry', () => {
    const source = sourceOf([topic('t', p('a'), only('os is linux', list(p('b'), p('c')))), topic('u', p('x'))]);
    const book = publicationOf([entry('e1', 't', { when: 'level is basic', entries: [entry('e2', 'u')] })]);
    expect(coverageOf(source, sets, book)).toEqual([
      { entry: 'e1', blocks: 5, cells: [5, 0, 1, 0].map((blocks, at) => ({ in: at % 2 === 0, blocks })) },
      { entry: 'e2', blocks: 1, cells: [1, 0, 1, 0].map((blocks, at) => ({ in: at % 2 === 0, blocks })) },
    ]);
  });
});

describe('Findings about conditions', () => {
  const kinds = (flow: readonly ContentNode[], over = sets, more: readonly Component[] = []) =>
    conditionFindings(sourceOf([topic('t', ...flow), ...more]), over, publicationOf([entry('e1', 't')])).map(
      ({ kind, component: at, place: id }) => [kind, at, id],
    );
  const at = (id: string, when: string, text = 'x'): ContentNode => ({ ...p(text), attrs: { id, when } });
  const branch = (when: string | null): ContentNode => makeNode('branch', { when }, [p('x')]);

  it('are none where every condition does its work', () => {
    expect(kinds([at('a', 'os is linux'), at('b', 'level is basic')])).toEqual([]);
  });

  it('tell what is never in, what changes nothing, and what contradicts', () => {
    const linuxOnly = new VariantSets({ axes, stamps: [] }, profiles.slice(0, 2));
    expect(kinds([at('a', 'os is mac'), at('b', 'os is linux, mac')], linuxOnly)).toEqual([
      ['never-in', 't', 'a'],
      ['axis-never-varied', 't', 'a'],
      ['changes-nothing', 't', 'b'],
      ['axis-never-varied', 't', 'b'],
    ]);
    const inside = makeNode('quotation', { id: 'q', when: 'os is linux' }, [
      at('a', 'not os is linux'),
      at('b', 'os is linux and level is basic'),
    ]);
    expect(kinds([inside])).toEqual([['contradicts', 't', 'a']]);
    expect(kinds([at('a', 'level is basic and not level is basic')])).toEqual([['contradicts', 't', 'a']]);
  });

  it('say so where a condition is too large to tell of', () => {
    const each = Array.from({ length: 40 }, (_, at) => at);
    const when = `(${each.map((at) => `os is v${at}`).join(' or ')}) and (${each.map((at) => `os is v${at} and level is w${at}`).join(' or ')})`;
    expect(kinds([at('a', when)]).map(([kind]) => kind)).toContain('too-large');
  });

  it('look through placements, and at words', () => {
    expect(kinds([only('os is linux', place('s'))], sets, [snippet('s', at('x', 'os is linux'))])).toEqual([
      ['changes-nothing', 's', 'x'],
    ]);
    const limited = {
      ...p(makeText('m', [{ type: 'condition', attrs: { when: 'os is linux, mac' } }])),
      attrs: { id: 'w' },
    };
    expect(kinds([limited])).toEqual([['changes-nothing', 't', 'w']]);
  });

  it('tell which branches overlap or are never reached', () => {
    const choice = (...whens: (string | null)[]): ContentNode => makeNode('choice', { id: 'c' }, whens.map(branch));
    expect(kinds([choice('os is linux', 'os is mac', null)])).toEqual([['otherwise-unreachable', 't', 'c']]);
    expect(kinds([choice('os is linux', 'level is basic', null)])).toEqual([['branch-overlaps', 't', 'c']]);
    expect(kinds([choice('os is linux', 'os is linux and level is basic', null)])).toEqual([
      ['branch-unreachable', 't', 'c'],
    ]);
  });

  it('look at the conditions of entries', () => {
    const book = publicationOf([entry('e1', 't', { when: 'os is linux, mac' })]);
    const found = conditionFindings(sourceOf([topic('t', p('x'))]), sets, book);
    expect(found.map(({ kind, component: key, place: id }) => [kind, key, id])).toEqual([
      ['changes-nothing', null, 'e1'],
    ]);
  });
});
