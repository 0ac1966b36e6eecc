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
