import type { ContentMark } from '../../content/node.js';

/**
 * What elements of DocBook mean for content. Names are those of DocBook 4.5 and 5.1 (“DocBook: The
 * Definitive Guide”, reference part); where a name changed between them, both stand here.
 */

/** Effectivity attributes (DocBook: The Definitive Guide, “Common attributes”): they become axes. */
export const effectivityAttributes = [
  'arch',
  'audience',
  'condition',
  'conformance',
  'os',
  'outputformat',
  'security',
  'userlevel',
  'vendor',
  'wordsize',
] as const;

export const sectionElements: ReadonlySet<string> = new Set([
  'sect1',
  'sect2',
  'sect3',
  'sect4',
  'sect5',
  'section',
  'simplesect',
  'refsection',
  'refsect1',
  'refsect2',
  'refsect3',
]);

/** Elements that become topics of their own where they stand in a book. */
export const chapterElements: ReadonlySet<string> = new Set([
  'chapter',
  'appendix',
  'preface',
  'article',
  'dedication',
  'acknowledgements',
  'colophon',
  'glossary',
  'refentry',
  'reference',
  'part',
  'partintro',
  'topic',
]);

export const infoElements: ReadonlySet<string> = new Set([
  'info',
  'bookinfo',
  'articleinfo',
  'chapterinfo',
  'appendixinfo',
  'prefaceinfo',
  'partinfo',
  'sectioninfo',
  'sect1info',
  'sect2info',
  'sect3info',
  'sect4info',
  'sect5info',
  'objectinfo',
  'blockinfo',
]);

export const admonitionElements: Readonly<Record<string, string>> = {
  note: 'note',
  tip: 'tip',
  important: 'important',
  caution: 'caution',
  warning: 'warning',
  danger: 'danger',
};

export const listElements: ReadonlySet<string> = new Set([
  'itemizedlist',
  'orderedlist',
  'simplelist',
  'variablelist',
  'glosslist',
  'procedure',
  'substeps',
  'qandaset',
  'calloutlist',
]);

export const verbatimElements: ReadonlySet<string> = new Set([
  'screen',
  'programlisting',
  'literallayout',
  'synopsis',
  'address',
]);

const otherBlocks = [
  'para',
  'simpara',
  'formalpara',
  'informalexample',
  'example',
  'figure',
  'informalfigure',
  'mediaobject',
  'screenshot',
  'table',
  'informaltable',
  'blockquote',
  'epigraph',
  'abstract',
  'legalnotice',
  'sidebar',
  'bridgehead',
  'highlights',
  'partintro',
];

/** Elements that stand between paragraphs rather than inside them. */
export const blockElements: ReadonlySet<string> = new Set([
  ...otherBlocks,
  ...listElements,
  ...verbatimElements,
  ...sectionElements,
  ...chapterElements,
  ...Object.keys(admonitionElements),
]);

/** Parts of lists and tables, which cannot stand alone. */
export const partElements: ReadonlySet<string> = new Set([
  'listitem',
  'varlistentry',
  'member',
  'step',
  'glossentry',
  'qandaentry',
  'row',
  'entry',
  'tbody',
  'thead',
  'tgroup',
  'tr',
  'td',
  'th',
]);

const code = (kind: string): ContentMark => ({ type: 'code', attrs: { kind } });
const plainCode: ContentMark = { type: 'code' };
const label: ContentMark = { type: 'interface_label' };
const key: ContentMark = { type: 'key' };

/** Inline elements that are a mark on their content. */
export const markElements: Readonly<Record<string, ContentMark>> = {
  emphasis: { type: 'emphasis' },
  foreignphrase: { type: 'emphasis' },
  firstterm: { type: 'defined_term' },
  glossterm: { type: 'defined_term' },
  citetitle: { type: 'cited_title' },
  quote: { type: 'quote' },
  superscript: { type: 'superscript' },
  subscript: { type: 'subscript' },
  keycap: key,
  keysym: key,
  keycode: key,
  guibutton: label,
  guilabel: label,
  guimenu: label,
  guimenuitem: label,
  guisubmenu: label,
  guiicon: label,
  command: code('command'),
  filename: code('file'),
  userinput: code('input'),
  computeroutput: code('output'),
  prompt: code('prompt'),
  replaceable: code('replaceable'),
  parameter: code('parameter'),
  option: code('parameter'),
  classname: code('name'),
  package: code('name'),
  function: code('name'),
  methodname: code('name'),
  varname: code('name'),
  envar: code('name'),
  systemitem: code('name'),
  property: code('name'),
  type: code('name'),
  tag: code('name'),
  sgmltag: code('name'),
  literal: plainCode,
  code: plainCode,
  constant: plainCode,
  markup: plainCode,
  returnvalue: plainCode,
};

/** Inline elements whose content simply stands in the text. */
export const transparentElements: ReadonlySet<string> = new Set([
  'phrase',
  'application',
  'acronym',
  'abbrev',
  'productname',
  'productnumber',
  'productversion',
  'hardware',
  'database',
  'date',
  'personname',
  'firstname',
  'surname',
  'othername',
  'honorific',
  'lineage',
  'orgname',
  'corpauthor',
  'author',
  'editor',
  'trademark',
  'wordasword',
  'interface',
  'mousebutton',
  'medialabel',
  'errorname',
  'errorcode',
  'errortext',
  'errortype',
  'accel',
  'refentrytitle',
  'year',
  'holder',
  'person',
  'org',
  'token',
  'symbol',
  'structfield',
  'structname',
  'exceptionname',
  'interfacename',
  'uri',
  'shortcut',
  'attribution',
]);
