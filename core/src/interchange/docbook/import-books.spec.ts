import type { Design } from '../../design/design.js';
import { resolveDesign } from '../../design/resolve.js';
import { shippedDesigns } from '../../design/shipped.js';
import { checkBody } from '../../content/body.js';
import { contentBody } from '../../model/component.js';
import { makeNode, textAttr, textOf, walk, type ContentNode } from '../../model/node.js';
import { flattenEntries } from '../../model/publication.js';
import { assemblePublication } from '../../assemble/assemble.js';
import { flattenPages } from '../../number/numbered.js';
import { numberPublication } from '../../number/number.js';
import { libraryOf } from '../../model/component.js';
import { recipeOf } from '../../../../tests/support/library-parts.js';
import { ImportFault, type ImportResult } from '../import-result.js';
import { importDocbook } from './import-docbook.js';

/** How whole books are put together, by “DocBook: The Definitive Guide” (4.5 and 5.1) and XInclude 1.1. */

const load = (root: string, files: Readonly<Record<string, string>> = {}): ImportResult =>
  importDocbook({ main: 'main.xml', read: (path) => ({ 'main.xml': root, ...files })[path], publication: 'A Book' });
const chapter = (content: string): string =>
  `<book><title>B</title><chapter id="c"><title>C</title>${content}</chapter></book>`;
const bodyOf = (result: ImportResult, key = 'c'): ContentNode => {
  const found = result.components.find((each) => each.key === key);
  const body = (found && contentBody(found)) ?? makeNode('phrase');
  expect(checkBody(body)).toEqual([]);
  return body;
};
const all = (node: ContentNode, type: string): readonly ContentNode[] => {
  const found: ContentNode[] = [];
  walk(node, (each) => void (each.type === type && found.push(each)));
  return found;
};
const designOf = ({ design }: ImportResult): Design => resolveDesign(design.key, [...shippedDesigns, design], 'en');
const notesOf = (result: ImportResult): readonly string[] => result.notes.map(({ message }) => message);

describe('A book', () => {
  it('of a set has no number, and its chapters count from one', () => {
    const book = (name: string): string =>
      `<book><bookinfo><title>${name}</title><releaseinfo>Release 7</releaseinfo></bookinfo>
       <chapter><title>First of ${name}</title><sect1><title>S</title><para>x</para></sect1></chapter>
       <chapter><title>Second of ${name}</title><para>y</para></chapter></book>`;
    const result = load(`<set><title>All</title>${book('A')}<xi:include href="b.xml"/></set>`, { 'b.xml': book('B') });
    const recipe = recipeOf(result.publication, { design: designOf(result), profile: { axes: {} } });
    const source = { library: libraryOf(result.components), axes: [], stamps: [], publications: new Map() };
    const pages = flattenPages(numberPublication(assemblePublication(source, recipe), recipe).pages);
    expect(pages.map(({ label }) => `${label.number} ${label.title.map((node) => textOf(node)).join('')}`)).toEqual([
      ' A',
      '1 First of A',
      '2 Second of A',
      ' B',
      '1 First of B',
      '2 Second of B',
    ]);
    expect(notesOf(result)).toEqual([]);
    expect(JSON.stringify(result.components)).toContain('Release 7');
  });

  it('that is an article begins with what introduces it', () => {
    const result = load(`<article><title>A</title><para>First words.</para><para>More.</para>
      <section id="s"><title>S</title><para>x</para></section></article>`);
    expect(flattenEntries(result.publication.entries).map(({ entry }) => entry.role)).toEqual(['front', 'auto']);
    expect(textOf(bodyOf(result, 'a-book-about'))).toContain('First words.');
    expect(notesOf(result)).toEqual([]);
  });

  it('keeps subtitles and revisions, and tells what is not printed', () => {
    const result = load(`<book><info><title>B</title><subtitle>In full</subtitle><isbn>1</isbn>
      <revhistory><revision><revnumber>2</revnumber><date>May</date></revision></revhistory></info>
      <chapter id="c"><title>C</title><subtitle>Of course</subtitle><para>x</para></chapter></book>`);
    const front = textOf(bodyOf(result, 'a-book-about'));
    expect(front).toContain('In full');
    expect(front).toContain('Revision 2, May');
    expect(textOf(bodyOf(result))).toContain('Of course');
    expect(notesOf(result)).toEqual(['<isbn> in <info> is not printed; it was left out.']);
  });

  it('has default titles where its parts have none (DocBook XSL, “gentext”)', () => {
    const result = load(`<book><title>B</title><preface><para>p</para></preface><glossary>
      <glossentry id="g"><glossterm>Term</glossterm><indexterm><primary>Term</primary></indexterm>
        <glossdef><para>What it is.</para></glossdef></glossentry>
      <glossentry><glossterm>Other</glossterm><glosssee otherterm="g"/></glossentry></glossary></book>`);
    const topics = result.components.filter(({ kind }) => kind === 'topic');
    expect(topics.map(({ title }) => title)).toEqual(['Preface', 'Glossary']);
    const body = bodyOf(result, topics[1]?.key);
    expect(all(body, 'definition_list').length).toBe(1);
    expect(all(body, 'definition').length).toBe(2);
    expect(all(body, 'index_marker').length).toBe(1);
  });
});

