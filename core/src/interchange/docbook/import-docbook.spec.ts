import { assemblePublication } from '../../assemble/assemble.js';
import { checkBody } from '../../content/body.js';
import { textOf, walk, type ContentNode } from '../../model/node.js';
import { contentBody, libraryOf, type Component, type VariableBody } from '../../model/component.js';
import { plainDesign } from '../../design/design.js';
import { flattenEntries } from '../../model/publication.js';
import { recipeOf, textIn } from '../../../../tests/support/library-parts.js';
import type { ProfilesFile } from '../../contract/profiles-file.js';
import { ImportFault, type ImportResult } from '../import-result.js';
import { importDocbook } from './import-docbook.js';

function load(files: Readonly<Record<string, string>>, profiles?: ProfilesFile): ImportResult {
  return importDocbook({
    main: 'book.xml',
    read: (path) => files[path],
    publication: 'A Book',
    ...(profiles ? { profiles } : {}),
  });
}

/** A DocBook 4 book with an internal subset. */
const book = (content: string, subset = ''): string =>
  `<?xml version="1.0"?>\n<!DOCTYPE book PUBLIC "-//OASIS//DTD DocBook XML V4.5//EN" "x.dtd" [${subset}]>\n<book><title>B</title>${content}</book>`;
const chapter = (content: string): string => `<chapter id="c"><title>C</title>${content}</chapter>`;

const find = (result: ImportResult, key: string): Component => {
  const found = result.components.find((each) => each.key === key);
  if (!found) throw new Error(`There is no ${key} among ${result.components.map((each) => each.key).join(', ')}.`);
  return found;
};
const bodyOf = (result: ImportResult, key = 'c'): ContentNode => contentBody(find(result, key)) as ContentNode;
const typesIn = (node: ContentNode): readonly string[] => {
  const types: string[] = [];
  walk(node, (each) => void types.push(each.type));
  return types;
};

