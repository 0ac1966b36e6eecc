import { addMark } from '../../model/marks.js';
import { childrenOf, makeNode, makeText, textAttr, textOf, type ContentNode } from '../../model/node.js';
import { elementsNamed, isElement } from './elements.js';
import { withCondition } from './parts.js';
import type { Context, Flow, ImportSession } from './session.js';
import { normalizeSpaces } from './spaces.js';
import { infoElements } from './vocabulary.js';
import type { XmlElement, XmlNode } from './xml.js';

export function titleNode(session: ImportSession, element: XmlElement, context: Context): ContentNode {
  const inInfo = element.children.filter(
    (node): node is XmlElement => node.kind === 'element' && infoElements.has(node.name),
  );
  const titles = elementsNamed([...element.children, ...inInfo.flatMap((info) => info.children)], 'title');
  const inline = titles.flatMap((title) =>
    withCondition(session.inline(title.children, [], context), session.conditionOn(title)),
  );
  return makeNode('title', null, normalizeSpaces(inline));
}

/** A title as a paragraph of its own, where the kind that an element becomes has none. */
export function strongTitle(session: ImportSession, element: XmlElement, context: Context): readonly Flow[] {
  if (!element.children.some((node) => isElement(node, 'title'))) return [];
  return [makeNode('paragraph', null, strong(childrenOf(titleNode(session, element, context))))];
}

/** What elements are called that have no title (DocBook XSL, “gentext”, English). */
const defaultTitles: Readonly<Record<string, string>> = {
  acknowledgements: 'Acknowledgements',
  bibliography: 'Bibliography',
  colophon: 'Colophon',
  dedication: 'Dedication',
  glossary: 'Glossary',
  preface: 'Preface',
  refsynopsisdiv: 'Synopsis',
};

/** The title of a chapter or section; a reference page is called by its own title, or else by its first name. */
export function topicTitle(session: ImportSession, element: XmlElement, context: Context): ContentNode {
  if (element.name === 'refentry') {
    const within = (name: string): readonly XmlNode[] =>
      elementsNamed(element.children, name).flatMap((node) => node.children);
    const [title] = [
      ...elementsNamed(within('refmeta'), 'refentrytitle'),
      ...elementsNamed(within('refnamediv'), 'refname'),
    ];
    return makeNode('title', null, title ? normalizeSpaces(session.inline(title.children, [], context)) : []);
  }
  const own = titleNode(session, element, context);
  const otherwise = defaultTitles[element.name];
  return own.content || otherwise === undefined ? own : makeNode('title', null, [makeText(otherwise)]);
}

export function titleText(session: ImportSession, element: XmlElement): string {
  const title = element.children.find((node) => isElement(node, 'title'));
  return title ? session.expandedText(title).replace(/\s+/g, ' ').trim() : '';
}

/** A title as the library lists it, variables by their default values. */
export function plainTitle(session: ImportSession, title: ContentNode): string {
  const byKey = new Map([...session.variables].map(([name, key]) => [key, name]));
  return textOf(title, (leaf) =>
    leaf.type === 'variable'
      ? session.entityText(byKey.get(textAttr(leaf, 'key') ?? '') ?? '') || `[${textAttr(leaf, 'key') ?? ''}]`
      : '',
  )
    .replace(/\s+/g, ' ')
    .trim();
}

/** What several elements hold, in one line with a separator between them. */
export function joinedInline(
  session: ImportSession,
  nodes: readonly XmlNode[],
  separator: string,
  context: Context,
): readonly ContentNode[] {
  return nodes.flatMap((node, at) => [
    ...(at > 0 ? [makeText(separator)] : []),
    ...normalizeSpaces(session.inline(node.kind === 'element' ? node.children : [node], [], context)),
  ]);
}

export function strong(nodes: readonly ContentNode[]): readonly ContentNode[] {
  return nodes.map((node) => ({ ...node, marks: addMark(node.marks ?? [], { type: 'strong' }) }));
}

export function titlesOf(element: XmlElement): readonly XmlNode[] {
  return element.children.filter((node) => isElement(node, 'title'));
}

export function textIn(value: unknown): string | null {
  return typeof value === 'string' ? value : null;
}
