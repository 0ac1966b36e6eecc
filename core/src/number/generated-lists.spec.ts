import { makeNode, makeText, type ContentNode } from '../model/node.js';
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
  snippet,
  sourceOf,
  title,
  topic,
  words,
} from '../../../tests/support/library-parts.js';
import type { Component } from '../model/component.js';
import { plainDesign, type Design } from '../design/design.js';
import { indexOf, type IndexEntry } from './book-index.js';
import { captionsOf, contentsOf, type ContentsEntry } from './contents.js';
import { glossaryOf } from './glossary.js';
import { numberedOf } from '../../../tests/support/build.js';
import type { NumberedPublication } from './numbered.js';
import { plainText } from './plain-text.js';

const mark = (primary: string, more: Readonly<Record<string, string>> = {}): ContentNode =>
  makeNode('index_marker', { primary, ...more });
const term = (text: string): ContentNode => makeText(text, [{ type: 'defined_term' }]);

function numbered(topics: readonly Component[], language = 'en', design: Design = plainDesign): NumberedPublication {
  const source = sourceOf([...topics, image]);
  const entries = topics.map(({ key }) => entry(`e-${key}`, key));
  return numberedOf(source, recipeOf(publicationOf(entries), { language, design }));
}

const image = component('image', 'img', {
  type: 'image',
  alt: '',
  file: { digest: '0'.repeat(64), mediaType: 'image/png', width: 1, height: 1 },
  versions: [],
});

describe('The index', () => {
  const groups = (words: readonly string[], language: string) =>
    indexOf(numbered([topic('t', p(...words.map((word) => mark(word))))], language)).map(
      ({ letter, entries }) => `${letter}: ${entries.map(({ heading }) => heading).join(' ')}`,
    );

  it('is sorted as the language is', () => {
    // Unicode Technical Standard 10, table 1 “Example Differences”: ö stands before z in German and after
    // it in Swedish.
    expect(groups(['zebra', 'öl', 'ost'], 'de')).toEqual(['O: öl ost', 'Z: zebra']);
    expect(groups(['zebra', 'öl', 'ost'], 'sv')).toEqual(['O: ost', 'Z: zebra', 'Ö: öl']);
    // The same standard, 1.1: Danish sorts “Å” as a letter of its own after Z (CLDR, “da”).
    expect(groups(['ål', 'zar', 'al'], 'da')).toEqual(['A: al', 'Z: zar', 'Å: ål']);
  });

  it('has digits and other signs before the letters, and numbers by their value', () => {
    expect(groups(['Mast', '100 hPa', '9 V', '/etc', 'mast'], 'en')).toEqual([
      ': /etc',
      '0–9: 9 V 100 hPa',
      'M: mast Mast',
    ]);
  });

  it('leads to the nearest heading, once, with second levels and references to other headings', () => {
    const book = numbered([
      topic(
        'a',
        p(mark('rain'), 'x', mark('rain')),
        section('s', 'Gauge', p(mark('rain', { secondary: 'gauge' }), mark('hail', { see: 'rain' }))),
      ),
      topic('b', p(mark('rain', { seeAlso: 'wind' }), mark('wind')), only('os is mac', p(mark('sun')))),
    ]);
    const text = ({ heading, locators, see, seeAlso, entries }: IndexEntry): string =>
      [
        heading,
        ...locators.map(({ page, heading: at, anchor }) => `${page.name}#${anchor ?? ''} ${at.number}`),
        ...see.map((each) => `see ${each}`),
        ...seeAlso.map((each) => `also ${each}`),
        ...entries.map((each) => `(${text(each)})`),
      ].join(', ');
    expect(indexOf(book).flatMap(({ entries }) => entries.map(text))).toEqual([
      'hail, see rain',
      'rain, a#n4 1, b#n4 2, also wind, (gauge, a#n11 1.1)',
      'wind, b#n4 2',
    ]);
    expect(book.problems).toEqual([]);
  });

  it('takes what stands in the title where that title is shown, not where the outline gives another', () => {
    const marked = component(
      'topic',
      't',
      makeNode('topic', null, [title('Rain', mark('rain')), p(words('os is linux', 'x'))]),
    );
    const source = sourceOf([marked]);
    for (const titles of [
      ['Other', null],
      [null, 'Other'],
    ]) {
      const entries = titles.map((own, at) => entry(`e${at}`, 't', { title: own }));
      const book = numberedOf(source, recipeOf(publicationOf(entries)));
      expect(indexOf(book).flatMap(({ entries: found }) => found.map(({ locators }) => locators.length))).toEqual([1]);
    }
  });

  it('reports references to headings that the variant does not have', () => {
    const book = numbered([
      topic('a', { ...p(mark('hail', { see: 'ice' })), attrs: { id: 'b1' } }, only('os is mac', p(mark('ice')))),
    ]);
    expect(book.problems.map(({ code, severity, place }) => [code, severity, place.component, place.block])).toEqual([
      ['missing-index-heading', 'warning', 'a', 'b1'],
    ]);
  });
});