describe('The DocBook import', () => {
  it('takes formulas as TeX, whether they were written in it, in MathML or as text with scripts', () => {
    const math = 'xmlns:m="http://www.w3.org/1998/Math/MathML"';
    const result = load({
      'book.xml': book(
        chapter(`<para>So <inlineequation><alt role="tex">\\frac{a}{b}</alt><graphic fileref="x"/></inlineequation>,
          <inlineequation><mathphrase>E = mc<superscript>2</superscript>, 5 % of length</mathphrase></inlineequation>,
          <inlineequation><m:math ${math}><m:msqrt><m:mi>x</m:mi></m:msqrt></m:math></inlineequation>,
          <inlineequation><alt>a is one half</alt><m:math ${math}><m:mfrac><m:mn>1</m:mn><m:mn>2</m:mn></m:mfrac></m:math></inlineequation>,
          <inlineequation><m:math ${math}><m:apply><m:plus/><m:ci>a</m:ci></m:apply></m:math></inlineequation></para>`),
      ),
    });
    const sources: unknown[] = [];
    walk(bodyOf(result), ({ type, attrs }) => void (type === 'formula' && sources.push(attrs?.['source'])));
    expect(sources).toEqual([
      '\\frac{a}{b}',
      'E = \\text{mc}^{2}, 5 \\% \\text{of length}',
      '\\sqrt{x}',
      '\\frac{1}{2}',
      'a',
    ]);
    expect(result.notes.map(({ kind }) => kind)).toEqual(['text instead']);
  });

  it('keeps structure, blocks and inline kinds', () => {
    const result = load({
      'book.xml': book(
        chapter(`<para>One <emphasis>two</emphasis> <command>ls</command> <guilabel>OK</guilabel>.</para>
          <itemizedlist><listitem><para>a</para></listitem></itemizedlist>
          <procedure><step><para>do</para></step></procedure>
          <variablelist><varlistentry><term>t</term><listitem><para>d</para></listitem></varlistentry></variablelist>
          <warning><para>hot</para></warning>
          <screen>x  y\n z</screen>
          <sect1 id="s1"><title>S</title><para>deep</para><sect2><title>T</title><para>deeper</para></sect2></sect1>`),
      ),
    });
    const body = bodyOf(result);
    expect(checkBody(body)).toEqual([]);
    const types = typesIn(body);
    for (const type of ['bullet_list', 'steps', 'definition_list', 'admonition', 'code_block'])
      expect(types).toContain(type);
    expect(types.filter((type) => type === 'section').length).toBe(2);
    expect(textOf(body)).toContain('One two ls OK.');
    expect(result.notes).toEqual([]);
  });

  it('reads DocBook 5 with its namespace and xml:id', () => {
    const result = load({
      'book.xml': `<book xmlns="http://docbook.org/ns/docbook" version="5.0"><info><title>B</title></info>
        <chapter xml:id="c"><title>C</title><para>See <xref linkend="s"/>.</para><section xml:id="s"><title>S</title><para>x</para></section></chapter></book>`,
    });
    const references: unknown[] = [];
    walk(bodyOf(result), (node) => {
      if (node.type === 'cross_reference') references.push(node.attrs);
    });
    expect(references.length).toBe(1);
    expect(result.notes).toEqual([]);
  });

  // DocBook 4.5 and 5.0, common attributes: arch, audience, condition, conformance, os, revision, security,
  // userlevel, vendor (“effectivity”); several values are separated by a semicolon (common practice).
  it('turns effectivity attributes into axes and conditions', () => {
    const result = load({
      'book.xml': book(
        chapter(
          '<para>all</para><para os="linux;bsd" userlevel="expert">some</para><para>a <phrase arch="arm">b</phrase></para>',
        ),
      ),
    });
    expect(result.axes).toEqual([
      { key: 'os', values: ['linux', 'bsd'] },
      { key: 'userlevel', values: ['expert'] },
      { key: 'arch', values: ['arm'] },
    ]);
    const conditions: unknown[] = [];
    walk(bodyOf(result), (node) => {
      const own = node.attrs?.['when'] ?? node.marks?.find((mark) => mark.type === 'condition')?.attrs?.['when'];
      if (own) conditions.push(own);
    });
    expect(conditions).toEqual(['os is linux, bsd and userlevel is expert', 'arch is arm']);
  });

  it('makes one variable of each text entity, with markup and conditions inside, however often it is used', () => {
    const subset = `<!ENTITY product "Dunlin"><!ENTITY full "<emphasis>&product;</emphasis> <phrase os='linux'>for Linux</phrase>">`;
    const result = load({ 'book.xml': book(chapter('<para>&full; and &product; and &full;</para>'), subset) });
    const variables = result.components.filter((each) => each.kind === 'variable');
    expect(variables.map((each) => each.key).sort()).toEqual(['full', 'product']);
    const full = find(result, 'full').body as VariableBody;
    expect(typesIn(full.default as ContentNode)).toContain('variable');
    expect(JSON.stringify(full)).toContain('os is linux');
    expect(typesIn(bodyOf(result)).filter((type) => type === 'variable').length).toBe(3);
  });

  it('takes the first of several declarations of an entity (XML 1.0, 4.2)', () => {
    const subset = '<!ENTITY product "Dunlin"><!ENTITY product "Other">';
    const body = find(load({ 'book.xml': book(chapter('<para>&product;</para>'), subset) }), 'product').body;
    expect(textOf((body as VariableBody).default as ContentNode)).toBe('Dunlin');
  });

  it('makes one component of each entity file and places it wherever it is referred to', () => {
    const subset = `<!ENTITY ch SYSTEM "ch.xml"><!ENTITY shared SYSTEM "parts/shared.xml">`;
    const result = load({
      'book.xml': book('&ch;<chapter id="d"><title>D</title>&shared;</chapter>', subset),
      'ch.xml': '<chapter id="c"><title>C</title><para>x</para>&shared;</chapter>',
      'parts/shared.xml': '<para>shared</para><para>twice</para>',
    });
    const snippets = result.components.filter((each) => each.kind === 'snippet');
    expect(snippets.length).toBe(1);
    const placed = result.components.flatMap((each) => {
      const body = contentBody(each);
      return body ? typesIn(body).filter((type) => type === 'placement') : [];
    });
    expect(placed.length).toBe(2);
    expect(flattenEntries(result.publication.entries).length).toBe(2);
    const recipe = recipeOf(result.publication, { design: plainDesign, profile: { axes: {} } });
    const { entries, problems } = assemblePublication(
      { library: libraryOf(result.components), axes: [], stamps: [], publications: new Map() },
      recipe,
    );
    expect(problems).toEqual([]);
    expect(entries.map((each) => textIn(each.blocks))).toEqual(['x|shared|twice', 'shared|twice']);
  });

  it('makes a profile and its values per entry of the profiles file', () => {
    const result = load(
      { 'book.xml': book(chapter('<para arch="arm">&name;</para>')) },
      {
        axes: { arch: { default: 'out' } },
        profiles: [
          { profile: 'one', in: { arch: ['arm'] }, variables: { name: 'One' } },
          { profile: 'two', in: { arch: ['x86'] }, variables: { name: 'Two' } },
        ],
      },
    );
    expect(result.profiles.map(({ title, profile }) => [title, profile.axes['arch']])).toEqual([
      ['one', { default: 'out', in: ['arm'], out: [] }],
      ['two', { default: 'out', in: ['x86'], out: [] }],
    ]);
    expect(textOf(result.profiles[1]?.values['name'] as ContentNode)).toBe('Two');
  });

  it('keeps the text of what it does not know, and says where', () => {
    const result = load({ 'book.xml': book(chapter('<para>before</para>\n<weather>storm</weather>')) });
    expect(textOf(bodyOf(result))).toContain('storm');
    expect(result.notes.length).toBe(1);
    expect(result.notes[0]).toEqual(jasmine.objectContaining({ file: 'book.xml', line: 4 }));
    expect(result.notes[0]?.message).toContain('weather');
  });

  it('keeps what stands between chapters as topics, and says so', () => {
    const result = load({
      'book.xml': book(`${chapter('<para>x</para>')}<sidebar><title>Works</title><para>A work.</para></sidebar>`),
    });
    expect(result.publication.entries.length).toBe(2);
    expect(result.components.some((each) => each.title === 'Works')).toBeTrue();
    expect(result.notes.map((note) => note.message)).toEqual(['<sidebar> between chapters became a topic of its own.']);
  });

  it('passes by the keys that the library has', () => {
    const result = importDocbook({
      main: 'book.xml',
      read: () => book(chapter('<para>x</para>')),
      publication: 'A Book',
      isTaken: (key) => key === 'c' || key === 'a-book',
    });
    expect(result.publication.key).toBe('a-book-2');
    expect(result.components.some((each) => each.key === 'c')).toBeFalse();
  });

  it('keeps the lines that tables say they have (DocBook 5.1, attributes frame, rowsep and colsep)', () => {
    const linesOf = (attrs: string): unknown => {
      const rows = '<tgroup cols="1"><tbody><row><entry>x</entry></row></tbody></tgroup>';
      const result = load({ 'book.xml': book(chapter(`<informaltable ${attrs}>${rows}</informaltable>`)) });
      let lines: unknown;
      walk(bodyOf(result), (node) => {
        if (node.type === 'table') lines = node.attrs?.['lines'] ?? null;
      });
      return lines;
    };
    expect(linesOf('')).toBeNull();
    expect(linesOf('frame="none" rowsep="0" colsep="0"')).toBe('none');
    expect(linesOf('frame="all" rowsep="1" colsep="1"')).toBe('grid');
    expect(linesOf('frame="topbot" rowsep="1" colsep="0"')).toBe('rows');
  });

  it('resolves tables with spans, figures and footnotes', () => {
    const result = load({
      'book.xml': book(
        chapter(`<table id="t"><title>T</title><tgroup cols="2"><colspec colname="a"/><colspec colname="b"/>
          <thead><row><entry>A</entry><entry>B</entry></row></thead>
          <tbody><row><entry namest="a" nameend="b">wide</entry></row><row><entry morerows="1">tall</entry><entry>1</entry></row><row><entry>2</entry></row></tbody></tgroup></table>
          <figure id="f"><title>F</title><mediaobject><imageobject><imagedata fileref="img/a.png"/></imageobject><textobject><phrase>alt</phrase></textobject></mediaobject></figure>
          <para>text<footnote><para>note</para></footnote></para>`),
      ),
    });
    const spans: unknown[] = [];
    walk(bodyOf(result), (node) => {
      if (node.type === 'table_cell') spans.push([node.attrs?.['colspan'] ?? 1, node.attrs?.['rowspan'] ?? 1]);
    });
    expect(spans).toEqual([
      [2, 1],
      [1, 2],
      [1, 1],
      [1, 1],
    ]);
    expect(result.images).toEqual([jasmine.objectContaining({ path: 'img/a.png', alt: 'alt' })]);
    const types = typesIn(bodyOf(result));
    expect(types).toContain('footnote');
    expect(types).toContain('footnote_reference');
  });
});