describe('A reference page', () => {
  it('prints nothing of what it says about itself, in DocBook 5 neither', () => {
    const about = '<author><personname>Ann</personname></author><date>2020</date>';
    const result = load(`<book><title>B</title><reference><title>R</title><refentry><info>${about}</info>
      <refmeta><refentrytitle>sift</refentrytitle></refmeta>
      <refnamediv><refname>sift</refname><refpurpose>sorts</refpurpose></refnamediv>
      <refsection><info><title>Options</title>${about}</info><para>none</para></refsection></refentry></reference></book>`);
    expect(textOf(bodyOf(result, 'refentry')).replace(/\s+/g, ' ')).toBe('sift sift — sorts Options none');
    expect(notesOf(result).length).toBe(4);
  });
});

describe('Section numbers', () => {
  const withSheets = (...texts: string[]): string =>
    importDocbook({
      main: 'main.xml',
      read: () => chapter('<section><title>S</title><para>x</para></section>'),
      publication: 'A Book',
      styleSheets: texts.map((text, at) => ({ path: text.startsWith('<') ? `s${at}.xsl` : `s${at}.dsl`, text })),
    }).design.settings['numerals.section'] === 'none'
      ? 'none'
      : 'decimal';
  // Parameters of the DocBook XSL stylesheets 1.79 and of the DSSSL ones, by their references.
  const xslt = (content: string): string =>
    `<xsl:stylesheet xmlns:xsl="http://www.w3.org/1999/XSL/Transform" version="1.0">${content}</xsl:stylesheet>`;
  const standard = '<xsl:import href="http://docbook.sourceforge.net/release/xsl/current/html/chunk.xsl"/>';

  it('are those of the style sheets that lie with the book', () => {
    expect(withSheets()).toBe('decimal');
    expect(withSheets(xslt('<xsl:template match="/"/>'))).toBe('decimal');
    expect(withSheets(xslt(standard))).toBe('none');
    expect(withSheets(xslt(`${standard}<xsl:param name="section.autolabel" select="1"/>`))).toBe('decimal');
    expect(withSheets(xslt(`${standard}<xsl:param name="section.autolabel">0</xsl:param>`))).toBe('none');
    expect(withSheets(xslt('<!-- <xsl:param name="section.autolabel" select="0"/> -->'))).toBe('decimal');
    expect(withSheets('(define %section-autolabel% #t)')).toBe('decimal');
    expect(withSheets('; (define %section-autolabel% #t)\n (define %section-autolabel% #f)')).toBe('none');
  });

  it('are there where one of several outputs has them, and a sheet that is none says nothing', () => {
    expect(withSheets(xslt(standard), xslt('<xsl:param name="section.autolabel" select="1"/>'))).toBe('decimal');
    expect(withSheets('<broken', xslt(standard))).toBe('none');
  });
});