describe('The glossary', () => {
  it('takes each term wherever it is defined, with its description, lists included, or its paragraph', () => {
    const definition = makeNode('definition', null, [
      makeNode('term', null, [term('gust')]),
      makeNode('description', null, [p('The highest wind in an interval.'), list(p('a'))]),
    ]);
    const book = numbered([
      topic('a', p('A ', term('mast'), ' carries the sensors.'), makeNode('definition_list', null, [definition])),
      topic('b', p('A ', term('mast'), ' again.'), only('os is mac', p('A ', term('clamp'), '.'))),
    ]);
    const entries = glossaryOf(book).map(({ term: name, definitions }) => [
      name,
      definitions.map(({ blocks, page }) => [page.topic, ...blocks.map((block) => plainText(block.content ?? []))]),
    ]);
    expect(entries).toEqual([
      ['gust', [['a', 'The highest wind in an interval.', 'a']]],
      [
        'mast',
        [
          ['a', 'A mast carries the sensors.'],
          ['b', 'A mast again.'],
        ],
      ],
    ]);
  });

  it('has every definition of a term, and one that is placed twice once', () => {
    const both = topic(
      'a',
      p('A ', term('mast'), ' carries.'),
      p('A ', term('mast'), ' bends.'),
      place('s'),
      place('s'),
    );
    const book = numberedOf(
      sourceOf([both, topic('b', place('s')), snippet('s', p('A ', term('boom'), ' swings.'))]),
      recipeOf(publicationOf([entry('e1', 'a'), entry('e2', 'b')])),
    );
    expect(glossaryOf(book).map(({ term: name, definitions }) => [name, definitions.length])).toEqual([
      ['boom', 1],
      ['mast', 2],
    ]);
  });
});

describe('Contents and lists', () => {
  const figure = (caption: string | null): ContentNode =>
    makeNode('figure', null, [
      makeNode('picture', { component: 'img' }),
      ...(caption ? [makeNode('caption', null, [makeText(caption)])] : []),
    ]);
  const deep = topic(
    'a',
    section('s1', 'One', p('x'), section('s2', 'Two', p('x'), figure('Mast'))),
    only('os is mac', section('s3', 'Gone', p('x'))),
    section('s4', 'Three', figure(null), figure('Clamp')),
  );

  it('go down to the depth that is asked for', () => {
    const text = ({ label, entries }: ContentsEntry): string =>
      `${label.number} ${plainText(label.title)}${entries.length > 0 ? ` [${entries.map(text).join(', ')}]` : ''}`;
    const book = numbered([deep]);
    expect(contentsOf(book, 0).map(text)).toEqual(['1 Title of a']);
    expect(contentsOf(book, 1).map(text)).toEqual(['1 Title of a [1.1 One, 1.2 Three]']);
    expect(contentsOf(book, 2).map(text)).toEqual(['1 Title of a [1.1 One [1.1.1 Two], 1.2 Three]']);
  });

  it('list what has a caption, in order', () => {
    expect(captionsOf(numbered([deep]), 'figure').map(({ label }) => [label.number, plainText(label.title)])).toEqual([
      ['1.1', 'Mast'],
      ['1.2', 'Clamp'],
    ]);
    expect(captionsOf(numbered([deep]), 'table')).toEqual([]);
  });
});

describe('Numbering schemes', () => {
  const book = (numerals: Partial<Design['numerals']>, more: Partial<Design> = {}) => {
    const design = { ...plainDesign, ...more, numerals: { ...plainDesign.numerals, ...numerals } };
    const source = sourceOf(
      ['f', 'g', 'p', 'a', 'b', 'q', 'c'].map((key) => topic(key, p('x'), section('s', 'S', p('x')))),
    );
    const entries = [
      entry('f', 'f', { role: 'front' }),
      entry('g', 'g', { role: 'front' }),
      entry('p', 'p', { role: 'part', entries: [entry('a', 'a'), entry('b', 'b')] }),
      entry('q', 'q', { role: 'part', entries: [entry('c', 'c')] }),
      entry('x', 'c', { role: 'appendix' }),
    ];
    const { pages } = numberedOf(source, recipeOf(publicationOf(entries), { design }));
    return pages
      .flatMap((page) => [page, ...page.pages])
      .map(({ label, labels }) => `${label.number}/${labels[0]?.number ?? ''}`);
  };

  it('count front matter in roman numerals or not at all', () => {
    expect(book({ front: 'lower-roman' }).slice(0, 2)).toEqual(['i/i.1', 'ii/ii.1']);
    expect(book({}).slice(0, 2)).toEqual(['/', '/']);
  });

  it('count chapters through the parts, or begin again in each; appendices by letter', () => {
    expect(book({}).slice(2)).toEqual(['I/', '1/1.1', '2/2.1', 'II/', '3/3.1', 'A/A.1']);
    expect(book({}, { chapters: 'per-part' }).slice(2)).toEqual(['I/', '1/1.1', '2/2.1', 'II/', '1/1.1', 'A/A.1']);
    expect(book({ section: 'none' }).slice(3, 5)).toEqual(['1/', '2/']);
    expect(book({ chapter: 'none' }).slice(3, 5)).toEqual(['/', '/']);
  });
});
