import { readFormula, type MathElement } from '../../formula/read-formula.js';
import { texOfMathml, texOfPlainFormula } from '../../formula/tex-of-mathml.js';
import type { ReferenceForm } from '../../model/kinds.js';
import { addMark } from '../../model/marks.js';
import { childrenOf, makeNode, makeText, type ContentMark, type ContentNode } from '../../model/node.js';
import { conditionMark, isElement, splitReferences, xmlText } from './elements.js';
import { publicCharacter } from './entities.js';
import { figureBlocks } from './figures.js';
import { componentOfFile, fileOf, inPlace } from './files.js';
import { synopsisPart } from './listings.js';
import { openReference } from './named-places.js';
import { onlyBlocks } from './parts.js';
import type { Context, ImportSession } from './session.js';
import { isBlockValue, variableFor } from './variables.js';
import { blockElements, markElements, transparentElements } from './vocabulary.js';
import type { XmlElement, XmlEntityReference, XmlNode } from './xml.js';

export function inline(
  session: ImportSession,
  nodes: readonly XmlNode[],
  marks: readonly ContentMark[],
  context: Context,
): readonly ContentNode[] {
  return nodes.flatMap((node) => {
    if (node.kind === 'text') return node.text === '' ? [] : [makeText(node.text, marks)];
    if (node.kind === 'entity' || node.name === 'xi:include') return inlineReference(session, node, marks, context);
    return inlineElement(session, node, marks, context);
  });
}

function inlineReference(
  session: ImportSession,
  node: XmlElement | XmlEntityReference,
  marks: readonly ContentMark[],
  context: Context,
): readonly ContentNode[] {
  const file = fileOf(session, node);
  if (file?.shape === 'phrase') {
    const when = file.when === null ? marks : addMark(marks, conditionMark(file.when));
    return [{ type: 'inline_placement', attrs: { component: componentOfFile(session, file, node) }, marks: when }];
  }
  if (file) {
    session.note('resolved reuse', `“${file.path}” holds blocks inside a line; its text was kept.`, node);
    return inPlace(session, file, node, () => session.inline(file.nodes, marks, context));
  }
  if (node.kind !== 'entity') return [];
  const declaration = session.entities.declared(node.name);
  if (!declaration) {
    const character = publicCharacter(node.name);
    if (character !== undefined) return [makeText(character, marks)];
    session.noteOnce('unknown entity', `The entity “${node.name}” is not declared; its name was kept.`, node);
    return [makeText(`&${node.name};`, marks)];
  }
  const value = declaration.value ?? '';
  if ([...value].length === 1 && !/[<&]/.test(value)) return [makeText(value, marks)];
  if (isBlockValue(session, node)) {
    session.note('resolved reuse', `The entity “${node.name}” holds blocks inside a line; its text was kept.`, node);
    return session.inline(session.expandedValue(node), marks, context);
  }
  return [{ type: 'variable', attrs: { key: variableFor(session, node) }, ...(marks.length > 0 ? { marks } : {}) }];
}

/** What reads its address itself; any other element may have one, too (DocBook 5.1, “Linking”). */
const linkElements: ReadonlySet<string> = new Set(['link', 'ulink', 'uri', 'xref', 'olink']);

function inlineElement(
  session: ImportSession,
  element: XmlElement,
  outer: readonly ContentMark[],
  context: Context,
): readonly ContentNode[] {
  const when = session.conditionOn(element);
  let marks = when === null ? outer : addMark(outer, conditionMark(when));
  const id = session.idOf(element);
  if (id !== null && element.name !== 'footnote') {
    context.anchors.push(id);
    session.named.label(id, session.attribute(element, 'xreflabel'));
    session.named.reads(id, session.expandedText(element));
  }
  const address = element.attrs['xlink:href'];
  if (address !== undefined && !linkElements.has(element.name) && !address.startsWith('#'))
    marks = addMark(marks, { type: 'link', attrs: { href: addressTemplate(session, address, element) } });
  const mark = markElements[element.name];
  if (mark) {
    const isStrong = element.name === 'emphasis' && /^(bold|strong)$/.test(element.attrs['role'] ?? '');
    return session.inline(element.children, addMark(marks, isStrong ? { type: 'strong' } : mark), context);
  }
  const handle = Object.hasOwn(inlineHandlers, element.name) ? inlineHandlers[element.name] : undefined;
  return (handle ?? unknownInline)(session, element, marks, context);
}