describe('Ids', () => {
  it('of any element can be referred to', () => {
    const named: readonly string[] = [
      '<screen id="it">x</screen>',
      '<para id="it">x</para>',
      '<para>before <phrase id="it">here</phrase></para>',
      '<itemizedlist><listitem id="it"><para>x</para></listitem></itemizedlist>',
      '<variablelist><varlistentry id="it"><term>t</term><listitem><para>x</para></listitem></varlistentry></variablelist>',
      '<funcsynopsis id="it"><funcprototype><funcdef>int <function>f</function></funcdef><void/></funcprototype></funcsynopsis>',
      '<blockquote id="it"><para>x</para></blockquote>',
      '<segmentedlist><segtitle>A</segtitle><seglistitem id="it"><seg>x</seg></seglistitem></segmentedlist>',
      '<informaltable><tgroup cols="1"><tbody><row id="it"><entry>x</entry></row></tbody></tgroup></informaltable>',
      '<qandaset><qandadiv><title>Q</title><qandaentry id="it"><question><para>q</para></question><answer><para>a</para></answer></qandaentry></qandadiv></qandaset>',
      '<bridgehead id="it">x</bridgehead>',
      '<abstract id="it"><para>x</para></abstract>',
      '<legalnotice id="it"><para>x</para></legalnotice>',
    ];
    for (const element of named) {
      const result = load(chapter(`<para><xref linkend="it"/></para>${element}`));
      expect(notesOf(result)).withContext(element).toEqual([]);
      const body = bodyOf(result);
      const [reference] = all(body, 'cross_reference');
      const target = reference && textAttr(reference, 'target');
      const ids: (string | null)[] = [];
      walk(body, (node) => void ids.push(textAttr(node, 'id')));
      expect(ids)
        .withContext(element)
        .toContain(target ?? 'none');
    }
  });

  it('that stand twice lead to the first place', () => {
    const result = load(`<book><title>B</title>
      <chapter id="c"><title>C</title><para id="it">first</para></chapter>
      <chapter id="d"><title>D</title><para id="it">second</para></chapter>
      <chapter id="e"><title>E</title><para><xref linkend="it"/></para></chapter></book>`);
    const [reference] = all(bodyOf(result, 'e'), 'cross_reference');
    expect([reference?.attrs?.['component'], reference?.attrs?.['target']]).toEqual(['c', 'it']);
    expect(result.notes.map(({ kind }) => kind)).toEqual(['repeated id']);
  });

  it('of what has no title read by the name in it, or by its number', () => {
    const texts = all(
      bodyOf(
        load(
          chapter(`<para><xref linkend="f"/><xref linkend="i"/></para>
            <funcsynopsis id="f"><funcprototype><funcdef>int <function>max</function></funcdef><void/></funcprototype></funcsynopsis>
            <orderedlist><listitem><para>a</para></listitem><listitem id="i"><para>b</para></listitem></orderedlist>`),
        ),
      ),
      'cross_reference',
    ).map((node) => textAttr(node, 'text'));
    expect(texts).toEqual(['max', '2']);
  });
});

describe('Tables', () => {
  it('keep the conditions and the widths of their columns', () => {
    const body = bodyOf(
      load(
        chapter(`<informaltable><tgroup cols="2"><colspec colwidth="1*" os="linux"/><colspec colwidth="3*"/>
          <tbody><row><entry>a</entry><entry>b</entry></row></tbody></tgroup></informaltable>`),
      ),
    );
    expect(all(body, 'table_grid').map(({ attrs }) => attrs?.['columns'])).toEqual([
      [
        { width: 25, when: 'os is linux' },
        { width: 75, when: null },
      ],
    ]);
  });
});

