import fc from 'fast-check';
import { HtmlValidate } from 'html-validate';
import { parse, type HTMLElement } from 'node-html-parser';
import { plainDesign, type Design } from '../../design/design.js';
import { shippedDesign } from '../../design/shipped.js';
import { anyLibrary, anyProfile } from '../../../../tests/support/any-library.js';
import { makeNode, makeText } from '../../model/node.js';
import {
  entry,
  p,
  publicationOf,
  recipeOf,
  section,
  sourceOf,
  topic,
} from '../../../../tests/support/library-parts.js';
import { build } from '../../../../tests/support/build.js';
import { flattenPages } from '../../number/numbered.js';
import type { FormatFile } from '../format.js';
import { pageFile } from './addresses.js';

const book = publicationOf([
  entry('e1', 't1', { entries: [entry('e2', 't2', { when: 'not level is expert' })] }),
  entry('e3', 't3'),
  entry('e4', 't1', { role: 'appendix' }),
]);
const everyList: Design = {
  ...shippedDesign('labelled'),
  lists: {
    contentsDepth: 3,
    paperDepth: 3,
    front: ['contents', 'figures', 'tables', 'examples'],
    back: ['glossary', 'index'],
  },
};

/** The pages of a site by path, parsed. */
const pagesOf = (files: readonly FormatFile[]): ReadonlyMap<string, HTMLElement> =>
  new Map(files.filter(({ path }) => path.endsWith('.html')).map(({ path, text }) => [path, parse(text)]));

describe('The links of a site', () => {
  it('lead to blocks where these were written, not to their copies in the glossary', () => {
    const term = makeText('boom', [{ type: 'defined_term' }]);
    const defined = { ...p('A ', term, ' swings.'), attrs: { id: 'b7' } };
    const lead = makeNode('cross_reference', { component: null, target: 'b7', form: 'text', text: 'there' });
    const { files } = build(
      sourceOf([topic('t1', defined, p(lead))]),
      recipeOf(publicationOf([entry('e1', 't1')]), { design: everyList }),
    );
    const withId = [...pagesOf(files)].flatMap(([path, page]) => (page.querySelector('#b7') ? [path] : []));
    expect(withId).toEqual(['t1.html']);
  });

  it('stand in no other link: a reference in linked words, or in a title that contents lead to, is its words alone', () => {
    const inLink = makeNode('cross_reference', { component: 't2', form: 'title' });
    const link = { type: 'link', attrs: { href: 'https://a.example/' } } as const;
    const linked = { ...inLink, marks: [link] };
    const first = topic('t1', p(makeText('See ', [link]), linked), section('s1', 'Plain', p('x')));
    const { files } = build(
      sourceOf([first, topic('t2', p('y'))]),
      recipeOf(publicationOf([entry('e1', 't1'), entry('e2', 't2')])),
    );
    const page = pagesOf(files).get('t1.html');
    expect(page?.querySelectorAll('main a a').length).toBe(0);
    expect(page?.querySelectorAll('main a').map((each) => each.text)).toEqual(['See Title of t2']);
  });

  it('lead to a page that is there, and to an id that stands on it once', () => {
    let seen = 0;
    fc.assert(
      fc.property(anyLibrary, anyProfile, fc.constantFrom(plainDesign, everyList), (components, profile, design) => {
        const { files } = build(sourceOf(components), recipeOf(book, { profile, design }));
        const pages = pagesOf(files);
        const ids = new Map<string, readonly string[]>();
        for (const [path, page] of pages) {
          const all = page.querySelectorAll('[id]').map((each) => each.id);
          expect(all.length)
            .withContext(`ids of ${path}: ${all.join(' ')}`)
            .toBe(new Set(all).size);
          ids.set(path, all);
        }
        for (const [path, page] of pages) {
          for (const link of page.querySelectorAll('a[href]')) {
            const href = link.getAttribute('href') ?? '';
            // Where writers lead is their own affair.
            if (/^https?:|^mailto:|^b\.html$/.test(href)) continue;
            const [file = '', fragment] = href.split('#').map(decodeURIComponent);
            const target = ids.get(file === '' ? path : file);
            expect(target).withContext(`${path} → ${href}`).toBeDefined();
            if (fragment !== undefined) expect(target).withContext(`${path} → ${href}`).toContain(fragment);
            seen += 1;
          }
        }
      }),
      { numRuns: 80 },
    );
    expect(seen).toBeGreaterThan(1000);
  });

  it('go round: each page but the first and the last has one before it and one after it', () => {
    fc.assert(
      fc.property(anyLibrary, anyProfile, (components, profile) => {
        const { files, numbered } = build(sourceOf(components), recipeOf(book, { profile }));
        const pages = pagesOf(files);
        const [begin] = numbered.pages;
        const first = begin ? pageFile(begin.name) : undefined;
        const way: string[] = [];
        for (let at = first; at !== undefined;) {
          way.push(at);
          const next: string | undefined = pages.get(at)?.querySelector('nav.turn [rel=next]')?.getAttribute('href');
          if (next !== undefined) {
            expect(pages.get(next)?.querySelector('nav.turn [rel=prev]')?.getAttribute('href')).toBe(at);
          }
          at = next;
        }
        expect(way.length).toBe(new Set(way).size);
        expect(way.length).toBe(flattenPages(numbered.pages).length);
      }),
      { numRuns: 40 },
    );
  });
});

describe('Generated pages', () => {
  it('are valid HTML', async () => {
    const validator = new HtmlValidate({ extends: ['html-validate:standard'], rules: { 'no-inline-style': 'off' } });
    const samples = fc.sample(anyLibrary, { numRuns: 4, seed: 7 });
    for (const components of samples) {
      const { files } = build(sourceOf(components), recipeOf(book, { design: everyList }));
      for (const path of ['index.html', 'list-of-figures.html', 'glossary.html', 'index-of-terms.html']) {
        const text = files.find((file) => file.path === path)?.text;
        if (text === undefined) continue;
        const report = await validator.validateString(text);
        const faults = report.results.flatMap(({ messages }) =>
          messages.map(({ ruleId, message }) => `${ruleId}: ${message}`),
        );
        expect(faults).withContext(path).toEqual([]);
      }
    }
  });
});
