import fc from 'fast-check';
import { makeNode, makeText, type AnyNode, type ContentNode } from '../model/node.js';
import {
  component,
  constant,
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
  snippet,
  sourceOf,
  textIn,
  topic,
  variable,
  words,
} from '../../../tests/support/library-parts.js';
import type { Component } from '../model/component.js';
import type { OutlineEntry, Recipe } from '../model/publication.js';
import { flattenTree } from '../model/tree.js';
import { assembleBody, assemblePublication } from './assemble.js';
import { plainText } from '../number/plain-text.js';
import { languageMatches } from '../variation/languages.js';
import { numberedOf } from '../../../tests/support/build.js';
import { Memory } from './memory.js';

const one = entry('e1', 't');

function assemble(components: readonly Component[], more: Partial<Recipe> = {}, held: readonly Component[] = []) {
  return assemblePublication(sourceOf(components, held), recipeOf(publicationOf([one]), more));
}

/** The assembled text of one topic `t` with the given blocks. */
function textOf(...flow: ContentNode[]): string {
  return textIn(assemble([topic('t', ...flow)]).entries[0]?.blocks ?? []);
}

describe('An entry that is an outside address', () => {
  const link = component('link', 'web', { type: 'link', href: 'https://a.example/{+model}', label: 'Register' });
  const pagesOf = (more: Partial<OutlineEntry>): string =>
    assemblePublication(
      sourceOf([link, constant('model', '4X')]),
      recipeOf(publicationOf([{ id: 'e1', link: 'web', ...more }])),
    )
      .entries.map(({ title, blocks }) => `${textIn(title)}: ${textIn(blocks)}`)
      .join();

  it('is a page called as its link that says where it leads, with the values in force', () => {
    expect(pagesOf({})).toBe('Register: https://a.example/4X');
    expect(pagesOf({ title: 'Your station', values: { model: phrase('2') } })).toBe(
      'Your station: https://a.example/2',
    );
    expect(pagesOf({ when: 'os is mac' })).toBe('');
  });

  it('is told where there is no such link, and what stands below it stays', () => {
    const outline = publicationOf([{ id: 'e1', link: 'gone', entries: [{ id: 'e2', topic: 't' }] }]);
    const { entries, problems } = assemblePublication(sourceOf([topic('t', p('x'))]), recipeOf(outline));
    expect(entries.map(({ id }) => id)).toEqual(['e2']);
    expect(problems.map(({ code, place }) => [code, place.entry])).toEqual([['missing-component', 'e1']]);
  });
});