type InlineHandler = (
  session: ImportSession,
  element: XmlElement,
  marks: readonly ContentMark[],
  context: Context,
) => readonly ContentNode[];

/** A leaf with marks. */
function leaf(node: ContentNode, marks: readonly ContentMark[]): ContentNode {
  return marks.length > 0 ? { ...node, marks } : node;
}

const contentOnly: InlineHandler = (session, element, marks, context) =>
  session.inline(element.children, marks, context);

const email: InlineHandler = (session, element, marks, context) => {
  const address = session.expandedText(element).trim();
  const linked = addMark(marks, { type: 'link', attrs: { href: `mailto:${encodeURI(address)}` } });
  return [makeText('<', marks), ...session.inline(element.children, linked, context), makeText('>', marks)];
};

const footnoteReference: InlineHandler = (session, element, marks) => [
  leaf({ type: 'footnote_reference', attrs: { target: session.attribute(element, 'linkend') ?? '' } }, marks),
];

const inlinePicture: InlineHandler = (session, element, marks, context) => {
  const [figure] = figureBlocks(session, element, context);
  const picture = figure ? childrenOf(figure).find((child) => child.type === 'picture') : undefined;
  return picture ? [leaf({ ...picture, type: 'image' }, marks)] : [];
};

const calloutMark: InlineHandler = (session, element, marks) => [
  makeText(`(${calloutNumber(session, element)})`, marks),
];

const calloutReference: InlineHandler = (session, element, marks) => {
  const number = session.callouts.get(session.attribute(element, 'linkend') ?? '');
  return [makeText(`(${number ?? '?'})`, marks)];
};

const remark: InlineHandler = (session, element) => {
  session.note('left out', 'A <remark> was left out.', element);
  return [];
};

const trademarkSigns: Readonly<Record<string, string>> = { registered: '®', copyright: '©', service: '℠' };
const trademark: InlineHandler = (session, element, marks, context) => [
  ...session.inline(element.children, marks, context),
  makeText(trademarkSigns[element.attrs['class'] ?? ''] ?? '™', marks),
];

const bracketed: InlineHandler = (session, element, marks, context) => [
  makeText('[', marks),
  ...session.inline(element.children, marks, context),
  makeText(']', marks),
];

/** What the elements in a line become that are no mark on their content. */
const inlineHandlers: Readonly<Record<string, InlineHandler>> = {
  ulink: linkedText,
  link: linkedText,
  uri: linkedText,
  xref: (session, element, marks) => [crossReference(session, element, marks, null)],
  olink: (session, element, marks) => [crossReference(session, element, marks, null)],
  email,
  keycombo: (session, element, marks, context) => interleaved(session, element, '+', marks, context),
  menuchoice: (session, element, marks, context) => [
    ...interleaved(session, element, ' → ', marks, context),
    ...shortcutKeys(session, element, marks, context),
  ],
  citerefentry: manualPage,
  footnote: footnoteCall,
  footnoteref: footnoteReference,
  indexterm: (session, element) => indexMarker(session, element),
  inlinemediaobject: inlinePicture,
  inlinegraphic: inlinePicture,
  anchor: () => [],
  optional: bracketed,
  arg: synopsisPart,
  group: synopsisPart,
  sbr: synopsisPart,
  synopfragmentref: synopsisPart,
  co: calloutMark,
  coref: calloutReference,
  inlineequation: (session, element, marks) => [
    leaf({ type: 'formula', attrs: { source: formulaSource(session, element) } }, marks),
  ],
  simplelist: joinedMembers,
  funcsynopsisinfo: contentOnly,
  remark,
  trademark,
  citation: bracketed,
};

function unknownInline(
  session: ImportSession,
  element: XmlElement,
  marks: readonly ContentMark[],
  context: Context,
): readonly ContentNode[] {
  if (!transparentElements.has(element.name) && !blockElements.has(element.name)) {
    session.note('unknown element', `<${element.name}> is not known here; its text was kept.`, element);
  }
  return session.inline(element.children, marks, context);
}

