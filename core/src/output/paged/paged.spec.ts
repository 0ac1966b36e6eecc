import { plainDesign } from '../../design/design.js';
import { makeNode, makeText, type ContentNode } from '../../model/node.js';
import { numberedOf } from '../../../../tests/support/build.js';
import {
  entry,
  p,
  place,
  publicationOf,
  recipeOf,
  section,
  see,
  snippet,
  sourceOf,
  topic,
} from '../../../../tests/support/library-parts.js';
import type { PagedBlock, PagedDocument } from './paged-document.js';
import { pdf } from './pdf.js';
import { word } from './word.js';

const documentOf = (...components: Parameters<typeof sourceOf>[0]): PagedDocument => {
  const entries = components.filter(({ kind }) => kind === 'topic').map(({ key }) => entry(`e-${key}`, key));
  const [file] = word.render(numberedOf(sourceOf(components), recipeOf(publicationOf(entries)))).files;
  return JSON.parse(file?.text ?? '') as PagedDocument;
};
const blocksOf = (...flow: readonly ContentNode[]): readonly PagedBlock[] =>
  documentOf(topic('t', ...flow)).pages[0]?.blocks ?? [];

const cell = (text: string, columns = 1, rows = 1): ContentNode =>
  makeNode('table_cell', { colspan: columns, rowspan: rows }, [p(text)]);
const row = (...cells: ContentNode[]): ContentNode => makeNode('table_row', null, cells);

/** The paths and documents of a PDF whose chapters or topics are documents, too. */
const partsOf = (kind: 'chapters' | 'topics'): ReadonlyMap<string, PagedDocument> => {
  const components = [
    topic('mount', p(see('wire', null)), section('in', 'In', p('y'))),
    topic('mast', p(see(null, 'deep', 'number'), ' ', see('mount', 'in', 'page')), section('deep', 'Deep', p('z'))),
    topic('wire', p('Wire it.')),
  ];
  const outline = publicationOf([{ ...entry('e1', 'mount'), entries: [entry('e2', 'mast')] }, entry('e3', 'wire')]);
  const design = { ...plainDesign, paper: { ...plainDesign.paper, parts: kind } };
  const { files } = pdf.render(numberedOf(sourceOf(components), recipeOf(outline, { design })));
  const documents = files.filter(({ mediaType }) => mediaType === 'application/json');
  return new Map(documents.map(({ path, text }) => [path, JSON.parse(text) as PagedDocument]));
};

describe('Parts of a publication on paper', () => {
  const read = (document: PagedDocument | undefined): readonly string[] =>
    (document?.pages ?? []).flatMap(({ heading, blocks }) => [
      `${heading.level} ${heading.number} ${heading.title.join('')}`,
      ...blocks.map((block) => JSON.stringify('c' in block ? block.c : [block.b])),
    ]);

  it('are documents of a chapter each, which say where references out of them lead', () => {
    const parts = partsOf('chapters');
    expect([...parts.keys()]).toEqual(['document.json', 'parts/mount.json', 'parts/wire.json']);
    const mount = parts.get('parts/mount.json');
    expect(read(mount)).toEqual([
      '1 1 Title of mount',
      '["2 Title of wire"]',
      '["heading"]',
      '["y"]',
      '2 1.2 Title of mast',
      '[{"i":"reference","to":"mast#deep","c":["1.2.1"]}," ",{"i":"page","to":"mount#in","before":"page"}]',
      '["heading"]',
      '["z"]',
    ]);
    expect([mount?.title, mount?.look.cover, mount?.index]).toEqual(['1 Title of mount – The Book', null, []]);
  });

  it('are documents of a topic each, which begin with a heading of the first level', () => {
    const parts = partsOf('topics');
    expect([...parts.keys()].slice(1)).toEqual(['parts/mount.json', 'parts/mast.json', 'parts/wire.json']);
    const [heading, first] = read(parts.get('parts/mast.json'));
    expect(heading).toBe('1 1.2 Title of mast');
    expect(first).toContain('" 1.1 In (1 Title of mount)"');
  });
});