describe('Selection', () => {
  it('keeps what applies and leaves out the rest, with all that stands in it', () => {
    expect(textOf(p('always'), only('os is linux', p('linux')), only('os is mac', p('mac')))).toBe('always|linux');
    expect(textOf(only('os is mac', list(only('os is linux', p('inside')))))).toBe('');
  });

  it('joins the words around removed ones without doubled or lost spaces', () => {
    const cases: readonly (readonly [ContentNode, string])[] = [
      [p('Press ', words('os is mac', 'Cmd'), ' now'), 'Press now'],
      [p('Use rain', words('os is mac', ', wind'), ' and air'), 'Use rain and air'],
      [p('Stop ', words('os is mac', 'there'), '.'), 'Stop.'],
      [p(words('os is mac', 'First'), ' second'), 'second'],
      [p('One ', words('os is mac', 'two ')), 'One'],
      [p('(', words('os is mac', 'gone '), ' kept)'), '(kept)'],
      [p('a', words('os is mac', 'x'), 'b'), 'ab'],
      [p('“', words('os is mac', 'no'), ' yes”'), '“yes”'],
    ];
    for (const [block, wanted] of cases) expect(textOf(block)).withContext(wanted).toBe(wanted);
  });

  it('places a section only where it and all that it stands in apply', () => {
    const inner = { ...section('b2', 'Inner', p('for one system')), attrs: { id: 'b2', when: 'level is basic' } };
    const outer = { ...section('b1', 'Outer', inner), attrs: { id: 'b1', when: 'os is mac' } };
    const shown = (os: 'mac' | 'linux', level: 'basic' | 'expert'): string => {
      const profile = { axes: { os: { default: 'out', in: [os] }, level: { default: 'out', in: [level] } } } as const;
      const from = [topic('t', p('before'), place('u', { section: 'b2' })), topic('u', outer)];
      return textIn(assemble(from, { profile }).entries[0]?.blocks ?? []);
    };
    expect(shown('mac', 'basic')).toContain('for one system');
    for (const [os, level] of [
      ['linux', 'basic'],
      ['mac', 'expert'],
      ['linux', 'expert'],
    ] as const)
      expect(shown(os, level)).withContext(`${os}, ${level}`).toBe('before');
  });

  it('lets containers with nothing left disappear', () => {
    expect(textOf(p('a'), list(only('os is mac', p('gone'))))).toBe('a');
    expect(textOf(p('a'), makeNode('admonition', { kind: 'note' }, [only('os is mac', p('gone'))]))).toBe('a');
    expect(textOf(p('a'), p(words('os is mac', 'all of it')))).toBe('a');
    const definition = makeNode('definition', null, [
      makeNode('term', { when: 'os is mac' }, [makeText('t')]),
      makeNode('description', null, [p('d')]),
    ]);
    expect(textOf(p('a'), makeNode('definition_list', null, [definition]))).toBe('a');
  });

  it('keeps list items whose first paragraph goes', () => {
    const item = makeNode('list_item', null, [only('os is mac', p('first')), p('second')]);
    expect(textOf(list(item))).toBe('second');
  });

  it('reports sections and topics left with a title, and leaves them out where asked', () => {
    const components = [topic('t', p('kept'), section('s', 'Empty', only('os is mac', p('gone'))))];
    const kept = assemble(components);
    expect(kept.problems.map((problem) => [problem.code, problem.place.component, problem.place.block])).toEqual([
      ['empty-section', 't', 's'],
    ]);
    expect(textIn(kept.entries[0]?.blocks ?? [])).toBe('kept|Empty');
    const left = assemble(components, { leaveOutEmpty: true });
    expect(textIn(left.entries[0]?.blocks ?? [])).toBe('kept');

    const bare = [topic('t', only('os is mac', p('gone')))];
    expect(assemble(bare).entries.length).toBe(1);
    expect(assemble(bare, { leaveOutEmpty: true }).entries.length).toBe(0);
  });

  it('applies the conditions of outline entries to everything below them', () => {
    const source = sourceOf([topic('t', p('t')), topic('u', p('u'))]);
    const book = publicationOf([entry('e1', 't', { when: 'os is mac', entries: [entry('e2', 'u')] })]);
    expect(assemblePublication(source, recipeOf(book)).entries).toEqual([]);
  });

  it('uses the first branch that holds, else the one without a condition', () => {
    const branch = (when: string | null, text: string) => makeNode('branch', { when }, [p(text)]);
    expect(
      textOf(makeNode('choice', null, [branch('os is mac', 'm'), branch('os is linux', 'l'), branch(null, 'o')])),
    ).toBe('l');
    expect(textOf(makeNode('choice', null, [branch('os is mac', 'm'), branch(null, 'o')]))).toBe('o');
    expect(textOf(p('x'), makeNode('choice', null, [branch('os is mac', 'm')]))).toBe('x');
  });

  it('names undefined values with their place', () => {
    const { problems } = assemble([
      topic('t', { ...only('os is linx', p('x')), attrs: { id: 'b7', when: 'os is linx' } }),
    ]);
    expect(problems[0]).toEqual({
      severity: 'error',
      code: 'undefined-value',
      message: 'The value “linx” of the axis “os” is not defined. Nearest defined: “linux”.',
      place: { component: 't', block: 'b7', entry: null },
    });
  });

  it('gives the very same nodes in every variant that does not change them', () => {
    const body = topic(
      't',
      p('a'),
      list(p('b')),
      p(words('os is mac', 'm'), 'x'),
      p(words('level is basic', 'b'), 'y'),
    );
    const mac = { axes: { os: { default: 'out', in: ['mac'] }, level: { default: 'out', in: ['basic'] } } } as const;
    const [source, memory] = [sourceOf([body]), new Memory()];
    const [one, other] = [{}, { profile: mac }].map(
      (more) =>
        assemblePublication(source, recipeOf(publicationOf([entry('e1', 't')]), more), memory).entries[0]?.blocks ?? [],
    );
    expect([0, 1, 2, 3].map((at) => one?.[at] === other?.[at])).toEqual([true, true, false, true]);
  });

  it('filters then assembles as it assembles then filters', () => {
    const text = fc.constantFrom('a', 'b c', 'd.');
    const when = fc.constantFrom(
      null,
      'os is linux',
      'os is mac',
      'level is basic and os is linux',
      'not level is basic',
    );
    const block = fc
      .tuple(when, text)
      .map(([condition, content]) => (condition ? only(condition, p(content)) : p(content)));
    fc.assert(
      fc.property(fc.array(block, { minLength: 1, maxLength: 5 }), when, (blocks, around) => {
        const placement = around ? only(around, place('s')) : place('s');
        const placed = assemble([topic('t', p('x'), placement), snippet('s', ...blocks)]);
        // The same content typed where it was placed, each block under both conditions.
        const typed = blocks.map((each) => (around ? makeNode('quotation', { when: around }, [each]) : each));
        const flat = (nodes: readonly AnyNode[]): string => textIn(nodes).replace(/\|+/g, '|').replace(/\|$/, '');
        expect(flat(placed.entries[0]?.blocks ?? [])).toBe(
          flat(assemble([topic('t', p('x'), ...typed)]).entries[0]?.blocks ?? []),
        );
      }),
    );
  });
});

