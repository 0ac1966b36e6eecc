import { attributesOf } from '../../content/body.js';
import { childrenOf, makeNode, makeText, textAttr, textOf, type ContentNode } from '../../model/node.js';
import { bibliographyEntry } from './bibliography.js';
import { elementsNamed, isElement, withoutTitle, xmlText } from './elements.js';
import { figureBlocks } from './figures.js';
import { componentOfFile, fileOf, inPlace } from './files.js';
import { infoFlow, subtitle } from './info.js';
import { formulaSource } from './inline.js';
import { commandSynopsis, functionSynopsis, verbatimBlock } from './listings.js';
import { listBlocks } from './lists.js';
import { conditioned, ifAny, onlyBlocks, paragraphOf } from './parts.js';
import { nameAndPurpose, sectionBlock, titledSection } from './sections.js';
import type { Context, Flow, ImportSession } from './session.js';
import { normalizeSpaces } from './spaces.js';
import { tableBlocks } from './tables.js';
import { strong, strongTitle, titleNode } from './titles.js';
import { isBlockValue } from './variables.js';
import {
  admonitionElements,
  blockElements,
  chapterElements,
  infoElements,
  listElements,
  markElements,
  partElements,
  sectionElements,
  transparentElements,
  verbatimElements,
} from './vocabulary.js';
import type { XmlElement, XmlEntityReference, XmlNode } from './xml.js';

/** Converts nodes that stand in a flow of blocks; runs of text and inline elements become paragraphs. */
export function flow(session: ImportSession, nodes: readonly XmlNode[], context: Context): readonly Flow[] {
  const blocks: Flow[] = [];
  let run: XmlNode[] = [];
  const flush = (): void => {
    if (run.some((node) => node.kind !== 'text' || node.text.trim() !== '')) {
      const content = normalizeSpaces(session.inline(run, [], context));
      if (content.length > 0) blocks.push(paragraphOf(session, content, null, context), ...context.footnotes.splice(0));
    }
    run = [];
  };
  for (const node of withLists(nodes)) {
    if (node.kind === 'text' || !session.isBlock(node)) {
      run.push(node);
      continue;
    }
    flush();
    blocks.push(...nodeBlocks(session, node, context), ...context.footnotes.splice(0));
  }
  flush();
  return blocks;
}

/** Entries of a glossary need no list around them (DocBook 5.1, `glossary`): those that follow each other get one. */
function withLists(nodes: readonly XmlNode[]): readonly XmlNode[] {
  if (!nodes.some((node) => isElement(node, 'glossentry'))) return nodes;
  const grouped: XmlNode[] = [];
  let list: XmlElement | null = null;
  for (const node of nodes) {
    if (node.kind === 'element' && node.name === 'glossentry') {
      if (!list) {
        list = { ...node, name: 'glosslist', attrs: {}, children: [] };
        grouped.push(list);
      }
      list.children.push(node);
    } else if (node.kind !== 'text' || node.text.trim() !== '') {
      list = null;
      grouped.push(node);
    }
  }
  return grouped;
}

export function isBlock(session: ImportSession, node: XmlNode): boolean {
  if (node.kind === 'text') return false;
  if (node.kind === 'element' && node.name !== 'xi:include') {
    return (
      blockElements.has(node.name) ||
      infoElements.has(node.name) ||
      partElements.has(node.name) ||
      holdsBlocks(session, node)
    );
  }
  const file = fileOf(session, node);
  if (file) return file.shape !== 'phrase';
  return node.kind === 'entity' && isBlockValue(session, node);
}

/** What stands in a line and converts all that it holds itself. */
const ownContent: ReadonlySet<string> = new Set(['footnote', 'inlinemediaobject', 'indexterm', 'inlineequation']);

/** Whether an inline element was put around blocks. */
function holdsBlocks(session: ImportSession, element: XmlElement): boolean {
  if (ownContent.has(element.name)) return false;
  return element.children.some((child) => session.isBlock(child));
}

function nodeBlocks(session: ImportSession, node: XmlElement | XmlEntityReference, context: Context): readonly Flow[] {
  if (node.kind === 'entity' || node.name === 'xi:include') return blockReference(session, node, context);
  const blocks = conditioned(elementBlocks(session, node, context), session.conditionOn(node));
  return withId(session, node, blocks, context);
}

/** Lets the id of an element name what it became, where the element's own handler did not. */
function withId(
  session: ImportSession,
  element: XmlElement,
  blocks: readonly Flow[],
  context: Context,
): readonly Flow[] {
  const id = session.idOf(element);
  if (id === null || session.named.leads(id) || context.anchors.includes(id)) return blocks;
  const at = blocks.findIndex((block) => 'id' in attributesOf(block.type));
  const block = blocks[at];
  if (!block) {
    context.anchors.push(id);
    return blocks;
  }
  const own = textAttr(block, 'id');
  session.name(id, { component: context.component, block: own ?? id }, element);
  return own === null ? blocks.with(at, { ...block, attrs: { ...block.attrs, id } }) : blocks;
}

function blockReference(
  session: ImportSession,
  node: XmlElement | XmlEntityReference,
  context: Context,
): readonly Flow[] {
  const file = fileOf(session, node);
  if (!file) {
    if (node.kind !== 'entity') return [];
    session.note('resolved reuse', `The entity “${node.name}” holds blocks; they were put in place of it.`, node);
    return session.flow(session.expandedValue(node), context);
  }
  if (file.shape === 'parts' || file.shape === 'info') {
    session.note(
      'resolved reuse',
      `“${file.path}” holds parts of a list or table; they were put in place of it.`,
      node,
    );
    return inPlace(session, file, node, () => session.flow(file.nodes, context));
  }
  const key = componentOfFile(session, file, node);
  return [makeNode('placement', { component: key, when: file.when, withTitle: file.shape === 'topic' ? true : null })];
}

