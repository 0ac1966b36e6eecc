import { makeNode, makeText } from '../../model/node.js';
import { elementsNamed, isElement, withoutTitle } from './elements.js';
import { conditioned } from './parts.js';
import { titledSection } from './sections.js';
import type { Context, Flow, ImportSession } from './session.js';
import { normalizeSpaces } from './spaces.js';
import { joinedInline } from './titles.js';
import { referencePageElements } from './vocabulary.js';
import type { XmlElement } from './xml.js';

/** What elements about a book, chapter or section print, in this order (DocBook XSL, “titlepage”); the rest does not. */
const printed = [
  'subtitle',
  'corpauthor',
  'corpname',
  'authorgroup',
  'author',
  'editor',
  'othercredit',
  'collab',
  'releaseinfo',
  'edition',
  'publisher',
  'address',
  'copyright',
  'legalnotice',
  'pubdate',
  'date',
  'revision',
  'revhistory',
  'mediaobject',
  'abstract',
];
const saidElsewhere = new Set(['title', 'titleabbrev', 'refentrytitle', 'manvolnum', 'refmiscinfo', 'itermset']);

/** A reference page prints nothing of what it says about itself; neither do blocks. */
const silent: ReadonlySet<string> = new Set([
  'refentryinfo',
  'refmeta',
  'refsect1info',
  'refsect2info',
  'refsect3info',
  'refsynopsisdivinfo',
  'objectinfo',
  'blockinfo',
]);

/** What a book, chapter or section says about itself, as content. What is not printed is noted. */
export function infoFlow(session: ImportSession, info: XmlElement, context: Context): readonly Flow[] {
  // Since DocBook 5 all of them are called the same.
  const isPrinted = !silent.has(info.name) && !(info.name === 'info' && referencePageElements.has(info.inside));
  const elements = info.children.filter((node) => node.kind === 'element');
  for (const { name, file, line } of elements) {
    if ((isPrinted && printed.includes(name)) || saidElsewhere.has(name)) continue;
    session.note('left out', `<${name}> in <${info.name}> is not printed; it was left out.`, { file, line });
  }
  if (!isPrinted) return [];
  return printed.flatMap((name) =>
    elementsNamed(elements, name).flatMap((node) =>
      conditioned(printedBlocks(session, node, context), session.conditionOn(node)),
    ),
  );
}

function printedBlocks(session: ImportSession, node: XmlElement, context: Context): readonly Flow[] {
  switch (node.name) {
    case 'subtitle':
      return subtitle(session, node, context);
    case 'abstract':
      return [titledSection(session, node, 'Abstract', context)];
    case 'legalnotice':
      return session.flow(withoutTitle(node), context);
    case 'copyright':
      return [copyright(session, node, context)];
    case 'revhistory':
      return elementsNamed(node.children, 'revision').flatMap((revision) => revisionLine(session, revision, context));
    case 'revision':
      return revisionLine(session, node, context);
    default:
      return session.flow([node], context);
  }
}

/** A subtitle as a line of its own below the title. */
export function subtitle(session: ImportSession, element: XmlElement, context: Context): readonly Flow[] {
  const line = normalizeSpaces(session.inline(element.children, [{ type: 'emphasis' }], context));
  return line.length > 0 ? [makeNode('paragraph', null, line)] : [];
}

function copyright(session: ImportSession, node: XmlElement, context: Context): Flow {
  const years = node.children.filter((each) => isElement(each, 'year'));
  const holders = node.children.filter((each) => isElement(each, 'holder'));
  const inline = normalizeSpaces([
    makeText('Copyright © '),
    ...joinedInline(session, years, ', ', context),
    makeText(' '),
    ...joinedInline(session, holders, ', ', context),
  ]);
  return makeNode('paragraph', null, inline);
}

/** A revision of a book in one line: its number, its date, by whom, and what is said of it. */
function revisionLine(session: ImportSession, revision: XmlElement, context: Context): readonly Flow[] {
  const parts = revision.children.filter((node) => node.kind === 'element');
  const line = parts
    .filter((part) => part.name !== 'revdescription')
    .flatMap((part, at) => [
      ...(at > 0 ? [makeText(', ')] : []),
      ...normalizeSpaces(session.inline(part.children, [], context)),
    ]);
  const said = elementsNamed(parts, 'revdescription').flatMap((part) => session.flow(part.children, context));
  return [...(line.length > 0 ? [makeNode('paragraph', null, [makeText('Revision '), ...line])] : []), ...said];
}
