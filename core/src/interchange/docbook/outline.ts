import { keyFromTitle } from '../../model/component.js';
import { known } from '../../model/known.js';
import { makeNode } from '../../model/node.js';
import type { OutlineEntry } from '../../model/publication.js';
import { baseName, elementsNamed, isElement, roleOf, soleElement } from './elements.js';
import { infoFlow, subtitle } from './info.js';
import { addSnippet, fileOf, inFile, inPlace, keyForFile } from './files.js';
import type { Context, Flow, ImportedFile, ImportSession } from './session.js';
import { plainTitle, titleNode, titleText, topicTitle } from './titles.js';
import { chapterElements, infoElements, sectionElements } from './vocabulary.js';
import type { XmlElement, XmlNode } from './xml.js';

/** The entries of a document: what it says of itself and what stands before its chapters first, then its chapters. */
export function bookEntries(session: ImportSession, book: XmlElement, publicationKey: string): readonly OutlineEntry[] {
  const rest = book.children.filter(
    (node) => !isInfo(session, node) && !isElement(node, 'title', 'subtitle', 'titleabbrev'),
  );
  const first = rest.findIndex((node) => isEntry(session, node));
  // An article begins with what introduces it; what is loose in a book is a fault of the book.
  const lead = book.name === 'article' ? rest.slice(0, first < 0 ? rest.length : first) : [];
  const front = frontTopic(session, book, lead, publicationKey);
  return [...(front ? [front] : []), ...entriesOf(session, rest.slice(lead.length))];
}

/** Outline entries for chapters, parts and external entities; loose content becomes a topic of its own. */
export function entriesOf(session: ImportSession, nodes: readonly XmlNode[]): readonly OutlineEntry[] {
  const entries: OutlineEntry[] = [];
  let loose: XmlNode[] = [];
  const flush = (): void => {
    const [first, ...more] = loose.filter((node) => node.kind !== 'text' || node.text.trim() !== '');
    if (first?.kind === 'element' && more.length === 0) {
      session.note('other structure', `<${first.name}> between chapters became a topic of its own.`, first);
      entries.push(entryForElement(session, first));
    } else if (first) {
      session.note('other structure', 'What stands between chapters became a topic of its own.', first);
      const { file, line } = first;
      entries.push(
        entryForElement(session, {
          file,
          line,
          kind: 'element',
          name: 'preface',
          inside: '',
          attrs: {},
          children: loose,
        }),
      );
    }
    loose = [];
  };
  const add = (...more: readonly OutlineEntry[]): void => {
    flush();
    entries.push(...more);
  };
  for (const node of nodes) {
    if (node.kind === 'entity' || (node.kind === 'element' && node.name === 'xi:include')) {
      const file = fileOf(session, node);
      if (!file) {
        if (node.kind === 'entity') add(...entriesOf(session, session.expandedValue(node)));
      } else if (file.shape === 'topic') add(entryForFile(session, file, node));
      else if (file.shape !== 'info') add(...inPlace(session, file, node, () => entriesOf(session, file.nodes)));
    } else if (node.kind === 'element' && isEntry(session, node)) add(entryForElement(session, node));
    else if (isElement(node, 'index')) session.asksForIndex = true;
    else if (!isElement(node, 'toc', 'lot')) loose.push(node);
  }
  flush();
  return entries;
}

function isEntry(session: ImportSession, node: XmlNode): boolean {
  if (node.kind === 'element' && node.name !== 'xi:include')
    return chapterElements.has(node.name) || sectionElements.has(node.name);
  return node.kind !== 'text' && fileOf(session, node)?.shape === 'topic';
}

function entryForFile(session: ImportSession, file: ImportedFile, at: XmlNode): OutlineEntry {
  const root = known(soleElement(file.nodes) ?? undefined);
  const before = session.hoisted.get(file.path);
  const entries =
    before ?? inFile(session, file.path, at, () => session.topic(root, keyForFile(session, file, at), true));
  session.hoisted.set(file.path, entries);
  return {
    id: entryId(session),
    topic: known(file.key ?? undefined),
    ...(file.when === null ? {} : { when: file.when }),
    role: roleOf(root),
    // A second entry of the same topic gets ids of its own below it, too.
    entries: before ? freshIds(session, entries) : entries,
  };
}

function freshIds(session: ImportSession, entries: readonly OutlineEntry[]): readonly OutlineEntry[] {
  return entries.map((entry) => ({ ...entry, id: entryId(session), entries: freshIds(session, entry.entries ?? []) }));
}

function entryForElement(session: ImportSession, element: XmlElement): OutlineEntry {
  const title = titleText(session, element);
  const key = session.newKey(keyFromTitle(session.idOf(element) ?? (title || element.name)));
  const entries = session.topic(element, key, true);
  const when = session.conditionOn(element);
  return { id: entryId(session), topic: key, ...(when === null ? {} : { when }), role: roleOf(element), entries };
}

