import { HtmlValidate } from 'html-validate';
import { parse } from 'node-html-parser';
import { assemblePublication } from '../../assemble/assemble.js';
import { makeNode, makeText, type ContentNode } from '../../content/node.js';
import { admonitionKinds } from '../../content/schema.js';
import { labelledDesign } from '../../number/design.js';
import { numberPublication } from '../../number/number.js';
import type { Component } from '../../library/component.js';
import type { OutlineEntry, Recipe } from '../../publication/publication.js';
import {
  entry,
  list,
  p,
  place,
  publicationOf,
  recipeOf,
  section,
  see,
  snippet,
  sourceOf,
  title,
  topic,
} from '../../../../tests/support/library-parts.js';
import { renderSite, type SiteFile } from './site.js';
import { safeHref } from './escape.js';

function site(
  components: readonly Component[],
  entries: readonly OutlineEntry[],
  more: Partial<Recipe> = {},
): readonly SiteFile[] {
  const source = sourceOf(components);
  const recipe = recipeOf(publicationOf(entries), { design: labelledDesign, ...more });
  return renderSite(
    numberPublication(assemblePublication(source, recipe), {
      design: recipe.design,
      language: recipe.language,
      source,
    }),
  );
}

const pageOf = (files: readonly SiteFile[], path: string): string =>
  files.find((file) => file.path === path)?.text ?? '';
const cell = (type: string, text: string, attrs = {}): ContentNode => makeNode(type, attrs, [p(text)]);

const everything = topic(
  'all',
  p(
    'Plain ',
    makeText('strong', [{ type: 'strong' }]),
    ' ',
    makeText('ls -l', [{ type: 'code', attrs: { kind: 'command' } }]),
    makeNode('line_break'),
    makeText('a < b & c'),
  ),
  list(p('item'), p('other')),
  makeNode('ordered_list', { start: 3, style: 'lower-alpha' }, [makeNode('list_item', null, [p('three')])]),
  makeNode('steps', { id: 'st' }, [
    makeNode('step', { id: 's1' }, [p('do')]),
    makeNode('step', { id: 's2' }, [p('then')]),
  ]),
  makeNode('definition_list', null, [
    makeNode('definition', null, [makeNode('term', null, [makeText('t')]), makeNode('description', null, [p('d')])]),
  ]),
  makeNode('table', { id: 'tab' }, [
    makeNode('caption', null, [makeText('Sizes')]),
    makeNode('table_grid', null, [
      makeNode('table_row', { header: true }, [cell('table_header', 'A'), cell('table_header', 'B')]),
      makeNode('table_row', null, [cell('table_cell', 'wide', { colspan: 2 })]),
    ]),
  ]),
  ...admonitionKinds.map((kind) => makeNode('admonition', { kind }, [p(kind)])),
  makeNode('code_block', null, [makeText('if (a < b) {\n  x\n}')]),
  makeNode('quotation', null, [p('said')]),
  makeNode('example', { id: 'ex' }, [title('How'), p('so')]),
  makeNode('footnote', { id: 'fn' }, [p('a note')]),
  p('See', makeNode('footnote_reference', { target: 'fn' }), ' and ', see(null, 'sec', 'number-title'), '.'),
  section('sec', 'A section', p('x'), place('sn', { id: 'p1' })),
);

