import { numberedOf } from '../../../../tests/support/build.js';
import { entry, p, publicationOf, recipeOf, sourceOf, topic } from '../../../../tests/support/library-parts.js';
import { resolveDesign, type DesignSettings } from '../../design/resolve.js';
import { shippedDesigns } from '../../design/shipped.js';
import { makeNode, makeText } from '../../model/node.js';
import { uncoveredCharacters } from '../../number/characters.js';
import { firstPages } from '../first-pages.js';
import { formatsOf } from '../formats.js';
import { subsetsFor } from './font-subsets.js';
import { webFonts } from './web-fonts.js';

const designed = (settings: DesignSettings, language = 'en') =>
  resolveDesign('own', [...shippedDesigns, { key: 'own', title: 'Own', from: 'plain', settings }], language);

const section = (id: string, title: string) =>
  makeNode('section', { id }, [makeNode('title', null, [makeText(title)]), p('x')]);

describe('Fonts for screens', () => {
  it('come in the parts that a text needs, and whole where no part has a character', () => {
    expect(subsetsFor('Größe – “x”')).toEqual({ subsets: [], rest: [] });
    expect(subsetsFor('Αθήνα, Москва, Łódź')).toEqual({ subsets: ['latin-ext', 'greek', 'cyrillic'], rest: [] });
    expect(subsetsFor('File → Open')).toEqual({ subsets: [], rest: ['→'] });
    const { files, css } = webFonts(designed({}), { characters: 'Москва →', formulas: false });
    const paths = files.map(({ path }) => path);
    expect(paths).toContain('fonts/serif-cyrillic.woff2');
    expect(paths).toContain('fonts/serif-italic-cyrillic.woff2');
    expect(paths).not.toContain('fonts/serif-greek.woff2');
    expect(css).toMatch(/src:url\(fonts\/serif-rest\.ttf\);font-weight:400;unicode-range:U\+2192\}/);
    expect(new Set(paths).size).toBe(paths.length);
    for (const path of paths) expect(css).toContain(`url(${path})`);
  });

  it('are those of the design, uploaded ones by their faces', () => {
    const families = {
      house: {
        name: 'House',
        faces: [{ digest: 'ab'.repeat(32), mediaType: 'font/otf', weight: 700, isItalic: true }],
      },
    };
    const { files, css } = webFonts(
      { ...designed({ 'type.text': 'house', 'type.labels': 'sans' }), families },
      { characters: '', formulas: false },
    );
    expect(files).toContain({
      path: 'fonts/abababababababab.otf',
      file: { digest: 'ab'.repeat(32), mediaType: 'font/otf' },
    });
    expect(css).toContain(
      '@font-face{font-family:"house";src:url(fonts/abababababababab.otf);font-weight:700;font-style:italic}',
    );
  });
});

describe('Characters without a font', () => {
  const source = sourceOf([
    topic('t1', p('Wählen Sie → oder 漢'), p('漢字')),
    topic('t2', p('漢 again, and \u{1f600}\u{fe0f}, soft\u{ad}ly\u200b')),
  ]);
  const numbered = numberedOf(source, recipeOf(publicationOf([entry('e1', 't1'), entry('e2', 't2')])));

  it('are told once each, where they stand first', () => {
    const problems = uncoveredCharacters(numbered, (character) => character === '→');
    expect(problems.map(({ message, place }) => [message, place.component])).toEqual([
      ['No font of the design has “漢” (U+6F22), “字” (U+5B57).', 't1'],
      ['No font of the design has “\u{1f600}” (U+1F600).', 't2'],
    ]);
    expect(uncoveredCharacters(numbered, () => true)).toEqual([]);
  });
});