describe('Variables', () => {
  const name = component('variable', 'name', {
    type: 'variable',
    default: phrase('any'),
    rules: [
      { when: 'os is mac', language: null, value: phrase('Mac') },
      { when: null, language: 'de', value: phrase('deutsch') },
      { when: 'level is basic', language: null, value: phrase('basic') },
    ],
  });
  const say = (more: Partial<Recipe> = {}, at = one, bookValues = {}): string => {
    const book = publicationOf([at], { values: bookValues });
    return textIn(
      assemblePublication(sourceOf([topic('t', p(variable('name'))), name]), recipeOf(book, more)).entries[0]?.blocks ??
        [],
    );
  };

  it('are looked up in the entry, the variant, the publication, the rules, and last the default', () => {
    const entryValue = { name: phrase('entry') };
    const variantValue = { name: phrase('variant') };
    const bookValue = { name: phrase('book') };
    expect(say({ values: variantValue }, { ...one, values: entryValue }, bookValue)).toBe('entry');
    expect(say({ values: variantValue }, one, bookValue)).toBe('variant');
    expect(say({}, one, bookValue)).toBe('book');
    expect(say()).toBe('basic');
    expect(say({ language: 'de-AT' })).toBe('deutsch');
    expect(say({ profile: { axes: { level: { default: 'out' }, os: { default: 'out' } } } })).toBe('any');
  });

  it('may hold others, conditions and marks', () => {
    const inner = constant('inner', 'in');
    const outer = component('variable', 'outer', {
      type: 'variable',
      default: phrase('x ', variable('inner'), words('os is mac', ' mac'), ' y'),
      rules: [],
    });
    const { entries } = assemble([topic('t', p(variable('outer'), '.')), inner, outer]);
    expect(textIn(entries[0]?.blocks ?? [])).toBe('x in y.');
  });

  it('report missing values and cycles with their path and show a marker', () => {
    const cycle = (key: string, next: string) =>
      component('variable', key, { type: 'variable', default: phrase(variable(next)), rules: [] });
    const { problems, entries } = assemble([
      topic('t', p(variable('gone')), p(variable('a')), p(variable('empty'))),
      cycle('a', 'b'),
      cycle('b', 'a'),
      component('variable', 'empty', { type: 'variable', default: null, rules: [] }),
    ]);
    expect(problems.map((problem) => problem.message)).toEqual([
      'The variable gone does not exist.',
      'The variable refers to itself: a › b › a.',
      'The variable empty has no value here.',
    ]);
    expect(textIn(entries[0]?.blocks ?? [])).toBe('[missing]|[missing]|[missing]');
  });

  it('are built in for what a build knows', () => {
    const keys = ['@publication-title', '@variant-title', '@build-date', '@language', '@revision'];
    const { entries } = assemble([
      component('topic', 't', makeNode('topic', null, [makeNode('title'), ...keys.map((key) => p(variable(key)))]), 4),
    ]);
    expect(textIn(entries[0]?.blocks ?? [])).toBe('The Book|Linux, basic|2026-11-24|en|4');
  });

  it('stand in addresses as well', () => {
    const linked = makeText('here', [{ type: 'link', attrs: { href: 'https://x.example/{+inner}/' } }]);
    const { entries } = assemble([topic('t', p(linked)), constant('inner', 'in')]);
    expect(entries[0]?.blocks[0]?.content?.[0]?.marks?.[0]?.attrs?.['href']).toBe('https://x.example/in/');
  });

  it('match languages by prefix (RFC 4647, 3.3.1)', () => {
    // The examples of the section: “de-de” matches “de-DE-1996” but not “de-Deva” or “de-Latn-DE”.
    expect(languageMatches('de-de', 'de-DE-1996')).toBeTrue();
    expect(languageMatches('de-de', 'de-Deva')).toBeFalse();
    expect(languageMatches('de-de', 'de-Latn-DE')).toBeFalse();
  });
});

