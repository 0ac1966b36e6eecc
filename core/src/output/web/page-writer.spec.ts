import { parse } from 'node-html-parser';
import { Memory } from '../../assemble/memory.js';
import { makeNode, makeText, type ContentNode } from '../../model/node.js';
import type { Component, ImageFile } from '../../model/component.js';
import type { MarkKind } from '../../model/kinds.js';
import { plainDesign, type Design } from '../../design/design.js';
import { shippedDesign } from '../../design/shipped.js';
import { contentOf, firstPage, lastPage, numberedOf } from '../../../../tests/support/build.js';
import { headingNumber } from '../labels.js';
import { imageFileName } from '../file-names.js';
import { siteForm } from './page-form.js';
import { PageWriter } from './page-writer.js';
import {
  component,
  entry,
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
} from '../../../../tests/support/library-parts.js';

/** The HTML of a topic `t` among others, as a page of a book. */
function page(components: readonly Component[], design = plainDesign): string {
  const source = sourceOf(components);
  const recipe = recipeOf(
    publicationOf([
      entry('e1', 't', { entries: components.some((each) => each.key === 'u') ? [entry('e2', 'u')] : [] }),
    ]),
    { design },
  );
  const numbered = numberedOf(source, recipe);
  return contentOf(numbered, firstPage(numbered));
}
const html = (...flow: ContentNode[]): string => page([topic('t', ...flow)]);
const marked = (text: string, ...types: MarkKind[]): ContentNode =>
  makeText(
    text,
    types.map((type) => ({ type })),
  );

