import { makeNode, makeText, type AssembledNode, type ContentNode } from '../model/node.js';
import type { Component } from '../model/component.js';
import type { OutlineEntry } from '../model/publication.js';
import {
  entry,
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
} from '../../../tests/support/library-parts.js';
import { plainDesign, type Design } from '../design/design.js';
import { formatNumber } from '../design/numerals.js';
import { shippedDesign } from '../design/shipped.js';
import { numberedOf } from '../../../tests/support/build.js';
import { referenceText } from '../output/labels.js';
import { outputWords } from '../output/words.js';
import { web } from '../output/web/web.js';
import { flattenPages, type NumberedPublication } from './numbered.js';

function numbered(
  components: readonly Component[],
  entries: readonly OutlineEntry[],
  design: Design = shippedDesign('labelled'),
): NumberedPublication {
  return numberedOf(sourceOf(components), recipeOf(publicationOf(entries), { design }));
}

const figure = (id: string, caption: string): ContentNode =>
  makeNode('figure', { id }, [
    makeNode('picture', { component: 'img' }),
    makeNode('caption', null, [makeText(caption)]),
  ]);
const image: Component = {
  key: 'img',
  kind: 'image',
  title: 'img',
  revision: 1,
  body: {
    type: 'image',
    alt: '',
    file: { digest: '0'.repeat(64), mediaType: 'image/png', width: 1, height: 1 },
    versions: [],
  },
};

describe('Numbers', () => {
  it('count chapters, sections, front matter and appendices after filtering', () => {
    const book = numbered(
      [
        topic(
          'a',
          p('x'),
          section('s1', 'One', p('x')),
          only('os is mac', section('s2', 'Gone', p('x'))),
          section('s3', 'Two', p('x'), section('s4', 'Deep', p('x'))),
        ),
        topic('b', p('x')),
        topic('c', p('x')),
      ],
      [
        entry('e0', 'b', { role: 'front' }),
        entry('e1', 'a', { entries: [entry('e2', 'b')] }),
        entry('e3', 'c', { role: 'appendix' }),
        entry('e4', 'b', { role: 'back', entries: [entry('e5', 'c')] }),
      ],
    );
    const pages = flattenPages(book.pages);
    expect(pages.map(({ matter }) => matter)).toEqual(['front', 'body', 'body', 'body', 'back', 'back']);
    expect(pages.map(({ label }) => [label.kind, label.number])).toEqual([
      ['front', ''],
      ['chapter', '1'],
      ['section', '1.3'],
      ['appendix', 'A'],
      ['front', ''],
      ['section', ''],
    ]);
    expect(pages[1]?.labels.map(({ number }) => number)).toEqual(['1.1', '1.2', '1.2.1']);
  });

  it('of figures begin again with each chapter, or go through', () => {
    const components = [topic('a', figure('f1', 'x'), figure('f2', 'y')), topic('b', figure('f3', 'z')), image];
    const entries = [entry('e1', 'a'), entry('e2', 'b')];
    const numbersIn = (design: Design): readonly string[] =>
      flattenPages(numbered(components, entries, design).pages).flatMap(({ labels }) =>
        labels.map(({ number }) => number),
      );
    expect(numbersIn(plainDesign)).toEqual(['1.1', '1.2', '2.1']);
    expect(numbersIn({ ...plainDesign, numerals: { ...plainDesign.numerals, figure: 'through' } })).toEqual([
      '1',
      '2',
      '3',
    ]);
    expect(numbersIn({ ...plainDesign, numerals: { ...plainDesign.numerals, figure: 'none' } })).toEqual(['', '', '']);
  });

  it('are written in the usual numerals', () => {
    // Roman numerals: the table of values in ISO 8601-like calendars is common practice; 1994 is the usual test.
    expect(formatNumber(1994, 'upper-roman')).toBe('MCMXCIV');
    expect(formatNumber(4, 'lower-roman')).toBe('iv');
    // CSS Counter Styles Level 3, 6.2: after z comes aa.
    expect([26, 27, 52, 53].map((value) => formatNumber(value, 'lower-alpha'))).toEqual(['z', 'aa', 'az', 'ba']);
    expect(formatNumber(3, 'upper-alpha')).toBe('C');
    expect(formatNumber(3, 'none')).toBe('');
  });

  it('end at the depth of the design', () => {
    const deep = topic('a', section('s1', 'One', p('x'), section('s2', 'Two', p('x'), section('s3', 'Three', p('x')))));
    const [page] = numbered([deep], [entry('e1', 'a')], plainDesign).pages;
    expect(page?.labels.map(({ number }) => number)).toEqual(['1.1', '1.1.1', '']);
  });
});

describe('Cross-references', () => {
  const text = (
    book: NumberedPublication,
    at: { entry: string; component: string; placements?: readonly string[] },
    node: ContentNode,
  ): string | undefined => {
    const found = book.reference({ placements: [], ...at }, node as AssembledNode);
    return found && referenceText(book.design, found, outputWords('en'), web.capabilities);
  };

  it('read by the form and the design', () => {
    const book = numbered(
      [topic('a', section('s1', 'First steps', p('x')), figure('f1', 'Box')), image],
      [entry('e1', 'a')],
    );
    const at = { entry: 'e1', component: 'a' };
    expect(text(book, at, see('a', null, 'number-title'))).toBe('Chapter 1, Title of a');
    expect(text(book, at, see('a', 's1', 'number-title'))).toBe('Section 1.1, “First steps”');
    expect(text(book, at, see(null, 's1', 'number'))).toBe('Section 1.1');
    expect(text(book, at, see(null, 's1', 'title'))).toBe('First steps');
    expect(text(book, at, see(null, 'f1', 'number'))).toBe('Figure 1.1');
    expect(text(book, at, makeNode('cross_reference', { target: 's1', form: 'text', text: 'as said' }))).toBe(
      'as said',
    );
  });

  it('lead to the nearest instance of what is placed more than once', () => {
    const shared = snippet('s', { ...section('inner', 'Shared', p('x', see(null, 'inner'))) });
    const book = numbered(
      [topic('a', place('s', { id: 'p1' })), topic('b', place('s', { id: 'p2' })), shared],
      [entry('e1', 'a'), entry('e2', 'b')],
    );
    const from = (at: string, placement: string) =>
      text(book, { entry: at, placements: [placement], component: 's' }, see(null, 'inner', 'number'));
    expect(from('e1', 'p1')).toBe('Section 1.1');
    expect(from('e2', 'p2')).toBe('Section 2.1');
  });

  it('into content that is out, and to nothing at all, are problems with both ends', () => {
    const book = numbered(
      [
        topic(
          'a',
          { ...p(see('b', 's')), attrs: { id: 'b1' } },
          { ...p(see('b', 'never')), attrs: { id: 'b2' } },
          { ...p(see('gone', null)), attrs: { id: 'b3' } },
        ),
        topic('b', p('x'), only('os is mac', section('s', 'S', p('x')))),
      ],
      [entry('e1', 'a'), entry('e2', 'b')],
    );
    expect(
      book.problems.map(({ code, message, place: { component, block } }) => [code, message, component, block]),
    ).toEqual([
      ['left-out-reference', 'A reference leads to the block “s” of “b”, which this variant leaves out.', 'a', 'b1'],
      ['missing-target', 'A reference leads to the block “never” of “b”, which does not exist.', 'a', 'b2'],
      ['missing-target', 'A reference leads to “gone”, which does not exist.', 'a', 'b3'],
    ]);
  });
});
