import { HtmlValidate } from 'html-validate';
import { parse } from 'node-html-parser';
import { build, numberedOf } from '../../../tests/support/build.js';
import {
  entry,
  p,
  place,
  publicationOf,
  recipeOf,
  section,
  snippet,
  sourceOf,
  topic,
} from '../../../tests/support/library-parts.js';
import { resolveDesign, type DesignSettings } from '../design/resolve.js';
import { shippedDesigns } from '../design/shipped.js';
import { makeNode, makeText, type ContentNode } from '../model/node.js';
import type { Stamp } from '../model/stamp.js';
import { epub } from './epub/epub.js';
import { markdown } from './markdown/markdown.js';
import type { PagedBlock, PagedDocument } from './paged/paged-document.js';
import { word } from './paged/word.js';

const stamps: readonly Stamp[] = [
  { key: 'value', title: 'Set value', on: 'phrases', from: null, when: null },
  { key: 'trained.staff', title: 'Trained staff', on: 'blocks', from: null, when: null },
  { key: 'workshop', title: 'Workshop', on: 'blocks', from: 'trained.staff', when: null },
];
const said: DesignSettings = {
  'stamps.value.weight': 'bold',
  'stamps.value.word': 'Set',
  'stamps.trained.staff.frame': 'box',
  'stamps.trained.staff.colour': '#8a3b12',
  'stamps.trained.staff.word': 'Trained staff',
  'stamps.trained.staff.word@de': 'Geschulte',
  'stamps.workshop.word': 'Workshop',
};
const designIn = (language: string) =>
  resolveDesign(
    'own',
    [
      ...shippedDesigns,
      { key: 'base', title: 'Base', from: 'plain', settings: said },
      { key: 'own', title: 'Own', from: 'base', settings: { 'stamps.workshop.slant': 'italic' } },
    ],
    language,
    stamps,
  );
const bears = (stamp: string, node: ContentNode): ContentNode => ({ ...node, attrs: { ...node.attrs, stamp } });
const value = (text: string): ContentNode => makeText(text, [{ type: 'stamp', attrs: { stamp: 'value' } }]);
const cell = (text: string): ContentNode => makeNode('table_cell', null, [p(text)]);

const source = sourceOf(
  [
    topic(
      't',
      p(
        'Tighten to ',
        value('12 '),
        makeText('N·m', [{ type: 'stamp', attrs: { stamp: 'value' } }, { type: 'strong' }]),
        '.',
      ),
      bears('trained.staff', p('Alone')),
      bears(
        'workshop',
        makeNode('bullet_list', null, [bears('trained.staff', makeNode('list_item', null, [p('item')]))]),
      ),
      bears('workshop', section('s', 'Opening it', p('open'), section('d', 'Deeper', p('deep')))),
      bears('workshop', place('sn', { id: 'p1' })),
      makeNode('definition_list', null, [
        bears(
          'workshop',
          makeNode('definition', null, [
            makeNode('term', null, [makeText('term')]),
            makeNode('description', null, [p('meaning')]),
          ]),
        ),
        makeNode('definition', null, [
          makeNode('term', null, [makeText('unstamped')]),
          makeNode('description', null, [p('meaning')]),
        ]),
      ]),
      makeNode('table', { id: 'tab' }, [
        makeNode('table_grid', null, [
          makeNode('table_row', null, [cell('plain')]),
          bears('trained.staff', makeNode('table_row', null, [cell('stamped')])),
        ]),
      ]),
    ),
    snippet('sn', p('placed')),
  ],
  [],
  stamps,
);
const recipeFor = (language: string) =>
  recipeOf(publicationOf([entry('e', 't')]), { design: designIn(language), language });
const htmlIn = (language = 'en') => {
  const { files } = build(source, recipeFor(language));
  return {
    page: files.find(({ path }) => path === 't.html')?.text ?? '',
    css: files.find(({ path }) => path === 'style.css')?.text ?? '',
  };
};