describe('Figures', () => {
  it('show listings and tables as well as pictures', () => {
    const body = bodyOf(
      load(chapter('<figure id="f"><title>Code</title><programlisting>x = 1</programlisting></figure>')),
    );
    const [figure] = all(body, 'figure');
    expect(figure?.content?.map(({ type }) => type)).toEqual(['code_block', 'caption']);
  });

  it('take the one of several formats that a screen can show', () => {
    const result = load(
      chapter(`<mediaobject><imageobject><imagedata fileref="a.eps"/></imageobject>
        <imageobject><imagedata fileref="a.png"/></imageobject></mediaobject>`),
    );
    expect(result.images.map(({ path }) => path)).toEqual(['a.png']);
    expect(all(bodyOf(result), 'picture').length).toBe(1);
  });
});

describe('Files that are included', () => {
  it('are known by their namespace, whatever its prefix', () => {
    for (const include of [
      '<inc:include xmlns:inc="http://www.w3.org/2001/XInclude" href="c.xml"/>',
      '<include xmlns="http://www.w3.org/2001/XInclude" href="c.xml"/>',
      '<xi:include href="c.xml"/>',
    ]) {
      const result = load(`<book><title>B</title>${include}</book>`, {
        'c.xml': '<chapter id="c"><title>C</title><para>here</para></chapter>',
      });
      expect(textOf(bodyOf(result)))
        .withContext(include)
        .toContain('here');
    }
  });

  it('as text are read in the encoding that is named, and done without where they are none', () => {
    const asked: (string | undefined)[] = [];
    const result = importDocbook({
      main: 'main.xml',
      publication: 'A Book',
      read: (path, encoding) => {
        if (path === 'main.xml')
          return chapter(`<screen><xi:include href="a.txt" parse="text" encoding="latin1"/></screen>
            <screen><xi:include href="b.bin" parse="text"><xi:fallback>instead</xi:fallback></xi:include></screen>`);
        asked.push(encoding);
        if (path === 'b.bin') throw new ImportFault('The file is not in the encoding “utf-8” that it says.', path, 1);
        return 'aé';
      },
    });
    expect(asked).toEqual(['latin1', undefined]);
    const placed = all(bodyOf(result), 'inline_placement').map((node) =>
      bodyOf(result, textAttr(node, 'component') ?? ''),
    );
    expect(placed.map((body) => textOf(body))).toEqual(['aé', 'instead']);
    expect(notesOf(result)).toEqual([jasmine.stringContaining('b.bin, line 1: The file is not in the encoding')]);
  });

  it('may begin with any number of comments and instructions', () => {
    const before = '<!-- - --> <?go on?>\n'.repeat(20_000);
    expect(textOf(bodyOf(load(`${before}<!DOCTYPE book>${before}${chapter('<para>here</para>')}`)))).toContain('here');
    expect(textOf(bodyOf(load(`${before}${chapter('<para>here</para>')}`)))).toContain('here');
    expect(() => load(`${chapter('<para>here</para>')}${'<!--'.repeat(50_000)}`)).toThrowError(ImportFault);
  });

  it('that grow beyond measure when they are put in place are refused', () => {
    const row = '<row><entry>&text;</entry></row>';
    const levels = Array.from({ length: 40 }, (_, at) => `<!ENTITY r${at + 1} SYSTEM "r${at + 1}.xml">`).join('');
    const files = Object.fromEntries(
      Array.from({ length: 40 }, (_, at) => [`r${at + 1}.xml`, at === 0 ? row : `&r${at};&r${at};`]),
    );
    const book = chapter('<informaltable><tgroup cols="1"><tbody>&r40;</tbody></tgroup></informaltable>');
    const root = `<!DOCTYPE book [<!ENTITY text "some text">${levels}]>${book}`;
    expect(() => load(root, files)).toThrowError(ImportFault, /larger than an import may be|nest too deep/);
  });
});

it('Characters of the public entity sets are known without their files (ISO 8879:1986, ISO 9573-13)', () => {
  const body = bodyOf(load(chapter('<para>&agr;&OHgr;&aacgr;&b.alpha;&ang90; &mdash; &hearts;</para>')));
  expect(textOf(body)).toContain('αΩάα∟ — ♥');
});
