import fc from 'fast-check';
import { parse, type HTMLElement } from 'node-html-parser';
import { anyLibrary, anyProfile } from '../../../tests/support/any-library.js';
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
  section,
  snippet,
  sourceOf,
  topic,
  variable,
  words,
} from '../../../tests/support/library-parts.js';
import { assemblePublication } from '../assemble/assemble.js';
import { flattenAssembled } from '../assemble/assembled.js';
import type { Component } from '../model/component.js';
import { makeNode, type ContentNode } from '../model/node.js';
import type { Profile } from '../model/profile.js';
import type { Publication, Recipe } from '../model/publication.js';
import { numberPublication } from '../number/number.js';
import { flattenPages } from '../number/numbered.js';
import { originPage } from '../output/web/origin-page.js';
import { PageWriter } from '../output/web/page-writer.js';
import { OriginTeller, type Origin } from './origin.js';

const linux: Profile = { axes: { os: { default: 'out', in: ['linux'] }, level: { default: 'out', in: ['expert'] } } };
const book = publicationOf([entry('e', 't')]);

/** The pages of a book as they can be asked, with what is left out, and what each passage says of itself. */
function ask(components: readonly Component[], recipe: Recipe, showsLeftOut = true) {
  const source = sourceOf(components);
  const assembled = assemblePublication(source, recipe);
  const teller = new OriginTeller(source, recipe, assembled);
  const real = numberPublication(assembled, recipe);
  const pages = flattenPages(real.pages).map((page) => {
    const shown = showsLeftOut ? teller.showingLeftOut(page.entry) : assembled;
    const numbered = numberPublication(shown, recipe);
    const pageShown = flattenPages(numbered.pages).find((each) => each.entry === page.entry) ?? page;
    const entryShown = flattenAssembled(shown.entries).find(({ id }) => id === page.entry);
    const main = parsed(originPage(numbered, pageShown).files[0]?.text ?? '').querySelector('article') as HTMLElement;
    const origins: ReadonlyMap<string, Origin> = entryShown ? teller.originsOn(entryShown) : new Map();
    return { main, origins, real: parsed(new PageWriter(real, page).content()) };
  });
  return { teller, pages };
}

const parsed = (html: string): HTMLElement => parse(html, { blockTextElements: { style: true } });
/** Where words went, assembly also tidies up spaces, commas, empty brackets and quotation marks. */
const shownText = (root: HTMLElement): string => root.text.replace(/[\s,()“”]+/g, '');

function askFirst(
  flow: readonly ContentNode[],
  others: readonly Component[] = [],
  profile = linux,
  outline: Publication = book,
) {
  const { pages, teller } = ask([topic('t', ...flow), ...others], recipeOf(outline, { profile, leaveOutEmpty: true }));
  const [page] = pages;
  if (!page) throw new Error('There is no page.');
  const passage = (text: string) => {
    const all = page.main.querySelectorAll('[data-passage]').filter((each) => each.text.includes(text));
    return all[all.length - 1];
  };
  return {
    ...page,
    teller,
    isOut: (text: string): boolean => passage(text)?.closest('[data-left-out]') !== null,
    origin: (text: string): Origin | undefined => page.origins.get(passage(text)?.getAttribute('data-passage') ?? ''),
  };
}

