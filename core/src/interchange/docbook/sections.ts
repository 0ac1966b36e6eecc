import { makeNode, makeText } from '../../model/node.js';
import { isElement, withoutTitle } from './elements.js';
import { paragraphOf } from './parts.js';
import type { Context, Flow, ImportSession } from './session.js';
import { normalizeSpaces } from './spaces.js';
import { joinedInline, textIn, titleNode, titlesOf, topicTitle } from './titles.js';
import { unnumberedSections } from './vocabulary.js';
import type { XmlElement } from './xml.js';

export function sectionBlock(session: ImportSession, element: XmlElement, context: Context): Flow {
  const attrs = session.idAttr(element, context);
  const title = topicTitle(session, element, context);
  const notes = context.footnotes.splice(0);
  const flow = session.flow(withoutTitle(element), context);
  const numbered = unnumberedSections.has(element.name) ? false : null;
  const target = { component: context.component, block: textIn(attrs['id']) };
  if (target.block !== null) session.nameParts(titlesOf(element), target);
  return makeNode('section', { ...attrs, numbered }, [title, ...notes, ...flow]);
}

export function titledSection(session: ImportSession, element: XmlElement, fallback: string, context: Context): Flow {
  const own = element.children.find((node) => isElement(node, 'title'));
  const title = own ? titleNode(session, element, context) : makeNode('title', null, [makeText(fallback)]);
  return makeNode('section', { numbered: false, when: session.conditionOn(element) }, [
    title,
    ...session.flow(withoutTitle(element), context),
  ]);
}

/** The names of a reference page and what they are for, in one line. */
export function nameAndPurpose(session: ImportSession, element: XmlElement, context: Context): Flow {
  const id = session.idOf(element);
  if (id !== null) context.anchors.push(id);
  const names = element.children.filter((node) => isElement(node, 'refname'));
  const purpose = element.children.filter((node) => isElement(node, 'refpurpose'));
  const inline = [
    ...joinedInline(session, names, ', ', context),
    ...(purpose.length > 0 ? [makeText(' — ')] : []),
    ...joinedInline(session, purpose, ' ', context),
  ];
  return paragraphOf(session, normalizeSpaces(inline), null, context);
}