describe('What a design says', () => {
  const source = sourceOf([topic('t', p('Text'), section('s', 'the way of the wind and rain')), topic('u', p('More'))]);
  const outline = publicationOf([entry('e1', 't', { title: 'a title of the first' }), entry('e2', 'u')]);
  const filesIn = (settings: DesignSettings, format = 'html', language = 'en') => {
    const [made] = formatsOf([format]);
    const numbered = numberedOf(source, recipeOf(outline, { design: designed(settings, language), language }));
    return new Map(made?.render(numbered).files.map(({ path, text }) => [path, text]));
  };
  const textOf = (settings: DesignSettings, path: string, format = 'html', language = 'en'): string =>
    filesIn(settings, format, language).get(path) ?? '';

  it('writes headings in title case or capitals, by their level in the whole', () => {
    const first = textOf({ 'letters.level1': 'title', 'letters.level2': 'title' }, 't.html');
    expect(first).toContain('A Title of the First');
    expect(first).toContain('The Way of the Wind and Rain');
    const second = textOf({ 'letters.level2': 'title' }, 't.html');
    expect(second).toContain('a title of the first');
    expect(second).toContain('The Way of the Wind and Rain');
    // Capitals are looks: the text stays what it is.
    expect(textOf({ 'letters.level1': 'capitals' }, 't.html')).toContain('a title of the first');
    expect(textOf({ 'letters.level1': 'capitals' }, 'style.css')).toContain('h1{text-transform:uppercase}');
  });

  it('stands on the start page, in the header and the footer, as text', () => {
    const settings = {
      'cover.over': '<b>{title}</b>',
      'cover.foot': 'Page {page}',
      'web.header': 'Beside',
      'web.footer': '{variant} & more',
    };
    const start = textOf(settings, 'index.html');
    expect(start).toContain('<p class="over">&lt;b&gt;');
    // There are no pages to count.
    expect(start).toContain('<p class="over">Page</p>');
    const page = textOf(settings, 't.html');
    expect(page).toContain('<span class="beside">Beside</span>');
    expect(page).toMatch(/<footer class="site-foot">[^<]*&amp; more<\/footer>/);
  });

  it('never ends the style sheet that it stands in', () => {
    const css = { 'web.css': '</style><script>alert(1)</script>' };
    for (const [format, path] of [
      ['html', 'style.css'],
      ['page', 'document.html'],
    ] as const)
      expect(textOf(css, path, format)).not.toContain('<script>');
  });

  it('has words by language', () => {
    const settings = {
      'templates.chapter.heading': 'Chapter {number}',
      'templates.chapter.heading@de': 'Kapitel {number}',
    };
    expect(textOf(settings, 't.html', 'html', 'de')).toContain('Kapitel 1');
    expect(textOf(settings, 't.html')).toContain('Chapter 1');
  });

  it('is given to paper in millimetres and points, with wide tables turned', () => {
    const paper = (settings: DesignSettings): { look: { paper: { width: number; height: number } } } =>
      JSON.parse(textOf(settings, 'document.json', 'pdf')) as never;
    const sizeOf = (settings: DesignSettings): readonly number[] => {
      const { width, height } = paper(settings).look.paper;
      return [width, height];
    };
    expect(sizeOf({})).toEqual([210, 297]);
    expect(sizeOf({ 'paper.size': 'a5', 'paper.landscape': true })).toEqual([210, 148]);
    expect(sizeOf({ 'paper.size': 'letter' })).toEqual([215.9, 279.4]);
    expect(sizeOf({ 'paper.size': 'own', 'paper.width': 300, 'paper.height': 100 })).toEqual([300, 100]);
  });

  it('is looked at by the first pages, which read as in the whole', () => {
    const numbered = numberedOf(source, recipeOf(outline));
    const cut = firstPages(numbered, 1);
    expect(cut.pages.map(({ name }) => name)).toEqual(['t']);
    expect(firstPages(numbered, 10).pages).toEqual(numbered.pages);
    const [pdf] = formatsOf(['pdf']);
    expect(() => pdf?.render(cut)).not.toThrow();
  });
});