type BlockHandler = (session: ImportSession, element: XmlElement, context: Context) => readonly Flow[];

const example: BlockHandler = (session, element, context) =>
  ifAny(session.flow(withoutTitle(element), context), (content) =>
    makeNode('example', session.idAttr(element, context), [
      ...ownTitle(session, element, context),
      ...onlyBlocks(session, content, element),
    ]),
  );

const quotation: BlockHandler = (session, element, context) => {
  const [by] = elementsNamed(element.children, 'attribution');
  const attribution = by ? xmlText(by).trim() : null;
  const content = session.flow(
    withoutTitle(element).filter((node) => node !== by),
    context,
  );
  return ifAny(content, () => makeNode('quotation', { ...session.idAttr(element, context), attribution }, content));
};

const equation: BlockHandler = (session, element, context) => [
  ...strongTitle(session, element, context),
  makeNode('display_formula', { ...session.idAttr(element, context), source: formulaSource(session, element) }),
];

const bridgehead: BlockHandler = (session, element, context) => [
  makeNode('paragraph', null, normalizeSpaces(session.inline(element.children, [{ type: 'strong' }], context))),
];

const admonition: BlockHandler = (session, element, context) =>
  ifAny(session.flow(withoutTitle(element), context), (content) =>
    makeNode('admonition', { ...session.idAttr(element, context), kind: admonitionElements[element.name] }, [
      ...ownTitle(session, element, context),
      ...onlyBlocks(session, content, element),
    ]),
  );

const contentOnly: BlockHandler = (session, element, context) => session.flow(withoutTitle(element), context);
const oneBlock =
  (make: (session: ImportSession, element: XmlElement, context: Context) => Flow): BlockHandler =>
  (session, element, context) => [make(session, element, context)];

const each = (names: Iterable<string>, handler: BlockHandler): Readonly<Record<string, BlockHandler>> =>
  Object.fromEntries([...names].map((name) => [name, handler]));

/** What the elements that stand between paragraphs become. */
const blockHandlers: Readonly<Record<string, BlockHandler>> = {
  ...each(Object.keys(admonitionElements), admonition),
  ...each(verbatimElements, oneBlock(verbatimBlock)),
  ...each(listElements, listBlocks),
  ...each([...sectionElements, ...chapterElements], oneBlock(sectionBlock)),
  ...each(['para', 'simpara'], paraBlocks),
  formalpara: formalParaBlocks,
  subtitle,
  bridgehead,
  ...each(['example', 'informalexample', 'sidebar'], example),
  ...each(['blockquote', 'epigraph'], quotation),
  ...each(['table', 'informaltable'], tableBlocks),
  ...each(['figure', 'informalfigure', 'mediaobject', 'screenshot', 'graphic'], figureBlocks),
  abstract: oneBlock((session, element, context) => titledSection(session, element, 'Abstract', context)),
  ...each(['legalnotice', 'highlights', 'partintro'], contentOnly),
  refnamediv: oneBlock(nameAndPurpose),
  cmdsynopsis: oneBlock(commandSynopsis),
  funcsynopsis: functionSynopsis,
  ...each(['biblioentry', 'bibliomixed'], oneBlock(bibliographyEntry)),
  ...each(['equation', 'informalequation'], equation),
};

function elementBlocks(session: ImportSession, element: XmlElement, context: Context): readonly Flow[] {
  const handle = Object.hasOwn(blockHandlers, element.name) ? blockHandlers[element.name] : undefined;
  return (handle ?? unknownBlock)(session, element, context);
}

/** The title of an element that keeps one; none where it has none. */
function ownTitle(session: ImportSession, element: XmlElement, context: Context): readonly ContentNode[] {
  return elementsNamed(element.children, 'title').length > 0 ? [titleNode(session, element, context)] : [];
}

function unknownBlock(session: ImportSession, element: XmlElement, context: Context): readonly Flow[] {
  if (infoElements.has(element.name)) return infoFlow(session, element, context);
  if (!transparentElements.has(element.name) && !(element.name in markElements)) {
    session.note('unknown element', `<${element.name}> is not known here; its text was kept.`, element);
  }
  return session.flow(element.children, context);
}

function paraBlocks(session: ImportSession, element: XmlElement, context: Context): readonly Flow[] {
  const id = session.idOf(element);
  if (id !== null) {
    session.named.claim(id, element);
    // In an empty paragraph it names whatever comes next.
    context.anchors.push(id);
    session.named.label(id, session.attribute(element, 'xreflabel'));
  }
  return session.flow(element.children, context);
}

function formalParaBlocks(session: ImportSession, element: XmlElement, context: Context): readonly Flow[] {
  const title = titleNode(session, element, context);
  const lead = strong(childrenOf(title));
  const [first, ...rest] = session.flow(withoutTitle(element), context);
  const period = /[.!?:]$/.test(textOf(title)) ? ' ' : '. ';
  const start = [...lead, makeText(period, [{ type: 'strong' }])];
  if (first?.type === 'paragraph') return [{ ...first, content: [...start, ...childrenOf(first)] }, ...rest];
  return [makeNode('paragraph', null, start), ...(first ? [first, ...rest] : [])];
}