function entryId(session: ImportSession): string {
  session.entryCount += 1;
  return `e${session.entryCount}`;
}

/** What holds chapters: they become entries below it. */
const holdsChapters: ReadonlySet<string> = new Set(['set', 'book', 'part', 'reference']);

/**
 * Makes a topic of an element.
 * @param hoist whether section files that end the element become entries below it instead of placements
 * @returns the entries below it
 */
export function topic(
  session: ImportSession,
  element: XmlElement,
  key: string,
  hoist: boolean,
): readonly OutlineEntry[] {
  const id = session.idOf(element);
  if (id !== null) session.name(id, { component: key, block: null }, element);
  session.nameParts(
    element.children.filter((node) => isElement(node, 'title')),
    { component: key, block: null },
  );
  const context: Context = { component: key, footnotes: [], anchors: [] };
  const title = topicTitle(session, element, context);
  const content = element.children.filter((node) => !isElement(node, 'title', 'titleabbrev'));
  let entries: readonly OutlineEntry[] = [];
  let own: readonly XmlNode[] = content;
  if (hoist && holdsChapters.has(element.name)) {
    const first = content.findIndex((node) => isChapterLike(session, node));
    own = first < 0 ? content : content.slice(0, first);
    entries = entriesOf(session, content.slice(own.length));
  } else if (hoist) {
    let from = content.length;
    while (from > 0 && mayHoist(session, known(content[from - 1]))) from -= 1;
    own = content.slice(0, from);
    entries = entriesOf(
      session,
      content.slice(from).filter((node) => node.kind !== 'text'),
    );
  }
  const flow = session.flow(own, context);
  const notes = context.footnotes.splice(0);
  session.leadRest(context);
  const body = makeNode('topic', null, [title, ...notes, ...(flow.length > 0 ? flow : [makeNode('paragraph')])]);
  session.components.set(key, {
    key,
    kind: 'topic',
    title: plainTitle(session, title) || key,
    revision: 1,
    body,
  });
  return entries;
}

function isChapterLike(session: ImportSession, node: XmlNode): boolean {
  if (node.kind === 'element' && node.name !== 'xi:include') return chapterElements.has(node.name);
  return node.kind !== 'text' && fileOf(session, node)?.shape === 'topic';
}

function mayHoist(session: ImportSession, node: XmlNode): boolean {
  if (node.kind === 'text') return node.text.trim() === '';
  if (node.kind === 'element' && node.name !== 'xi:include') return false;
  return fileOf(session, node)?.shape === 'topic';
}

/** What a document says of itself, with what stands before its chapters. */
function frontTopic(
  session: ImportSession,
  book: XmlElement,
  lead: readonly XmlNode[],
  publicationKey: string,
): OutlineEntry | null {
  const info = book.children.find((node) => isInfo(session, node));
  const file = info ? fileOf(session, info) : null;
  const element = file ? soleElement(file.nodes) : info?.kind === 'element' ? info : null;
  const titled = element && element.children.some((node) => isElement(node, 'title')) ? element : book;
  const key = session.newKey(`${publicationKey}-about`);
  const context: Context = { component: key, footnotes: [], anchors: [] };
  const title = titleNode(session, titled, context);
  let flow: readonly Flow[] = [];
  if (file && element) {
    const snippet = session.newKey(keyFromTitle(baseName(file.path)));
    file.key = snippet;
    const inside: Context = { component: snippet, footnotes: [], anchors: [] };
    const content = infoFlow(session, element, inside);
    if (content.length > 0) {
      addSnippet(session, snippet, makeNode('fragment', null, content), plainTitle(session, title) || snippet);
      flow = [makeNode('placement', { component: snippet })];
    }
  } else if (element) flow = infoFlow(session, element, context);
  const below = elementsNamed(book.children, 'subtitle').flatMap((each) => subtitle(session, each, context));
  flow = [...below, ...flow, ...session.flow(lead, context), ...context.footnotes.splice(0)];
  // The publication has the title already; a topic with nothing else would say it twice.
  if (flow.length === 0) return null;
  const body = makeNode('topic', null, [title, ...flow]);
  session.components.set(key, { key, kind: 'topic', title: plainTitle(session, title) || key, revision: 1, body });
  return { id: entryId(session), topic: key, role: 'front', entries: [] };
}

function isInfo(session: ImportSession, node: XmlNode): boolean {
  if (node.kind === 'element' && node.name !== 'xi:include') return infoElements.has(node.name);
  return node.kind !== 'text' && fileOf(session, node)?.shape === 'info';
}