describe('A document for pages', () => {
  const places = (...rows: readonly ContentNode[]): readonly string[] => {
    const [table] = blocksOf(makeNode('table', { id: 'x' }, [makeNode('table_grid', null, rows)]));
    if (table?.b !== 'table') throw new Error('There is no table.');
    return table.cells.map(({ x, y, columns, rows: down, c }) => {
      const [paragraph] = c;
      const text = paragraph?.b === 'paragraph' ? paragraph.c.join('') : '';
      return `${text} ${x},${y} ${columns}x${down}`;
    });
  };

  it('says which lines a table has of its own', () => {
    const linesOf = (lines: string | null): unknown => {
      const [table] = blocksOf(makeNode('table', { lines }, [makeNode('table_grid', null, [row(cell('x'))])]));
      return table?.b === 'table' ? table.lines : null;
    };
    expect([linesOf(null), linesOf('rows')]).toEqual([undefined, 'rows']);
  });

  it('says where each cell of a table stands, past those that reach down from above', () => {
    expect(places(row(cell('a', 1, 2), cell('b', 2)), row(cell('c'), cell('d')))).toEqual([
      'a 0,0 1x2',
      'b 1,0 2x1',
      'c 1,1 1x1',
      'd 2,1 1x1',
    ]);
  });

  it('makes cells that would lie over others, or reach out of the table, as large as there is room', () => {
    expect(places(row(cell('a'), cell('b', 1, 9)), row(cell('wide', 3)))).toEqual([
      'a 0,0 1x1',
      'b 1,0 1x2',
      'wide 0,1 1x1',
    ]);
  });

  it('leads to what stands somewhere, and to its page where a place is not on paper', () => {
    const slot = makeNode('slot', { id: 'sl', collection: 'tips' });
    const tip = (key: string): ReturnType<typeof snippet> => ({
      ...snippet(key, section('s', key, p('x'))),
      labels: { collection: 'tips', tags: {} },
    });
    const text = JSON.stringify(
      documentOf(
        topic('t', p(see('b', 's')), p(see(null, 'in')), section('in', 'In', p('y')), slot),
        tip('a'),
        tip('b'),
      ),
    );
    const named = new Set([...text.matchAll(/"at":"([^"]+)"/g)].map(([, name]) => name));
    const led = [...text.matchAll(/"to":"([^"]+)"/g)].map(([, name]) => name);
    expect(led.length).toBeGreaterThan(1);
    for (const name of led) expect(named).toContain(name);
    expect(led).toContain('t#in');
  });

  it('reads references to pages by their numbers, and has no links that lead nowhere', () => {
    const link = (href: string): ContentNode => makeText('x', [{ type: 'link', attrs: { href } }]);
    const [first, second] = blocksOf(
      p(see(null, 's', 'page')),
      p(link('https://a.example/'), ' ', link('other.html'), ' ', link('javascript:alert(1)')),
      section('s', 'S', p('y')),
    );
    expect(first).toEqual({ b: 'paragraph', c: [{ i: 'page', to: 't#s', before: 'page' }] });
    expect(second).toEqual({ b: 'paragraph', c: [{ i: 'link', href: 'https://a.example/', c: ['x'] }, ' x x'] });
  });

  it('keeps text that looks like markup as text, in one piece', () => {
    const [only] = blocksOf(
      p('#read("/etc/passwd") ', makeText('*x*', [{ type: 'condition', attrs: { when: 'os is linux' } }])),
    );
    expect(only).toEqual({ b: 'paragraph', c: ['#read("/etc/passwd") *x*'] });
  });

  it('has what is placed where something leads to it', () => {
    const [start] = blocksOf(p('first'), place('none'));
    expect(start).toEqual({ b: 'paragraph', c: ['first'] });
    const { pages } = documentOf(topic('t', place('s'), p(see('s', null))), snippet('s', p('in')));
    expect(JSON.stringify(pages)).toMatch(/"b":"group","at":"t#[^"]+","c":\[\]/);
  });
});