describe('Hostile and broken sources', () => {
  const refused = (files: Readonly<Record<string, string>>): ImportFault => {
    try {
      load(files);
    } catch (error) {
      if (error instanceof ImportFault) return error;
      throw error;
    }
    throw new Error('The import was not refused.');
  };

  it('are refused where the XML is malformed, with file and line', () => {
    const fault = refused({ 'book.xml': '<book>\n<title>B</title>\n<chapter>\n</book>' });
    expect([fault.file, fault.line]).toEqual(['book.xml', 4]);
    expect(fault.message).toContain('not well formed');
  });

  it('are refused where entities multiply without bound', () => {
    // “Billion laughs”, as described with CVE-2003-1564.
    const levels = Array.from(
      { length: 12 },
      (_, index) => `<!ENTITY l${index + 1} "${`&l${index};`.repeat(10)}">`,
    ).join('');
    const fault = refused({ 'book.xml': book(chapter('<para>&l12;</para>'), `<!ENTITY l0 "lol">${levels}`) });
    expect(fault.message).toMatch(/expand|larger/);
  });

  it('are refused where an entity contains itself', () => {
    expect(
      refused({ 'book.xml': book(chapter('<para>&a;</para>'), '<!ENTITY a "&b;"><!ENTITY b "&a;">') }).message,
    ).toMatch(/itself/);
    const files = { 'book.xml': book('&ch;', '<!ENTITY ch SYSTEM "ch.xml">'), 'ch.xml': chapter('&ch;') };
    expect(refused(files).message).toMatch(/itself/);
  });

  for (const outside of ['../../etc/passwd', '/etc/passwd', 'file:///etc/passwd', 'http://x.example/a.xml']) {
    it(`are refused where an entity points to ${outside}`, () => {
      const fault = refused({ 'book.xml': book('&ch;', `<!ENTITY ch SYSTEM "${outside}">`) });
      expect(fault.message).toContain('outside');
    });
  }

  it('are refused where there is nothing to read', () => {
    expect(refused({}).message).toContain('does not exist');
    expect(refused({ 'book.xml': '' }).message).toMatch(/not well formed|no root/);
  });

  it('are refused where elements nest without end', () => {
    expect(refused({ 'book.xml': book(chapter('<para>'.repeat(5000))) }).message).toMatch(/too deep|not well formed/);
  });
});
