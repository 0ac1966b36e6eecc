import { HtmlRenderer, Parser } from 'commonmark';
import fc from 'fast-check';
import { parse } from 'node-html-parser';
import { anyGround, anyLibrary, sourceFor } from '../../../../tests/support/any-library.js';
import { build, numberedOf } from '../../../../tests/support/build.js';
import {
  entry,
  list,
  p,
  publicationOf,
  recipeOf,
  section,
  see,
  sourceOf,
  topic,
} from '../../../../tests/support/library-parts.js';
import { makeNode, makeText } from '../../model/node.js';
import { pageFile } from '../web/addresses.js';
import { fileNameFor } from '../file-names.js';
import { flattenPages } from '../../number/numbered.js';
import { markdown } from './markdown.js';

// The reference implementation of CommonMark reads what we write (commonmark.js, spec version 0.31.2).
const reader = new Parser();
const toHtml = (text: string): string => new HtmlRenderer().render(reader.parse(text));
const wordsOf = (html: string): string =>
  parse(html.replace(/<!-- -->/g, ''), { blockTextElements: {} })
    .text.replace(/&lt;/g, '<')
    .replace(/&gt;/g, '>')
    .replace(/&quot;/g, '"')
    .replace(/&amp;/g, '&')
    .replace(/\s+/g, '');

describe('Markdown', () => {
  it('reads in the reference reader of CommonMark as the web site does', () => {
    let compared = 0;
    fc.assert(
      fc.property(anyLibrary, anyGround, (components, ground) => {
        const { numbered, files } = build(sourceFor(ground, components), ground.recipe);
        const ours = new Map(markdown.render(numbered).files.map(({ path, text }) => [path, text]));
        for (const page of flattenPages(numbered.pages)) {
          const site = parse(files.find(({ path }) => path === pageFile(page.name))?.text ?? '');
          // Formulas stand in their source, those in a line between two signs.
          site.querySelectorAll('math').forEach((each) => {
            const sign = each.getAttribute('display') === 'block' ? '' : '$';
            each.replaceWith(`${sign}${each.getAttribute('alttext')?.replaceAll('<', '&lt;') ?? ''}${sign}`);
          });
          // Only the stated candidate of a slot is there.
          site.querySelectorAll('[hidden]').forEach((each) => each.remove());
          const wanted = wordsOf(site.querySelector('main')?.innerHTML ?? '');
          const text = ours.get(`${fileNameFor(page.name, new Set(['index']))}.md`) ?? '';
          expect(wordsOf(toHtml(text)))
            .withContext(text)
            .toBe(wanted);
          compared += wanted.length;
        }
      }),
      { numRuns: 40 },
    );
    expect(compared).toBeGreaterThan(1000);
  });

  it('has a file a topic, contents, and links between them', () => {
    const source = sourceOf([
      topic('t', p('see ', see('u', 's', 'number-title')), list(p('a'), p('* not a list'))),
      topic('u', section('s', 'A _section_', p('1. no list'))),
    ]);
    const numbered = numberedOf(source, recipeOf(publicationOf([entry('e1', 't'), entry('e2', 'u')])));
    const { files } = markdown.render(numbered);
    expect(files.map(({ path }) => path)).toEqual(['index.md', 't.md', 'u.md']);
    const [, first, second] = files.map(({ text }) => toHtml(text));
    expect(
      parse(first ?? '')
        .querySelector('a')
        ?.getAttribute('href'),
    ).toBe('u.md#s');
    expect(first).toContain('* not a list');
    expect(parse(second ?? '').querySelector('h2')?.text).toContain('A _section_');
    expect(second).not.toContain('<ol');
  });

  it('keeps what is raised or lowered, so that 10⁶ does not read 106', () => {
    const million = p(
      '10',
      makeText('6', [{ type: 'superscript' }]),
      ' of H',
      makeText('2', [{ type: 'subscript' }]),
      'O',
    );
    const { files } = markdown.render(
      numberedOf(sourceOf([topic('t', million)]), recipeOf(publicationOf([entry('e', 't')]))),
    );
    expect(toHtml(files[1]?.text ?? '')).toContain('<p>10<sup>6</sup> of H<sub>2</sub>O</p>');
  });

  it('keeps listings and formulas as they are', () => {
    const code = makeNode('code_block', { language: 'sh' }, [makeText('a ``` b\n  c')]);
    const formula = makeNode('display_formula', { source: 'a_1 < \\frac{b}{c}' });
    const source = sourceOf([topic('t', code, formula, p('so ', makeNode('formula', { source: 'x^2' })))]);
    const { files } = markdown.render(numberedOf(source, recipeOf(publicationOf([entry('e', 't')]))));
    const page = parse(toHtml(files[1]?.text ?? ''), { blockTextElements: { code: true } });
    expect(page.querySelectorAll('pre code').map((each) => each.text)).toEqual([
      'a ``` b\n  c\n',
      'a_1 < \\frac{b}{c}\n',
    ]);
    expect(page.querySelector('p')?.text).toBe('so $x^2$');
    expect(page.querySelector('p code')?.text).toBe('x^2');
  });
});