describe('Placements', () => {
  const placedText = (components: readonly Component[], held: readonly Component[] = []): string =>
    textIn(assemble(components, {}, held).entries[0]?.blocks ?? []);

  it('bring the blocks of a snippet, and the body of a topic without its title', () => {
    expect(
      placedText([topic('t', place('s'), place('u')), snippet('s', p('one'), p('two')), topic('u', p('body'))]),
    ).toBe('one|two|body');
  });

  it('bring the title where asked, and a single section', () => {
    const u = topic('u', p('start'), section('s1', 'First', p('inside')));
    expect(placedText([topic('t', place('u', { withTitle: true })), u])).toBe('Title of u|start|First|inside');
    expect(placedText([topic('t', place('u', { section: 's1' })), u])).toBe('inside');
  });

  it('nest, and stand in lines', () => {
    const inline = makeNode('inline_placement', { component: 'ph' });
    expect(
      placedText([
        topic('t', place('a')),
        snippet('a', place('b')),
        snippet('b', p('say ', inline, '!')),
        component('snippet', 'ph', phrase('hello', words('os is mac', ' mac'))),
      ]),
    ).toBe('say hello!');
  });

  it('stay at the revision that they hold', () => {
    const newest = component('snippet', 's', fragment(p('new')), 3);
    const older = component('snippet', 's', fragment(p('old')), 2);
    const holds = (revision: number) => topic('t', place('s', { mode: 'held', revision }));
    expect(placedText([holds(2), newest], [older])).toBe('old');
    expect(placedText([holds(3), newest])).toBe('new');
    expect(assemble([holds(1), newest]).problems[0]?.code).toBe('missing-revision');
  });

  it('end at a cycle with its path', () => {
    const { problems } = assemble([topic('t', place('a')), snippet('a', place('b')), snippet('b', place('a'))]);
    expect(problems[0]?.message).toBe('Placements form a cycle: a › b › a.');
  });

  it('say when what they place is missing, or cannot stand there', () => {
    const { problems } = assemble([
      topic('t', place('gone'), place('v'), p(makeNode('inline_placement', { component: 's' }))),
      constant('v', 'x'),
      snippet('s', p('block')),
    ]);
    expect(problems.map((problem) => problem.code)).toEqual(['missing-component', 'wrong-kind', 'wrong-kind']);
  });

  it('put publications into publications, each entry with an id of its own', () => {
    const inner = publicationOf([entry('e1', 'u')], { key: 'inner', values: { v: phrase('inner') } });
    const source = {
      ...sourceOf([topic('t', p(variable('v'))), topic('u', p(variable('v'))), constant('v', 'own')]),
      publications: new Map([['inner', inner]]),
    };
    const book = publicationOf([one, { id: 'e2', publication: 'inner' }, { id: 'e3', publication: 'inner' }]);
    const { entries } = assemblePublication(source, recipeOf(book));
    expect(entries.map((each) => [each.id, textIn(each.blocks)])).toEqual([
      ['e1', 'own'],
      ['e2.e1', 'inner'],
      ['e3.e1', 'inner'],
    ]);
    const around = {
      ...source,
      publications: new Map([['inner', { ...inner, entries: [{ id: 'x', publication: 'inner' }] }]]),
    };
    expect(assemblePublication(around, recipeOf(book)).problems[0]?.code).toBe('placement-cycle');
  });

  it('are found anew in an outline when what it holds, or the vocabulary, changed in one memory', () => {
    const book = publicationOf([
      { id: 'e1', publication: 'inner', when: 'not os is beos' },
      entry('e2', 't', { when: 'not os is beos' }),
    ]);
    const innerOf = (...entries: readonly OutlineEntry[]) =>
      new Map([['inner', publicationOf(entries, { key: 'inner' })]]);
    const before = { ...sourceOf([topic('t'), topic('u'), topic('v')]), publications: innerOf(entry('e1', 'u')) };
    const value = { key: 'beos', title: 'BeOS', code: 'B', colour: 0, pattern: 0 };
    const defined = { ...before, axes: before.axes.map((axis) => ({ ...axis, values: [...axis.values, value] })) };
    const more = { ...defined, publications: innerOf(entry('e1', 'u'), entry('e2', 'v')) };
    const memory = new Memory();
    const recipe = recipeOf(book);
    const states = [before, defined, more, defined, before].map((source) => {
      const { places, problems } = assemblePublication(source, recipe, memory);
      return [
        flattenTree(places, ({ below }) => below)
          .map(({ id }) => id)
          .join(),
        problems.map(({ code }) => code).join(),
      ];
    });
    expect(states[1]).toEqual(['e1,e1.e1,e2', 'empty-topic,empty-topic']);
    expect(states[2]).toEqual(['e1,e1.e1,e1.e2,e2', 'empty-topic,empty-topic,empty-topic']);
    expect(states[0]?.[1]).toContain('undefined-value');
    expect(states.slice(3)).toEqual([states[1] ?? [], states[0] ?? []]);
  });

  it('read alone as they would in a book, for the editor', () => {
    const shown = component('snippet', 'ph', phrase('for ', variable('name')));
    const { content } = assembleBody(sourceOf([constant('name', 'all')]), recipeOf(publicationOf([])), shown);
    expect(plainText(content)).toBe('for all');
  });
});

