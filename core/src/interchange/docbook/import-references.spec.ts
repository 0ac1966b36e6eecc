import { makeNode, textOf, walk, type ContentNode } from '../../model/node.js';
import { contentBody } from '../../model/component.js';
import type { ImportResult } from '../import-result.js';
import { importDocbook } from './import-docbook.js';

/** What reference pages and references are, by “DocBook: The Definitive Guide” (4.5 and 5.1), reference part. */

const load = (content: string, files: Readonly<Record<string, string>> = {}): ImportResult =>
  importDocbook({
    main: 'book.xml',
    read: (path) => ({ 'book.xml': `<book><title>B</title>${content}</book>`, ...files })[path],
    publication: 'A Book',
  });
const bodyOf = (result: ImportResult, key: string): ContentNode => {
  const found = result.components.find((each) => each.key === key);
  return (found && contentBody(found)) ?? makeNode('phrase');
};
const all = (node: ContentNode, type: string): readonly ContentNode[] => {
  const found: ContentNode[] = [];
  walk(node, (each) => void (each.type === type && found.push(each)));
  return found;
};
const codeIn = (content: string): string => {
  const [code] = all(bodyOf(load(`<chapter id="c"><title>C</title>${content}</chapter>`), 'c'), 'code_block');
  return (code?.content ?? []).map((each) => each.text ?? (each.type === 'line_break' ? '\n' : '')).join('');
};

describe('Reference pages', () => {
  const page = `<refentry id="ls"><refmeta><refentrytitle>LS</refentrytitle><manvolnum>1</manvolnum></refmeta>
    <refnamediv><refname>ls</refname><refname>dir</refname><refpurpose>list files</refpurpose></refnamediv>
    <refsynopsisdiv><cmdsynopsis><command>ls</command><arg>-l</arg></cmdsynopsis></refsynopsisdiv>
    <refsect1><title>Description</title><para>Lists.</para></refsect1></refentry>`;

  it('become topics without numbers, below their reference', () => {
    const result = load(`<reference id="r"><title>Commands</title>${page}</reference>`);
    const [reference] = result.publication.entries;
    expect([reference?.topic, reference?.role]).toEqual(['r', 'front']);
    expect(reference?.entries?.map(({ topic, role }) => [topic, role])).toEqual([['ls', 'front']]);
    const body = bodyOf(result, 'ls');
    expect(textOf(body.content?.[0] as ContentNode)).toBe('LS');
    expect(textOf(body)).toContain('ls, dir — list files');
    expect(
      all(body, 'section').map((each) => [textOf(each.content?.[0] as ContentNode), each.attrs?.['numbered']]),
    ).toEqual([
      ['Synopsis', false],
      ['Description', false],
    ]);
  });

  it('show synopses with their brackets, bars and dots', () => {
    expect(
      codeIn(
        `<cmdsynopsis><command>tar</command><group choice="req"><arg>-c</arg><arg>-x</arg></group>
         <arg choice="plain" rep="repeat"><replaceable>file</replaceable></arg><arg>-v</arg></cmdsynopsis>`,
      ),
    ).toBe('tar {-c | -x} file... [-v]');
    expect(
      codeIn(
        `<funcsynopsis><funcprototype><funcdef>int <function>max</function></funcdef>
         <paramdef>int <parameter>a</parameter></paramdef><paramdef>int <parameter>b</parameter></paramdef></funcprototype></funcsynopsis>`,
      ),
    ).toBe('int max(int a, int b);');
  });
});

describe('References of a book', () => {
  const references = (content: string): readonly ContentNode[] =>
    all(bodyOf(load(`<chapter id="c"><title>C</title>${content}</chapter>`), 'c'), 'cross_reference');

  it('read by the label of their target, by the text that they name, and by their style', () => {
    const found = references(
      `<para id="p" xreflabel="the rule">x</para><section id="s"><title id="st">Masts</title><para>y</para></section>
       <para><xref linkend="p"/><xref linkend="s" endterm="st"/><xref linkend="s" xrefstyle="select: label"/></para>`,
    );
    expect(found.map(({ attrs }) => [attrs?.['form'], attrs?.['text'] ?? null])).toEqual([
      ['text', 'the rule'],
      ['text', 'Masts'],
      ['number', null],
    ]);
  });

  it('lead from one entry of a glossary to another one, also where that comes later', () => {
    const body = bodyOf(
      load(
        `<chapter id="c"><title>C</title><glosslist>
         <glossentry><glossterm>Gust</glossterm><glosssee otherterm="w"/></glossentry>
         <glossentry id="w"><glossterm>Wind</glossterm><glossdef><para>air</para></glossdef></glossentry></glosslist></chapter>`,
      ),
      'c',
    );
    const [see] = all(body, 'cross_reference');
    expect([see?.attrs?.['target'], see?.attrs?.['text']]).toEqual(['w', 'Wind']);
  });

  it('find ids on terms, rows, cells and titles, and report those that are used twice', () => {
    const result = load(
      `<chapter id="c"><title id="ct">C</title>
       <variablelist><varlistentry><term id="t">T</term><listitem><para>d</para></listitem></varlistentry></variablelist>
       <informaltable><tgroup cols="1"><tbody><row id="r"><entry id="e">x</entry></row></tbody></tgroup></informaltable>
       <para id="two">a</para><section id="two"><title>S</title><para>b</para></section>
       <para><xref linkend="ct"/><xref linkend="t"/><xref linkend="r"/><xref linkend="e"/></para></chapter>`,
    );
    const body = bodyOf(result, 'c');
    const ids = new Set<unknown>();
    walk(body, (node) => void ids.add(node.attrs?.['id']));
    for (const { attrs } of all(body, 'cross_reference')) {
      if (attrs?.['target']) expect(ids).toContain(attrs['target']);
      else expect(attrs?.['component']).toBe('c');
    }
    expect(result.notes.map(({ message }) => message)).toEqual([
      'The id “two” is used more than once; references lead to the first place.',
    ]);
  });
});

describe('Inclusions (XInclude 1.1)', () => {
  const include = (attrs: string, inside = ''): string =>
    `<chapter id="c"><title>C</title><xi:include ${attrs}>${inside}</xi:include></chapter>`;
  const files = {
    'a.xml': '<section id="a"><title>A</title><para id="p">one</para><para>two</para></section>',
    'a.txt': 'x < y',
  };

  it('bring text, an element by its id or its place, and what stands in for a missing file', () => {
    const textOfBook = (content: string): string => {
      const { components } = load(content, files);
      return components.map((each) => textOf(contentBody(each) ?? makeNode('phrase'))).join(' ');
    };
    expect(textOfBook(include('href="a.txt" parse="text"'))).toContain('x < y');
    expect(textOfBook(include('href="a.xml" xpointer="p"'))).not.toContain('two');
    expect(textOfBook(include('href="a.xml" xpointer="element(/1/3)"'))).toContain('two');
    const gone = (fallback: string): string =>
      include('href="gone.xml"', `<xi:fallback><para>${fallback}</para></xi:fallback>`);
    expect(textOfBook(gone('instead'))).toContain('instead');
    const both = textOfBook(`${gone('the one')}${gone('the other')}`);
    expect(both).toContain('the one');
    expect(both).toContain('the other');
  });

  it('note a file that is not there, and go on', () => {
    const { notes } = load(include('href="gone.xml"'));
    expect(notes.map(({ message }) => message)).toEqual([
      'The file “gone.xml” is missing; what it holds was left out.',
    ]);
  });
});