describe('A rendered page', () => {
  it('nests marks so that they stay well formed', () => {
    expect(html(p(marked('a', 'strong'), marked('b', 'strong', 'emphasis'), marked('c', 'emphasis')))).toContain(
      '<p><strong>a<em>b</em></strong><em>c</em></p>',
    );
    expect(html(p(marked('key', 'key'), ' ', marked('said', 'quote'), ' ', marked('2', 'superscript')))).toContain(
      '<kbd>key</kbd> “said” <sup>2</sup>',
    );
  });

  it('keeps what code looks like, and escapes it', () => {
    const block = makeNode('code_block', null, [makeText('if (a < b) {\n  go("&");\n}')]);
    expect(html(block)).toContain('<pre><code>if (a &lt; b) {\n  go(&quot;&amp;&quot;);\n}</code></pre>');
  });

  it('numbers footnotes in the order of their references, also when referred to twice', () => {
    const note = (id: string, text: string): ContentNode => makeNode('footnote', { id }, [p(text)]);
    const ref = (target: string): ContentNode => makeNode('footnote_reference', { target });
    const root = parse(
      html(note('f1', 'first'), note('f2', 'second'), p('x', ref('f2'), 'y', ref('f1'), 'z', ref('f2'))),
    );
    expect(root.querySelectorAll('sup.footnote').map((each) => each.text)).toEqual(['[1]', '[2]', '[1]']);
    expect(root.querySelectorAll('.footnotes .footnote').map((each) => each.text.trim())).toEqual([
      '[1] second',
      '[2] first',
    ]);
  });

  it('leads back from a footnote to its call, also where that stands in linked words', () => {
    const link = { type: 'link', attrs: { href: 'https://a.example/' } } as const;
    const call = { ...makeNode('footnote_reference', { target: 'f' }), marks: [link] };
    const root = parse(html(makeNode('footnote', { id: 'f' }, [p('note')]), p(makeText('words', [link]), call)));
    expect(root.querySelector('.footnotes a')?.getAttribute('href')).toBe('#_call-1');
    expect(root.querySelector('[id="_call-1"]')?.text).toBe('[1]');
    expect(root.querySelectorAll('a a').length).toBe(0);
  });

  it('gives only what is referred to an id, and every reference a place to go', () => {
    const target: ContentNode = { ...p('target'), attrs: { id: 'b1' } };
    const other: ContentNode = { ...p('other'), attrs: { id: 'b2' } };
    const root = parse(
      html(target, other, p(makeNode('cross_reference', { target: 'b1', form: 'text', text: 'there' }))),
    );
    expect(root.querySelector('a.reference')?.getAttribute('href')).toBe('#b1');
    expect(root.querySelectorAll('p[id]').map((each) => each.getAttribute('id'))).toEqual(['b1']);
  });

  it('keeps ids of content that is placed twice apart', () => {
    const shared = snippet('s', section('inner', 'Inner', p('x')));
    const root = parse(page([topic('t', place('s', { id: 'p1' }), place('s', { id: 'p2' })), shared]));
    expect(root.querySelectorAll('section').map((each) => each.getAttribute('id'))).toEqual(['p1--inner', 'p2--inner']);
  });

  it('leads references to other pages by their file', () => {
    const root = parse(page([topic('t', p(see('u', null)), p(see('u', 's'))), topic('u', section('s', 'S', p('x')))]));
    expect(root.querySelectorAll('a.reference').map((each) => each.getAttribute('href'))).toEqual([
      'u.html',
      'u.html#s',
    ]);
  });

  it('shows a marker for what is missing, and the chapter’s title where it is asked for', () => {
    expect(html(p(variable('gone')))).toContain('<span class="missing">[not available]</span>');
    expect(html(p(see('gone', null)))).toContain('[not available]');
    expect(html(p(variable('@chapter-title')))).toContain('<p>Title of t</p>');
  });

  it('gives pictures their file, their size and their alternative text', () => {
    const file: ImageFile = { digest: 'ab'.repeat(32), mediaType: 'image/png', width: 30, height: 20 };
    const other: ImageFile = { ...file, digest: 'cd'.repeat(32), mediaType: 'image/svg+xml' };
    const image: Component = {
      key: 'i',
      kind: 'image',
      title: 'I',
      revision: 1,
      body: { type: 'image', alt: 'a "quoted" view', file, versions: [{ when: 'os is linux', file: other }] },
    };
    const shown = page([topic('t', makeNode('figure', null, [makeNode('picture', { component: 'i' })])), image]);
    expect(imageFileName(file)).toBe('images/abababababababab.png');
    const picture = parse(shown).querySelector('img');
    expect(picture?.getAttribute('src')).toBe(imageFileName(other));
    expect(picture?.getAttribute('alt')).toBe('a "quoted" view');
    expect(picture?.getAttribute('width')).toBe('30');
  });

  it('leads to pictures where the caller keeps them, whatever other callers said', () => {
    const file: ImageFile = { digest: 'ab'.repeat(32), mediaType: 'image/png', width: 30, height: 20 };
    const image = component('image', 'i', { type: 'image', alt: '', file, versions: [] });
    const source = sourceOf([topic('t', makeNode('figure', null, [makeNode('picture', { component: 'i' })])), image]);
    const numbered = numberedOf(source, recipeOf(publicationOf([entry('e1', 't')])));
    const addresses = ['a', 'b', 'a'].map((folder) => {
      const writer = new PageWriter(numbered, firstPage(numbered), { ...siteForm, picture: () => `${folder}/picture` });
      return parse(writer.content()).querySelector('img')?.getAttribute('src');
    });
    expect(addresses).toEqual(['a/picture', 'b/picture', 'a/picture']);
  });

  it('writes headings as the design says', () => {
    const components = [topic('t', section('s', 'S', p('x')))];
    expect(page(components)).toContain('<h2><span class="number">1.1</span> S</h2>');
    expect(page(components, shippedDesign('labelled'))).toContain(
      '<h1><span class="number">Chapter 1.</span> Title of t</h1>',
    );
    const source = sourceOf(components);
    const numbered = numberedOf(
      source,
      recipeOf(publicationOf([entry('e1', 't')]), { design: shippedDesign('labelled') }),
    );
    expect(headingNumber(shippedDesign('labelled'), firstPage(numbered).label)).toBe('Chapter 1.');
  });

  it('writes a section by its place, also where it was written for another one', () => {
    const placed = place('shared', { id: 'b1', section: 's', withTitle: true });
    const source = sourceOf([
      topic('shared', section('s', 'S', p('x'), section('t', 'T', p('y')))),
      topic('first', section('a', 'A', p('z'))),
      topic('flat', placed),
      topic('deep', section('d', 'D', placed)),
    ]);
    const memory = new Memory();
    const unnumbered = { ...plainDesign, numerals: { ...plainDesign.numerals, section: 'none' as const } };
    const headingsOf = (design: Design, ...topics: string[]): readonly string[] => {
      const entries = topics.map((key) => entry(`e-${key}`, key));
      const numbered = numberedOf(source, recipeOf(publicationOf(entries), { design }), memory);
      return parse(contentOf(numbered, lastPage(numbered)))
        .querySelectorAll('h2,h3,h4')
        .map((each) => `${each.tagName.toLowerCase()}#${each.closest('section')?.id ?? ''} ${each.text}`);
    };
    expect(headingsOf(plainDesign, 'shared')).toEqual(['h2#s 1.1 S', 'h3#t 1.1.1 T']);
    expect(headingsOf(plainDesign, 'first', 'shared')).toEqual(['h2#s 2.1 S', 'h3#t 2.1.1 T']);
    for (let round = 0; round < 2; round += 1) {
      expect(headingsOf(unnumbered, 'shared')).toEqual(['h2#s S', 'h3#t T']);
      expect(headingsOf(unnumbered, 'flat')).toEqual(['h2#b1--s S', 'h3#b1--t T']);
      expect(headingsOf(unnumbered, 'deep')).toEqual(['h2#d D', 'h3#b1--s S', 'h4#b1--t T']);
    }
  });

  it('keeps lists tight where items are single paragraphs', () => {
    expect(html(list(p('a'), makeNode('list_item', null, [p('b'), p('c')])))).toMatch(/<li>a<\/li>\s*<li>(<p>)?b/);
    expect(html(only('os is linux', list(p('a'))))).toContain('<ul>');
  });

  it('says the level of headings deeper than HTML has them', () => {
    let deepest = section('s9', 'Deep', p('x'));
    for (let level = 8; level > 0; level -= 1) deepest = section(`s${level}`, `Level ${level}`, deepest);
    const root = parse(html(deepest));
    expect(root.querySelectorAll('h6').length).toBe(1);
    expect(root.querySelectorAll('[role=heading]').map((each) => each.getAttribute('aria-level'))).toEqual([
      '7',
      '8',
      '9',
      '10',
    ]);
  });
});
