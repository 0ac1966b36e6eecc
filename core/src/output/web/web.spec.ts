import { HtmlValidate } from 'html-validate';
import { parse } from 'node-html-parser';
import { makeNode, makeText, type ContentNode } from '../../model/node.js';
import { safeAddress } from '../../assemble/addresses.js';
import { admonitionKinds, type NodeKind } from '../../model/kinds.js';
import { Memory } from '../../assemble/memory.js';
import { build, fileOf } from '../../../../tests/support/build.js';
import type { FormatFile } from '../format.js';
import { shippedDesign } from '../../design/shipped.js';
import type { Component } from '../../model/component.js';
import type { OutlineEntry, Recipe } from '../../model/publication.js';
import {
  component,
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

function site(
  components: readonly Component[],
  entries: readonly OutlineEntry[],
  more: Partial<Recipe> = {},
): readonly FormatFile[] {
  const source = sourceOf(components);
  const recipe = recipeOf(publicationOf(entries), { design: shippedDesign('labelled'), ...more });
  return build(source, recipe).files;
}

const pageOf = (files: readonly FormatFile[], path: string): string =>
  files.find((file) => file.path === path)?.text ?? '';
const cell = (type: NodeKind, text: string, attrs = {}): ContentNode => makeNode(type, attrs, [p(text)]);

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

  it('comes out the same whatever was built before, also where a title alone calls a footnote', () => {
    const call = makeNode('footnote_reference', { target: 'fn' });
    const limited: ContentNode = { ...call, marks: [{ type: 'condition', attrs: { when: 'os is mac' } }] };
    const note = makeNode('footnote', { id: 'fn' }, [p('a note')]);
    const body = makeNode('topic', null, [title('T', limited), p('text', call), note]);
    const source = sourceOf([component('topic', 't', body)]);
    const [linux, mac] = ['linux', 'mac'].map((os) =>
      recipeOf(publicationOf([entry('e1', 't')]), { profile: { axes: { os: { default: 'out', in: [os] } } } }),
    ) as [Recipe, Recipe];
    const memory = new Memory();
    for (const recipe of [linux, mac, linux]) {
      const text = fileOf(build(source, recipe, memory), 't.html');
      expect(parse(text).querySelectorAll('h1 sup').length).toBe(recipe === mac ? 1 : 0);
      expect(text).toBe(fileOf(build(source, recipe), 't.html'));
    }
  });

  it('comes out the same whatever was built before, also where the next title reads otherwise in words only', () => {
    const first = topic('first', p('text'));
    const called = (leaf: ContentNode, revision: number): Component => ({
      ...component('topic', 'second', makeNode('topic', null, [title('T', leaf), p('more')])),
      revision,
    });
    const outline = recipeOf(publicationOf([entry('e1', 'first'), entry('e2', 'second')]));
    const memory = new Memory();
    const leaves = [see('gone', null), makeNode('inline_placement', { component: 'gone' })];
    for (const [at, leaf] of leaves.entries()) {
      const source = sourceOf([first, called(leaf, at + 1)]);
      const text = fileOf(build(source, outline, memory), 'first.html');
      expect(text).toBe(fileOf(build(source, outline), 'first.html'));
    }
  });

  it('has the same index and contents where its pages are the same, as freshness compares pages only', () => {
    const [dangling, missing] = [see('gone', null), makeNode('inline_placement', { component: 'gone' })].map((leaf) =>
      site([topic('t', makeNode('section', { id: 's' }, [title('T', leaf), p('text', leaf)]))], [entry('e1', 't')]).map(
        ({ path, text }) => `${path}\n${text}`,
      ),
    );
    expect(dangling?.some((text) => text.includes('class="missing"'))).toBeTrue();
    expect(dangling).toEqual(missing);
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

  it('says on every page which variant it is of, has one main part with one first heading, and a way past the contents', () => {
    for (const file of files.filter(({ path }) => path.endsWith('.html'))) {
      const page = parse(file.text);
      expect(page.querySelector('.variant')?.text).withContext(file.path).toBe('Linux, basic');
      expect([page.querySelectorAll('main').length, page.querySelectorAll('h1').length])
        .withContext(file.path)
        .toEqual([1, 1]);
      expect(page.querySelector('a.skip')?.getAttribute('href')).toBe(`#${page.querySelector('main')?.id}`);
      expect(page.querySelector('html')?.getAttribute('dir')).toBe('ltr');
      expect(page.querySelector('meta[name=description]')?.getAttribute('content')).toBe('The Book, Linux, basic');
    }
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

  it('has header cells only where nothing stands in them that may not (HTML Standard, “The th element”)', () => {
    const header = (...content: ContentNode[]): ContentNode => makeNode('table_header', null, content);
    const table = makeNode('table', { id: 'tab' }, [
      makeNode('table_grid', null, [
        makeNode('table_row', { header: true }, [
          header(p('words')),
          header(makeNode('quotation', null, [p('said')])),
          header(makeNode('quotation', { attribution: 'A. Fennick' }, [p('said')])),
        ]),
      ]),
    ]);
    const row = parse(pageOf(site([topic('t', table)], [entry('e', 't')]), 't.html')).querySelectorAll('tr > *');
    expect(row.map(({ rawTagName }) => rawTagName)).toEqual(['th', 'th', 'td']);
  });

  it('gives a table the lines that it has of its own, whatever the design says', () => {
    const table = (lines: string | null): ContentNode =>
      makeNode('table', { id: `t-${lines}`, lines }, [
        makeNode('table_grid', null, [makeNode('table_row', null, [makeNode('table_cell', null, [p('x')])])]),
      ]);
    const files = site([topic('t', table(null), table('none'), table('grid'))], [entry('e', 't')]);
    const tables = parse(pageOf(files, 't.html')).querySelectorAll('.table');
    expect(tables.map((each) => each.getAttribute('class'))).toEqual(['table', 'table lines-none', 'table lines-grid']);
    const styles = files.map(({ text }) => text).join('');
    expect(styles).toContain('.lines-none>table>*>tr>*{border:0}');
  });

  it('escapes text, and lets no script through an address', () => {
    const hostile = topic(
      'h',
      p('<script>alert(1)</script>', makeText('x', [{ type: 'link', attrs: { href: 'javascript:alert(1)' } }])),
    );
    const page = pageOf(site([hostile], [entry('e1', 'h')]), 'h.html');
    // None but those of every page.
    const scripts = parse(page).querySelectorAll('script');
    expect(scripts.map((each) => [each.getAttribute('src'), each.text])).toEqual([
      ['contents.js', ''],
      ['others.js', ''],
      ['site.js', ''],
    ]);
    expect(page).not.toContain('javascript:');
    expect(page).toContain('x');
    for (const hidden of [
      ' JaVaScRiPt:alert(1)',
      'java\tscript:alert(1)',
      '\u0001javascript:alert(1)',
      'data:text/html,x',
    ])
      expect(safeAddress(hidden)).withContext(hidden).toBeNull();
    for (const good of ['https://a.example/?q=1', 'mailto:a@b.example', 'more.html#x', '#x', '../a b.pdf'])
      expect(safeAddress(good)).toBe(good);
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
    const pagesIn = (made: typeof twice): readonly string[] =>
      made.map(({ path }) => path).filter((path) => path.endsWith('.html'));
    expect(pagesIn(twice)).toEqual(['index.html', '404.html', 'h.html', 'h_e2.html']);
    // Where they stand, and what a variant leaves out, changes no address.
    const moved = site([topic('h', p('x'))], [entry('e2', 'h'), entry('e1', 'h', { when: 'os is mac' })]);
    expect(pagesIn(moved)).toEqual(['index.html', '404.html', 'h_e2.html']);
  });
});