function linkedText(
  session: ImportSession,
  element: XmlElement,
  marks: readonly ContentMark[],
  context: Context,
): readonly ContentNode[] {
  const linkend = session.attribute(element, 'linkend');
  if (linkend !== null) {
    const text = session.expandedText(element).replace(/\s+/g, ' ').trim();
    return [crossReference(session, element, marks, text === '' ? null : text)];
  }
  const raw = element.attrs['url'] ?? element.attrs['xlink:href'] ?? element.attrs['href'];
  if (raw === undefined) return session.inline(element.children, marks, context);
  if (raw.startsWith('#')) {
    const text = session.expandedText(element).replace(/\s+/g, ' ').trim();
    return [
      crossReference(session, { ...element, attrs: { linkend: raw.slice(1) } }, marks, text === '' ? null : text),
    ];
  }
  const inside = addMark(marks, { type: 'link', attrs: { href: addressTemplate(session, raw, element) } });
  const content = session.inline(element.children, inside, context);
  if (content.length > 0) return content;
  return splitReferences(raw).flatMap((part) =>
    part.entity
      ? inlineReference(
          session,
          { kind: 'entity', name: part.text, file: element.file, line: element.line },
          inside,
          context,
        )
      : [makeText(part.text, inside)],
  );
}

/** An address with entity references as a URI template over the variables they became. */
function addressTemplate(session: ImportSession, raw: string, at: XmlElement): string {
  return splitReferences(raw)
    .map((part) => {
      if (!part.entity) return part.text.replace(/[{}]/g, encodeURIComponent);
      const declaration = session.entities.declared(part.text);
      if (!declaration) return publicCharacter(part.text) ?? `&${part.text};`;
      return `{+${variableFor(session, { kind: 'entity', name: part.text, file: at.file, line: at.line })}}`;
    })
    .join('')
    .trim();
}