describe('The look of a stamp', () => {
  it('is what the design says, then those it derives from, then the same for the stamp that it derives from', () => {
    const { workshop, value: phrase } = designIn('en').stamps;
    expect(workshop).toEqual({
      title: 'Workshop',
      frame: 'box',
      colour: '#8a3b12',
      letters: 'ink',
      weight: 'regular',
      slant: 'italic',
      capitals: false,
      word: 'Workshop',
    });
    expect([phrase?.frame, phrase?.weight]).toEqual(['bar', 'bold']);
    expect(designIn('de').stamps['trained.staff']?.word).toBe('Geschulte');
    // A word of its own for all languages goes before the word for one of the stamp behind it.
    expect(designIn('de').stamps['workshop']?.word).toBe('Workshop');
  });

  it('stands in the markup of sites once around what bears it, and in their style sheets', async () => {
    const { page, css } = htmlIn();
    const body = parse(page);
    const words = (selector: string): readonly string[] =>
      body.querySelectorAll(selector).map((each) => each.text.replace(/\s+/g, ' ').trim());
    expect(words('span.stamp-value')).toEqual(['Set 12 N·m']);
    expect(words('div.stamp-trained\\.staff')).toEqual(['Trained staff Alone']);
    expect(words('li.stamp')).toEqual(['Trained staff item']);
    expect(words('section.stamp > h2')).toEqual(['1.1 Opening it']);
    expect(words('section.stamp > .stamp-word')).toEqual(['Workshop']);
    expect(words('dl > div.stamp > dt')).toEqual(['term']);
    // Terms stand in groups all of them or none (HTML standard, 4.4.9).
    expect(words('dl > div > dt')).toEqual(['term', 'unstamped']);
    expect(words('tr.stamp')).toEqual(['stamped']);
    expect(words('div.stamp-workshop').some((text) => text === 'Workshop placed')).toBeTrue();
    expect(css).toContain('.stamp-trained\\.staff:not(span,tr){border:1.5px solid light-dark(#8a3b12');
    expect(css).toContain('.stamp-value{font-weight:650}');
    const report = await new HtmlValidate({ extends: ['html-validate:standard'] }).validateString(page);
    expect(report.results.flatMap(({ messages }) => messages.map(({ message }) => message))).toEqual([]);
  });

  it('is in the style of books without variables, which old readers do not know', () => {
    const style = epub.render(numberedOf(source, recipeFor('en'))).files.find(({ path }) => path.endsWith('.css'));
    const rules = style?.text.split('\n').filter((line) => line.includes('.stamp')) ?? [];
    expect(rules.join()).toContain('solid #8a3b12');
    expect(rules.join()).not.toContain('var(');
  });

  it('is given to paper and Word with the blocks that bear it, those of a section each by itself', () => {
    const [file] = word.render(numberedOf(source, recipeFor('en'))).files;
    const document = JSON.parse(file?.text ?? '') as PagedDocument;
    const read = (block: PagedBlock): string =>
      block.b === 'stamped'
        ? `${block.stamp}(${block.word}: ${block.c.map(read).join(' ')})`
        : block.b === 'list'
          ? `list[${block.items.map(({ c }) => c.map(read).join(' ')).join()}]`
          : block.b;
    expect(document.pages[0]?.blocks.map(read)).toEqual([
      'paragraph',
      'trained.staff(Trained staff: paragraph)',
      'workshop(Workshop: list[trained.staff(Trained staff: paragraph)])',
      'heading',
      'workshop(Workshop: paragraph)',
      'heading',
      'workshop(: paragraph)',
      'workshop(Workshop: paragraph)',
      'terms',
      'table',
    ]);
    expect(document.look.stamps['workshop']).toEqual(
      jasmine.objectContaining({ title: 'Workshop', frame: 'box', colour: '#8a3b12', italic: true, bold: false }),
    );
  });

  it('is words in Markdown: once before what bears it', () => {
    const text = markdown
      .render(numberedOf(source, recipeFor('en')))
      .files.map((each) => each.text)
      .join('\n');
    expect(text.match(/<strong>Set<\/strong> /g)?.length).toBe(1);
    expect(text).toContain('<strong>Trained staff</strong>\n\nAlone');
  });

  it('speaks the language of the variant', () => {
    expect(htmlIn('de').page).toContain('<p class="stamp-word">Geschulte</p>');
  });
});
