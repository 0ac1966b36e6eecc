import { Packer } from 'docx';
import { strFromU8, unzipSync } from 'fflate';
import {
  formatsOf,
  makeNode,
  makeText,
  resolveDesign,
  shippedDesigns,
  type ContentNode,
  type PagedDocument,
  type Stamp,
} from '@allomorph/core';
import { numberedOf } from '../../../tests/support/build.js';
import { entry, p, publicationOf, recipeOf, sourceOf, topic } from '../../../tests/support/library-parts.js';
import { sameBytes } from './same-bytes.js';
import { writeDocument } from './write-document.js';

const stamps: readonly Stamp[] = [
  { key: 'value', title: 'Set value', on: 'phrases', from: null, when: null },
  { key: 'trained', title: 'Trained staff', on: 'blocks', from: null, when: null },
];

/** The parts of the file of a topic, by their names. */
async function partsOf(...flow: readonly ContentNode[]): Promise<(name: string) => string> {
  const design = resolveDesign('plain', shippedDesigns, 'en', stamps);
  const source = sourceOf([topic('t', ...flow)], [], stamps);
  const numbered = numberedOf(source, recipeOf(publicationOf([entry('e', 't')]), { design }));
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

  it('draws the lines that a table has of its own', async () => {
    const linesOf = async (lines: string | null): Promise<readonly (string | undefined)[]> => {
      const own = { ...table(row(cell('a'))), attrs: { id: 'tab', lines } };
      const borders = /<w:tblBorders>(.*?)<\/w:tblBorders>/s.exec((await partsOf(own))('document'))?.[1] ?? '';
      return ['top', 'insideV'].map((side) => new RegExp(`<w:${side} w:val="(\\w+)"`).exec(borders)?.[1]);
    };
    expect(await linesOf('grid')).toEqual(['single', 'single']);
    expect(await linesOf('rows')).toEqual(['single', 'none']);
    expect(await linesOf('none')).toEqual(['none', 'none']);
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
    const paragraphs = part('document').split('</w:p>');
    const numbers = paragraphs
      .filter((each) => each.includes('ListParagraph'))
      .map((each) => /<w:numId w:val="(\d+)"\/>/.exec(each)?.[1]);
    expect(new Set(numbers).size).toBe(2);
  });

  it('has styles named by the stamps of the team, on what bears them', async () => {
    const part = await partsOf(
      p('To ', makeText('12 N·m', [{ type: 'stamp', attrs: { stamp: 'value' } }])),
      { ...p('Alone'), attrs: { stamp: 'trained' } },
      makeNode('bullet_list', null, [makeNode('list_item', { stamp: 'trained' }, [p('item')])]),
      table({ ...row(cell('in a row')), attrs: { stamp: 'trained' } }),
    );
    const styles = part('styles');
    expect(styles).toContain('w:styleId="StampBlock-trained"><w:name w:val="Trained staff (block)"/>');
    expect(styles).toMatch(
      /w:styleId="StampPhrase-value"><w:name w:val="Set value \(words\)"\/>.*?<w:u w:val="single"/,
    );
    const styleOf = (words: string): string | undefined =>
      part('document')
        .split('</w:p>')
        .find((each) => each.includes(words))
        ?.match(/<w:pStyle w:val="([^"]+)"/)?.[1];
    expect(['Alone', 'item', 'in a row', 'To '].map(styleOf)).toEqual([
      'StampBlock-trained',
      'StampBlock-trained',
      'StampBlock-trained',
      'BodyText',
    ]);
    expect(part('document')).toMatch(/<w:rStyle w:val="StampPhrase-value"\/>.{0,200}12 N·m/);
    const names = new Set([...styles.matchAll(/w:styleId="([^"]+)"/g)].map(([, name]) => name));
    const used = [...part('document').matchAll(/<w:[pr]Style w:val="([^"]+)"/g)].map(([, name]) => name);
    expect(used.filter((name) => !names.has(name))).toEqual([]);
  });

  it('has formulas that word processors edit', async () => {
    const formula = (source: string): ContentNode => makeNode('formula', { source });
    const part = await partsOf(
      p('In a line ', formula('\\frac{a_1}{\\sqrt{b}}'), ' and ', formula('\\left( \\sin x \\right]')),
      makeNode('display_formula', { id: 'f', source: '\\sum_{i=1}^{n} \\begin{pmatrix} 1 & 2 \\end{pmatrix}' }),
      p(formula('\\frac{1')),
    );
    const document = part('document');
    const shown = (element: string): string => document.replace(/<w:rPr>.*?<\/w:rPr>/g, '').split(element)[1] ?? '';
    expect(shown('<m:f>')).toMatch(
      /^<m:num><m:sSub><m:e><m:r><m:t [^>]*>a<.*<m:sub>.*>1<.*<m:den><m:rad><m:radPr><m:degHide m:val="1"\/>/,
    );
    expect(shown('<m:d>')).toMatch(/^<m:dPr><m:begChr m:val="\("\/><m:endChr m:val="\]"\/><\/m:dPr><m:e><m:func>/);
    expect(shown('<m:func>')).toMatch(/^<m:fName>.*>sin<.*<\/m:fName><m:e>.*>x</);
    // The matrix is what the sum goes over.
    expect(shown('<m:oMathPara>')).toMatch(
      /^<m:oMath><m:nary><m:naryPr><m:chr m:val="∑"\/><m:limLoc m:val="undOvr"\/><\/m:naryPr><m:sub>.*<m:e><m:d>.*<m:m>/,
    );
    expect(count(document, '<m:oMath>')).toBe(3);
    // What cannot be drawn stands as it was written.
    expect(document).toContain('\\frac{1</w:t>');
  });

  it('has no date but that of the build, and no name by chance', async () => {
    const linked = p(makeText('x', [{ type: 'link', attrs: { href: 'https://a.example/' } }]));
    const [one, two] = [await partsOf(linked), await partsOf(linked)];
    expect(one('document')).toBe(two('document'));
    expect(one('document')).toContain('r:id="rIdLink1"');
  });

  it('has captions that are counted, references that read them, and marks for the index, as fields', async () => {
    const figure = (id: string): ContentNode =>
      makeNode('example', { id }, [makeNode('title', null, [makeText(`Title ${id}`)]), p('x')]);
    const marker = makeNode('index_marker', { primary: 'mast: "high"', secondary: 'foot' });
    const leads = makeNode('index_marker', { primary: 'pole', see: 'mast' });
    const lead = (form: string): ContentNode => makeNode('cross_reference', { component: null, target: 'b', form });
    const part = await partsOf(figure('a'), figure('b'), p('See ', lead('number'), ', ', lead('title'), marker, leads));
    const told = [...part('document').matchAll(/<w:instrText[^>]*>([^<]*)</g)].map(([, text = '']) => text.trim());
    expect(told.filter((each) => each.startsWith('SEQ'))).toEqual(['SEQ Example \\* ARABIC', 'SEQ Example \\* ARABIC']);
    const references = told.filter((each) => each.startsWith('REF'));
    expect(references).toEqual([jasmine.stringMatching(/^REF _n\d+ \\h$/), jasmine.stringMatching(/^REF _t\d+ \\h$/)]);
    // What a field reads is there.
    for (const reference of references)
      expect(part('document')).toContain(`<w:bookmarkStart w:name="${reference.split(' ')[1] ?? ''}"`);
    expect(told).toContain('XE &quot;mast\\: \\&quot;high\\&quot;:foot&quot;');
    expect(told.some((each) => each.startsWith('XE &quot;pole&quot; \\t &quot;'))).toBeTrue();
    expect(told.filter((each) => each.startsWith('INDEX')).length).toBe(1);
    const marks = (type: string): number => count(part('document'), `w:fldCharType="${type}"`);
    expect(marks('begin')).toBe(marks('end'));
  });
});