describe('The HTML site', () => {
  const files = site(
    [everything, topic('two', p('second')), snippet('sn', section('in', 'Placed', p('y')))],
    [entry('e1', 'all', { entries: [entry('e2', 'two')] })],
  );

  it('is valid by the rules of html-validate', async () => {
    const validator = new HtmlValidate({
      extends: ['html-validate:standard'],
      rules: { 'no-inline-style': 'error', 'wcag/h30': 'error', 'wcag/h32': 'error', 'wcag/h37': 'error' },
    });
    for (const file of files.filter(({ path }) => path.endsWith('.html'))) {
      const report = await validator.validateString(file.text, file.path);
      const messages = report.results.flatMap((result) =>
        result.messages.map((each) => `${file.path}:${each.line} ${each.ruleId} ${each.message}`),
      );
      expect(messages).toEqual([]);
    }
  });

  it('has content in main, and contents and turning outside it', () => {
    const page = parse(pageOf(files, 'all.html'));
    expect(page.querySelectorAll('main').length).toBe(1);
    expect(page.querySelectorAll('main nav, main header').length).toBe(0);
    expect(page.querySelector('nav.contents a[aria-current=page]')?.text).toContain('Title of all');
    expect(page.querySelector('nav.turn [rel=next]')?.getAttribute('href')).toBe('two.html');
    expect(parse(pageOf(files, 'two.html')).querySelector('nav.turn [rel=prev]')?.getAttribute('href')).toBe(
      'all.html',
    );
    expect(parse(pageOf(files, 'index.html')).querySelectorAll('nav.contents > ul:first-of-type li').length).toBe(2);
  });

  it('gives headings, captions and steps their numbers and levels', () => {
    const page = parse(pageOf(files, 'all.html'));
    expect(page.querySelector('main h1')?.text).toBe('Chapter 1. Title of all');
    expect(page.querySelector('main h2')?.text).toBe('1.1. A section');
    expect(page.querySelector('main h3')?.text).toBe('1.1.1. Placed');
    expect(page.querySelector('caption')?.text).toBe('Table 1.1. Sizes');
    expect(page.querySelectorAll('ol.steps > li').length).toBe(2);
  });

  it('leads every link inside to something that is there', () => {
    const names = new Set(files.map((file) => file.path));
    for (const file of files.filter(({ path }) => path.endsWith('.html'))) {
      for (const link of parse(file.text).querySelectorAll('a[href]')) {
        const [path = '', fragment] = (link.getAttribute('href') ?? '').split('#').map(decodeURIComponent);
        expect(path === '' || names.has(path))
          .withContext(`${file.path} → ${path}`)
          .toBeTrue();
        if (fragment === undefined) continue;
        const target = parse(pageOf(files, path === '' ? file.path : path));
        expect(target.querySelector(`[id="${fragment}"]`))
          .withContext(`${file.path} → #${fragment}`)
          .not.toBeNull();
      }
    }
  });

  it('escapes text, and lets no script through an address', () => {
    const hostile = topic(
      'h',
      p('<script>alert(1)</script>', makeText('x', [{ type: 'link', attrs: { href: 'javascript:alert(1)' } }])),
    );
    const page = pageOf(site([hostile], [entry('e1', 'h')]), 'h.html');
    expect(page).not.toContain('<script');
    expect(page).not.toContain('javascript:');
    expect(safeHref(' JaVaScRiPt:alert(1)')).not.toMatch(/javascript/i);
    expect(safeHref('data:text/html,x')).not.toMatch(/^data/);
    expect(safeHref('https://a.example/?q=1')).toBe('https://a.example/?q=1');
  });

  it('is the same to the byte for the same input', () => {
    const again = site(
      [everything, topic('two', p('second')), snippet('sn', section('in', 'Placed', p('y')))],
      [entry('e1', 'all', { entries: [entry('e2', 'two')] })],
    );
    expect(again).toEqual(files);
  });

  it('speaks the language of the variant', () => {
    const german = site([topic('h', makeNode('admonition', { kind: 'warning' }, [p('x')]))], [entry('e1', 'h')], {
      language: 'de',
    });
    const page = pageOf(german, 'h.html');
    expect(page).toContain('lang="de"');
    expect(page).toContain('Warnung');
  });

  it('keeps pages of the same topic apart', () => {
    const twice = site([topic('h', p('x'))], [entry('e1', 'h'), entry('e2', 'h')]);
    expect(twice.map((file) => file.path)).toEqual(['index.html', 'h.html', 'h-2.html', 'style.css']);
  });
});