describe('A page that is asked where its passages come from', () => {
  it('reads as in the deliverable once what is left out is taken away, with the same numbers, in any library', () => {
    let left = 0;
    fc.assert(
      fc.property(anyLibrary, anyProfile, fc.boolean(), (components, profile, leaveOutEmpty) => {
        const outline = publicationOf([entry('e1', 't1', { entries: [entry('e2', 't2')] }), entry('e3', 't3')]);
        for (const { main, real, origins } of ask(components, recipeOf(outline, { profile, leaveOutEmpty })).pages) {
          // Every passage can be asked.
          for (const each of main.querySelectorAll('[data-passage]'))
            expect(origins.has(each.getAttribute('data-passage') ?? '')).toBe(true);
          const out = main.querySelectorAll('[data-left-out]');
          left += out.length;
          for (const each of out) each.remove();
          if (shownText(main) !== shownText(real)) throw new Error(shownText(main) + '\n' + shownText(real));
        }
      }),
      { numRuns: 150 },
    );
    expect(left).toBeGreaterThan(300);
  });

  it('is the page itself where nothing is to be shown besides', () => {
    fc.assert(
      fc.property(anyLibrary, anyProfile, (components, profile) => {
        const outline = publicationOf([entry('e1', 't1'), entry('e2', 't2')]);
        for (const { main, real } of ask(components, recipeOf(outline, { profile }), false).pages) {
          expect(main.querySelectorAll('[data-left-out]').length).toBe(0);
          expect(shownText(main)).toBe(shownText(real));
        }
      }),
      { numRuns: 50 },
    );
  });

  it('tells the way of placements down to a passage, and all conditions on it', () => {
    const inner = snippet('inner', only('os is linux', p('oil it')));
    const outer = snippet('outer', section('s', 'Care', only('not os is mac', place('inner', { id: 'x' }))));
    const { origin } = askFirst([place('outer', { id: 'y', section: 's' })], [inner, outer]);
    expect(
      origin('oil it')?.steps.map(({ component: key, block, how, conditions }) => [
        key,
        block,
        how,
        conditions.map(({ when, holds }) => [when, holds]),
      ]),
    ).toEqual([
      ['t', 'y', 'placed', []],
      ['outer', 'x', 'placed', [['not os is mac', true]]],
      ['inner', jasmine.any(String), 'passage', [['os is linux', true]]],
    ]);
  });

  it('tells what holds a revision, and what stands in a slot', () => {
    const held = component('snippet', 's', makeNode('fragment', null, [p('old words')]), 1);
    const now = component('snippet', 's', makeNode('fragment', null, [p('new words')]), 2);
    const tip: Component = { ...snippet('tip', p('a tip')), labels: { collection: 'tips', tags: {} } };
    const source = sourceOf(
      [
        topic(
          't',
          place('s', { id: 'h', mode: 'held', revision: 1 }),
          makeNode('slot', { id: 'sl', collection: 'tips' }),
        ),
        now,
        tip,
      ],
      [held],
    );
    const recipe = recipeOf(book);
    const assembled = assemblePublication(source, recipe);
    const [page] = assembled.entries;
    const steps = [...new OriginTeller(source, recipe, assembled).originsOn(page!).values()].map((origin) =>
      origin.steps.map(({ component: key, revision, block, how }) => `${key}@${revision} ${block === null ? '' : how}`),
    );
    expect(steps).toContain(['t@1 held', 's@1 passage']);
    expect(steps).toContain(['t@1 slot', 'tip@1 passage']);
  });

  it('shows what a condition, a case, an empty container and a missing placement leave out, and by what', () => {
    const choice = makeNode('choice', null, [
      makeNode('branch', { when: 'os is linux' }, [p('for linux')]),
      makeNode('branch', { when: 'level is basic' }, [p('for beginners')]),
      makeNode('branch', null, [p('for the rest')]),
    ]);
    const { isOut, origin } = askFirst([
      only('os is mac', p('for the mac')),
      choice,
      makeNode('admonition', { kind: 'note' }, [only('os is mac', p('noted'))]),
      p('stays'),
    ]);
    expect(['for the mac', 'for linux', 'for beginners', 'for the rest', 'noted', 'stays'].map(isOut)).toEqual([
      true,
      false,
      true,
      true,
      true,
      false,
    ]);
    const reasons = (text: string) =>
      origin(text)?.steps[0]?.conditions.map(
        ({ when, holds, on }) => `${on}: ${when ?? 'otherwise'} ${holds ? 'in' : 'out'}`,
      );
    expect(reasons('for the mac')).toEqual(['block: os is mac out']);
    expect(reasons('for beginners')).toEqual(['case: level is basic out']);
    expect(reasons('for the rest')).toEqual(['case: otherwise out']);
    expect(reasons('for linux')).toEqual(['case: os is linux in']);
  });

  it('shows rows, columns and words that are out, and numbers only what is in', () => {
    const cell = (text: string): ContentNode => makeNode('table_cell', null, [p(text)]);
    const grid = makeNode('table_grid', { columns: [{}, { when: 'os is mac' }] }, [
      makeNode('table_row', null, [cell('cell-a'), cell('cell-b')]),
      makeNode('table_row', { when: 'os is mac' }, [cell('cell-c'), cell('cell-d')]),
    ]);
    const { main, isOut, origin } = askFirst([
      makeNode('table', { id: 'tab' }, [grid]),
      p('Press ', words('os is mac', 'Command'), words('os is linux', 'Control'), ' now.'),
      only('os is mac', section('m', 'Mac', p('x'))),
      section('l', 'Linux', p('y')),
      makeNode('steps', null, [
        only('os is mac', makeNode('step', null, [p('first')])),
        makeNode('step', null, [p('second')]),
      ]),
    ]);
    expect(['cell-a', 'cell-b', 'cell-c', 'cell-d'].map(isOut)).toEqual([false, true, true, true]);
    expect(main.querySelectorAll('h2').map((each) => each.text.trim())).toEqual(['Mac', '1.1 Linux']);
    expect(main.querySelector('p [data-left-out]')?.text).toBe('Command');
    expect(origin('Press')?.uses).toEqual([
      { kind: 'words', text: 'Command', when: 'os is mac', holds: false },
      { kind: 'words', text: 'Control', when: 'os is linux', holds: true },
    ]);
    expect(origin('cell-b')?.steps[0]?.conditions).toEqual([{ when: 'os is mac', holds: false, on: 'column' }]);
  });

  it('tells what a variable reads and who gives its value', () => {
    const ruled = component('variable', 'ruled', {
      type: 'variable',
      default: phrase('x'),
      rules: [{ when: 'os is linux', language: null, value: phrase('penguin') }],
    });
    const keys = ['ruled', 'plain', 'ofEntry', 'ofBook', 'ofVariant', 'gone'];
    const outline: Publication = {
      ...publicationOf([entry('e', 't', { values: { ofEntry: phrase('E') } })]),
      values: { ofBook: phrase('B') },
    };
    const others = keys.slice(1, 5).map((key) => constant(key, `default of ${key}`));
    const { pages } = ask([topic('t', p('Say ', ...keys.map(variable))), ruled, ...others], {
      ...recipeOf(outline, { profile: linux }),
      values: { ofVariant: phrase('V') },
    });
    const uses = [...(pages[0]?.origins.values() ?? [])].flatMap((origin) => origin.uses);
    expect(uses.map((use) => (use.kind === 'variable' ? [use.key, use.reads, use.from, use.when] : []))).toEqual([
      ['ruled', 'penguin', 'rule', 'os is linux'],
      ['plain', 'default of plain', 'default', null],
      ['ofEntry', 'E', 'entry', null],
      ['ofBook', 'B', 'publication', null],
      ['ofVariant', 'V', 'variant', null],
      ['gone', '', 'nobody', null],
    ]);
  });

  it('lists the entries that are out: the uppermost of a part with its condition, and emptied topics', () => {
    const outline = publicationOf([
      entry('a', 't'),
      entry('b', 'u', { when: 'os is mac', entries: [entry('c', 't'), entry('d', 'u')] }),
      entry('f', 'empty'),
    ]);
    const { teller } = askFirst(
      [p('x')],
      [topic('u', p('y')), topic('empty', only('os is mac', p('z')))],
      linux,
      outline,
    );
    expect(teller.leftOutOfOutline().map(({ entry: id, when, below }) => [id, when, below])).toEqual([
      ['b', 'os is mac', 2],
      ['f', null, 0],
    ]);
    expect(teller.wayTo('d').map(({ entry: id, holds }) => [id, holds])).toEqual([
      ['b', false],
      ['d', true],
    ]);
  });
});