describe('Reuse as the standards describe it in words', () => {
  // DITA 1.3, 2.4.2 “Content reference (conref)” (from memory): the referenced element stands in the result
  // as if it were written in place of the referring one, and filtering sees it there.
  it('gives with placed content what the same content gives where it is written', () => {
    const note = [p('Unplug it.'), only('os is mac', p('Hold the ring.'))];
    const placed = assemble([topic('t', p('a'), place('note')), snippet('note', ...note)]).entries[0]?.blocks ?? [];
    const written = assemble([topic('t', p('a'), ...note)]).entries[0]?.blocks ?? [];
    expect(textIn(placed)).toBe(textIn(written));
    expect(textIn(placed)).toBe('a|Unplug it.');
  });

  // DITA 1.3, 2.3.4 “Indirect key-based addressing” (from memory): variable text, such as the name of a
  // product, is defined by the map, so that one topic reads differently in two maps.
  it('lets one topic name the product of the publication that it stands in', () => {
    const source = sourceOf([topic('t', p('Start the ', variable('product'), '.'))]);
    const inBook = (name: string): string => {
      const book = publicationOf([entry('e', 't')], { values: { product: phrase(name) } });
      return textIn(assemblePublication(source, recipeOf(book)).entries[0]?.blocks ?? []);
    };
    expect([inBook('Dunlin 2'), inBook('Dunlin 4X')]).toEqual(['Start the Dunlin 2.', 'Start the Dunlin 4X.']);
  });

  // DocBook 5.1, “Transclusion” (from memory): content that is included twice must not repeat an xml:id.
  it('keeps ids apart where one thing is placed twice', () => {
    const source = sourceOf([
      topic('t', place('s', { id: 'p1' }), place('s', { id: 'p2' })),
      snippet('s', section('x', 'X', p('y'))),
    ]);
    const recipe = recipeOf(publicationOf([entry('e', 't')]));
    const { pages } = numberedOf(source, recipe);
    expect(pages[0]?.labels.map(({ anchor }) => anchor)).toEqual(['p1--x', 'p2--x']);
  });
});
