import { makeNode, makeText, type ContentNode } from '../../model/node.js';
import { elementsNamed, numeration, withoutTitle } from './elements.js';
import { openReference } from './named-places.js';
import { conditioned, nonEmpty, onlyBlocks, partsIn } from './parts.js';
import type { Context, Flow, ImportSession } from './session.js';
import { normalizeSpaces } from './spaces.js';
import { strongTitle, textIn } from './titles.js';
import { partElements } from './vocabulary.js';
import type { XmlElement } from './xml.js';

export function listBlocks(session: ImportSession, element: XmlElement, context: Context): readonly Flow[] {
  const before = element.children.filter(
    (node) => node.kind === 'element' && !partElements.has(node.name) && session.isBlock(node),
  );
  const lead = session.flow(before, context);
  const title = strongTitle(session, element, context);
  const attrs = session.idAttr(element, context);
  const parts = partsIn(session, element.children);
  const made = ((): Flow | null => {
    switch (element.name) {
      case 'segmentedlist':
        return segmentList(session, element, attrs, context);
      case 'variablelist':
      case 'glosslist':
      case 'qandaset':
      case 'qandadiv':
        return nonEmpty(
          'definition_list',
          attrs,
          parts.flatMap((part) => definitionOf(session, part, context)),
        );
      case 'procedure':
      case 'substeps':
        return nonEmpty(
          'steps',
          attrs,
          parts.map((part) => itemOf(session, 'step', part, context)),
        );
      case 'orderedlist':
      case 'calloutlist': {
        session.calloutCount = 0;
        const start = startOf(session, element, parts.length);
        return nonEmpty(
          'ordered_list',
          { ...attrs, style: numeration(element.attrs['numeration']), start: start === 1 ? null : start },
          parts.map((part, at) => {
            // References to an item read its number (DocBook XSL, “xref-to”).
            const id = session.idOf(part);
            if (id !== null) session.named.label(id, String(start + at));
            return itemOf(session, 'list_item', part, context);
          }),
        );
      }
      default:
        return nonEmpty(
          'bullet_list',
          attrs,
          parts.map((part) => itemOf(session, 'list_item', part, context)),
        );
    }
  })();
  return [...title, ...lead, ...(made ? [made] : [])];
}

/**
 * A list of segments: each item says the title of a segment before it (DocBook XSL, “segmentedlist”, not as a table).
 */
function segmentList(
  session: ImportSession,
  element: XmlElement,
  attrs: Record<string, unknown>,
  context: Context,
): Flow | null {
  const titles = elementsNamed(element.children, 'segtitle');
  const line = (title: XmlElement | undefined, segment: XmlElement): ContentNode => {
    const lead = title
      ? [...normalizeSpaces(session.inline(title.children, [{ type: 'strong' }], context)), makeText(': ')]
      : [];
    return makeNode('paragraph', null, [...lead, ...normalizeSpaces(session.inline(segment.children, [], context))]);
  };
  const items = elementsNamed(element.children, 'seglistitem').map((item) =>
    makeNode(
      'list_item',
      { ...session.idAttr(item, context), when: session.conditionOn(item) },
      elementsNamed(item.children, 'seg').map((segment, at) => line(titles[at], segment)),
    ),
  );
  return nonEmpty('bullet_list', attrs, items);
}

/** Where a list begins to count: at a number of its own, or where the list before it ended. */
function startOf(session: ImportSession, element: XmlElement, count: number): number {
  const own = Number(element.attrs['startingnumber'] ?? Number.NaN);
  const start = Number.isInteger(own)
    ? own
    : element.attrs['continuation'] === 'continues'
      ? session.lastNumber + 1
      : 1;
  session.lastNumber = start + count - 1;
  return Math.max(0, start);
}

function itemOf(session: ImportSession, type: 'list_item' | 'step', part: XmlElement, context: Context): ContentNode {
  const title = strongTitle(session, part, context);
  const attrs = { ...session.idAttr(part, context), when: session.conditionOn(part) };
  const content = [...title, ...onlyBlocks(session, session.flow(withoutTitle(part), context), part)];
  return makeNode(type, attrs, content.length > 0 ? content : [makeNode('paragraph')]);
}

function definitionOf(session: ImportSession, part: XmlElement, context: Context): readonly ContentNode[] {
  const terms = elementsNamed(part.children, 'term', 'glossterm', 'question');
  const below = elementsNamed(part.children, 'listitem', 'glossdef', 'answer', 'glosssee', 'glossseealso');
  const attrs: Record<string, unknown> = { ...session.idAttr(part, context), when: session.conditionOn(part) };
  const named = terms.map((term) => session.idOf(term)).find((id) => id !== null);
  // A term that has an id names the definition.
  const id = textIn(attrs['id']) ?? named ?? null;
  if (id !== null) {
    session.nameParts(terms, { component: context.component, block: id });
    if (terms[0]) session.named.reads(id, session.expandedText(terms[0]));
  }
  const markers = session.inline(elementsNamed(part.children, 'indexterm'), [], context);
  const termNodes = terms.map((term, at) => {
    const when = session.conditionOn(term);
    const own = at === 0 ? markers : [];
    return makeNode('term', { when }, [...own, ...normalizeSpaces(inlineOnly(session, term, context))]);
  });
  const notes = context.footnotes.splice(0);
  const blocks = below.flatMap((node) => conditioned(glossaryFlow(session, node, context), session.conditionOn(node)));
  const content = [...notes, ...onlyBlocks(session, blocks, part)];
  return [
    makeNode('definition', { ...attrs, id }, [
      ...(termNodes.length > 0 ? termNodes : [makeNode('term')]),
      makeNode('description', null, content.length > 0 ? content : [makeNode('paragraph')]),
    ]),
  ];
}

/** What defines a term; a reference to another entry says so in words (DocBook XSL, “gentext”, English). */
function glossaryFlow(session: ImportSession, node: XmlElement, context: Context): readonly Flow[] {
  if (node.name !== 'glosssee' && node.name !== 'glossseealso') return session.flow(node.children, context);
  const other = session.attribute(node, 'otherterm');
  const word = node.name === 'glosssee' ? 'See ' : 'See also ';
  // The entry may come later: what it is called is known when everything is read.
  const text =
    other === null
      ? session.inline(node.children, [], context)
      : [openReference(node, { linkend: other, form: 'title', text: null, endterm: other })];
  return [makeNode('paragraph', null, [makeText(word), ...normalizeSpaces(text), makeText('.')])];
}

/** The inline content of an element that may hold paragraphs, joined by spaces. */
function inlineOnly(session: ImportSession, element: XmlElement, context: Context): readonly ContentNode[] {
  return element.children.flatMap((node) =>
    node.kind === 'element' && (node.name === 'para' || node.name === 'simpara')
      ? [...session.inline(node.children, [], context), makeText(' ')]
      : session.inline([node], [], context),
  );
}
