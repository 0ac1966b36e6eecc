import { Packer } from 'docx';
import { strFromU8, unzipSync } from 'fflate';
import { formatsOf, makeNode, makeText, type ContentNode, type PagedDocument } from '@allomorph/core';
import { numberedOf } from '../../../tests/support/build.js';
import { entry, p, publicationOf, recipeOf, sourceOf, topic } from '../../../tests/support/library-parts.js';
import { sameBytes } from './same-bytes.js';
import { writeDocument } from './write-document.js';

/** The parts of the file of a topic, by their names. */
async function partsOf(...flow: readonly ContentNode[]): Promise<(name: string) => string> {
  const numbered = numberedOf(sourceOf([topic('t', ...flow)]), recipeOf(publicationOf([entry('e', 't')])));
  const [word] = formatsOf(['docx']);
  const document = JSON.parse(word?.render(numbered).files[0]?.text ?? '') as PagedDocument;
  const files = unzipSync(await sameBytes(await Packer.toBuffer(writeDocument(document, new Map())), '2026-11-24'));
  return (name) => strFromU8(files[`word/${name}.xml`] ?? new Uint8Array());
}

const cell = (text: string, attrs: Readonly<Record<string, unknown>> = {}): ContentNode =>
  makeNode('table_cell', attrs, [p(text)]);
const row = (...cells: ContentNode[]): ContentNode => makeNode('table_row', null, cells);
const table = (...rows: ContentNode[]): ContentNode =>
  makeNode('table', { id: 'tab' }, [makeNode('table_grid', null, rows)]);
const count = (text: string, sign: string): number => text.split(sign).length - 1;

describe('A file for word processors', () => {
  it('has merged cells merged, over columns and over rows', async () => {
    const part = await partsOf(
      table(row(cell('wide', { colspan: 2 }), cell('tall', { rowspan: 2 })), row(cell('a'), cell('b'))),
    );
    expect(part('document')).toContain('<w:gridSpan w:val="2"/>');
    expect([
      count(part('document'), 'w:vMerge w:val="restart"'),
      count(part('document'), 'w:vMerge w:val="continue"'),
    ]).toEqual([1, 1]);
  });

  it('keeps all words of a footnote, which holds paragraphs only, and calls it again by its number', async () => {
    const note = makeNode('footnote', { id: 'n' }, [p('A note.'), table(row(cell('in a cell')))]);
    const call = (): ContentNode => makeNode('footnote_reference', { target: 'n' });
    const part = await partsOf(p('Once', call(), ' and again', call(), '.'), note);
    expect(part('footnotes')).toContain('A note.');
    expect(part('footnotes')).toContain('in a cell');
    expect(count(part('document'), '<w:footnoteReference')).toBe(1);
    expect(part('document')).toMatch(/<w:vertAlign w:val="superscript"\/><\/w:rPr><w:t xml:space="preserve">1</);
  });

  it('counts every list by itself, with its numerals and from its start', async () => {
    const item = (text: string): ContentNode => makeNode('list_item', null, [p(text)]);
    const part = await partsOf(
      makeNode('ordered_list', { start: 4, style: 'lower-roman' }, [item('four')]),
      makeNode('steps', null, [makeNode('step', { id: 's' }, [p('one')])]),
    );
    expect(part('numbering')).toContain('<w:start w:val="4"/><w:numFmt w:val="lowerRoman"/>');
    const numbers = [...part('document').matchAll(/<w:numId w:val="(\d+)"\/>/g)].map(([, id]) => id);
    expect(new Set(numbers).size).toBe(2);
  });

  it('has no date but that of the build, and no name by chance', async () => {
    const linked = p(makeText('x', [{ type: 'link', attrs: { href: 'https://a.example/' } }]));
    const [one, two] = [await partsOf(linked), await partsOf(linked)];
    expect(one('document')).toBe(two('document'));
    expect(one('document')).toContain('r:id="rIdLink1"');
  });
});