function crossReference(
  session: ImportSession,
  element: XmlElement,
  marks: readonly ContentMark[],
  text: string | null,
): ContentNode {
  const linkend = session.attribute(element, 'linkend') ?? (element.attrs['xlink:href'] ?? '').replace(/^#/, '');
  const form = text === null ? xrefForm(element.attrs['xrefstyle']) : 'text';
  const attrs = { linkend, form, text, endterm: session.attribute(element, 'endterm') };
  return { ...openReference(element, attrs), ...(marks.length > 0 ? { marks } : {}) };
}

function interleaved(
  session: ImportSession,
  element: XmlElement,
  separator: string,
  marks: readonly ContentMark[],
  context: Context,
): readonly ContentNode[] {
  const parts = element.children
    .filter((node) => node.kind !== 'text' || node.text.trim() !== '')
    .filter((node) => !isElement(node, 'shortcut'));
  return parts.flatMap((part, index) => [
    ...(index > 0 ? [makeText(separator, marks)] : []),
    ...session.inline([part], marks, context),
  ]);
}

function manualPage(
  session: ImportSession,
  element: XmlElement,
  marks: readonly ContentMark[],
  context: Context,
): readonly ContentNode[] {
  const title = element.children.find((node) => isElement(node, 'refentrytitle'));
  const volume = element.children.find((node) => isElement(node, 'manvolnum'));
  const name =
    title?.kind === 'element'
      ? session.inline(title.children, addMark(marks, { type: 'code', attrs: { kind: 'command' } }), context)
      : [];
  return [...name, ...(volume ? [makeText(`(${xmlText(volume).trim()})`, marks)] : [])];
}

function footnoteCall(
  session: ImportSession,
  element: XmlElement,
  marks: readonly ContentMark[],
  context: Context,
): readonly ContentNode[] {
  session.footnoteCount += 1;
  const id = session.idOf(element) ?? `fn${session.footnoteCount}`;
  session.name(id, { component: context.component, block: id }, element);
  const inner: Context = { component: context.component, footnotes: [], anchors: [] };
  const content = onlyBlocks(session, session.flow(element.children, inner), element);
  context.footnotes.push(
    makeNode(
      'footnote',
      { id, when: session.conditionOn(element) },
      content.length > 0 ? content : [makeNode('paragraph')],
    ),
  );
  return [{ type: 'footnote_reference', attrs: { target: id }, ...(marks.length > 0 ? { marks } : {}) }];
}

function indexMarker(session: ImportSession, element: XmlElement): readonly ContentNode[] {
  const text = (name: string): string | null => {
    const part = element.children.find((node) => isElement(node, name));
    return part ? session.expandedText(part).replace(/\s+/g, ' ').trim().slice(0, 500) || null : null;
  };
  const primary = text('primary');
  if (!primary) return [];
  return [
    makeNode('index_marker', {
      primary,
      secondary: text('secondary'),
      tertiary: text('tertiary'),
      see: text('see'),
      seeAlso: text('seealso'),
    }),
  ];
}

/** The keys of a menu choice, in brackets behind it. */
function shortcutKeys(
  session: ImportSession,
  element: XmlElement,
  marks: readonly ContentMark[],
  context: Context,
): readonly ContentNode[] {
  const keys = element.children.find((node): node is XmlElement => isElement(node, 'shortcut'));
  if (!keys) return [];
  return [makeText(' (', marks), ...interleaved(session, keys, '+', marks, context), makeText(')', marks)];
}

/** Callouts count through a listing; a list of callouts begins anew. */
function calloutNumber(session: ImportSession, element: XmlElement): number {
  session.calloutCount += 1;
  const id = session.idOf(element);
  if (id !== null) session.callouts.set(id, session.calloutCount);
  return session.calloutCount;
}

/** An equation in TeX: as it was written in TeX or MathML, or as its text reads. */
export function formulaSource(session: ImportSession, element: XmlElement): string {
  const find = (node: XmlNode, name: string): XmlElement | null => {
    if (node.kind !== 'element') return null;
    if (node.name === name) return node;
    for (const child of node.children) {
      const found = find(child, name);
      if (found) return found;
    }
    return null;
  };
  const alternative = find(element, 'alt');
  const said = alternative ? session.expandedText(alternative).trim() : '';
  const isTex = session.attribute(alternative ?? element, 'role') === 'tex' || /[\\^_{}]/.test(said);
  if (said !== '' && isTex && readFormula(said, true).fault === null) return said;
  const math = find(element, 'math');
  const source = math ? texOfMathml(mathElement(session, math)) : null;
  if (source !== null) return source;
  if (math) session.note('text instead', 'A formula in MathML: its signs were kept in a line.', element);
  const written = find(element, 'mathphrase') ?? math ?? (said === '' ? element : alternative);
  return written ? texOfText(session, written).replace(/\s+/g, ' ').trim().slice(0, 4000) : '';
}

function mathElement(session: ImportSession, element: XmlElement): MathElement {
  const children = element.children.filter((node): node is XmlElement => node.kind === 'element');
  return {
    tag: element.name,
    attributes: element.attrs,
    children: children.map((child) => mathElement(session, child)),
    text: children.length > 0 ? '' : session.expandedText(element),
  };
}

/** Text with scripts as TeX. */
function texOfText(session: ImportSession, element: XmlElement): string {
  return element.children
    .map((node) => {
      if (node.kind !== 'element') return texOfPlainFormula(session.expandedText(node));
      const inside = texOfText(session, node);
      const script = { superscript: '^', subscript: '_' }[node.name];
      return script === undefined ? inside : `${script}{${inside}}`;
    })
    .join('');
}

/** The members of a list in a line, with commas between them (DocBook 5.1, `simplelist`, type “inline”). */
function joinedMembers(
  session: ImportSession,
  element: XmlElement,
  marks: readonly ContentMark[],
  context: Context,
): readonly ContentNode[] {
  const members = element.children.filter((node): node is XmlElement => isElement(node, 'member'));
  return members.flatMap((member, at) => [
    ...(at > 0 ? [makeText(', ', marks)] : []),
    ...session.inline(member.children, marks, context),
  ]);
}

/** How a reference reads by its `xrefstyle` (DocBook XSL: “select:” with the words that it knows). */
function xrefForm(style: string | undefined): ReferenceForm {
  const selected = /^\s*select:\s*(.*)$/.exec(style ?? '')?.[1]?.split(/\s+/) ?? [];
  const label = selected.some((each) => /^label/i.test(each));
  const title = selected.some((each) => /title$/i.test(each));
  if (label && !title) return 'number';
  if (title && !label) return 'title';
  return selected.some((each) => /^page/i.test(each)) && !label ? 'page' : 'number-title';
}
