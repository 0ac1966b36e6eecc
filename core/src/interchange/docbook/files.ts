import { keyFromTitle } from '../../model/component.js';
import { childrenOf, makeNode, type ContentNode } from '../../model/node.js';
import { ImportFault } from '../import-result.js';
import { baseName, isElement, soleElement } from './elements.js';
import { entityLimits, insideFolder, pathBeside } from './entities.js';
import type { Context, ImportedFile, ImportSession } from './session.js';
import { normalizeSpaces } from './spaces.js';
import { chapterElements, infoElements, partElements, sectionElements } from './vocabulary.js';
import { parseXml, type XmlElement, type XmlNode } from './xml.js';

/** The file behind an external entity or an inclusion; null for internal entities and other nodes. */
export function fileOf(session: ImportSession, node: XmlNode): ImportedFile | null {
  let path: string;
  if (node.kind === 'entity') {
    const declaration = session.entities.declared(node.name);
    if (!declaration || declaration.value !== null) return null;
    path = insideFolder(declaration.file, node.file, node.line);
  } else if (node.kind === 'element' && node.name === 'xi:include' && node.attrs['href']) {
    path = pathBeside(node.file, node.attrs['href'], node.line);
  } else return null;
  const include = node.kind === 'element' ? node.attrs : {};
  const pointer = include['xpointer'] ?? (node.kind === 'element' ? include['fragid'] : undefined) ?? '';
  const isText = include['parse'] === 'text';
  const name = `${path}${pointer === '' ? '' : `#${pointer}`}${isText ? ' as text' : ''}`;
  const known = session.files.get(name);
  if (known) return known;
  const text = isText ? readText(session, path, include['encoding'], node) : session.options.read(path);
  if (isText && text !== undefined) {
    session.countExpanded(text.length, node);
    return addFile(session, name, path, [{ kind: 'text', text, file: path, line: 1 }], text.length, node);
  }
  if (text === undefined) {
    const fallback = node.kind === 'element' ? node.children.find((each) => isElement(each, 'fallback')) : undefined;
    if (fallback?.kind === 'element') return addFallback(session, fallback, path, node);
    if (!session.unreadable.has(path))
      session.noteOnce('missing file', `The file “${path}” is missing; what it holds was left out.`, node);
    return null;
  }
  const nodes = parseXml(text, path, {
    onDoctype: (doctype, line) => session.entities.readDoctype(doctype, path, line),
  });
  session.countExpanded(text.length, node);
  if (pointer !== '') {
    const pointed = pointedTo(nodes, pointer);
    if (!pointed) {
      session.noteOnce('missing file', `“${path}” has nothing that “${pointer}” points to; it was left out.`, node);
      return null;
    }
    return addFile(session, name, path, [pointed], text.length, node);
  }
  return addFile(session, name, path, nodes, text.length, node);
}

/** A file that is put in as it is; undefined, with a note, where it is none of text (XInclude 1.1, 4.3). */
function readText(session: ImportSession, path: string, encoding: string | undefined, at: XmlNode): string | undefined {
  try {
    return session.options.read(path, encoding);
  } catch (error) {
    if (!(error instanceof ImportFault)) throw error;
    session.unreadable.add(path);
    session.noteOnce('missing file', error.message, at);
    return undefined;
  }
}

/** What stands in for a missing file; each inclusion has its own. */
function addFallback(session: ImportSession, fallback: XmlElement, path: string, node: XmlNode): ImportedFile {
  let file = session.fallbacks.get(fallback);
  if (!file) {
    file = addFile(session, `${path} or else ${session.fallbacks.size}`, path, fallback.children, 1, node);
    session.fallbacks.set(fallback, file);
  }
  return file;
}

/** Takes a file, or a part of one, up among those that can be placed. */
function addFile(
  session: ImportSession,
  name: string,
  path: string,
  nodes: readonly XmlNode[],
  size: number,
  node: XmlNode,
): ImportedFile {
  const sole = soleElement(nodes);
  // The shape of a file may depend on files inside it; a file inside itself is refused.
  const shape = inFile(session, path, node, () => shapeOf(session, nodes, sole));
  const file: ImportedFile = {
    path,
    nodes,
    size,
    shape,
    when: sole && shape === 'topic' ? session.conditionOn(sole) : null,
    key: null,
  };
  session.files.set(name, file);
  return file;
}

function shapeOf(session: ImportSession, nodes: readonly XmlNode[], sole: XmlElement | null): ImportedFile['shape'] {
  if (sole && infoElements.has(sole.name)) return 'info';
  if (sole && (sectionElements.has(sole.name) || chapterElements.has(sole.name))) return 'topic';
  if (nodes.some((node) => node.kind === 'element' && partElements.has(node.name))) return 'parts';
  return nodes.some((node) => session.isBlock(node)) ? 'fragment' : 'phrase';
}

/** Runs work that puts what a file holds in place of a reference to it. */
export function inPlace<T>(session: ImportSession, file: ImportedFile, at: XmlNode, work: () => T): T {
  session.countExpanded(entityLimits.reference + file.size, at);
  return inFile(session, file.path, at, work);
}

/** Runs work inside a file; a file that is open already would contain itself. */
export function inFile<T>(session: ImportSession, path: string, at: XmlNode, work: () => T): T {
  if (session.openFiles.includes(path)) {
    const chain = [...session.openFiles.slice(session.openFiles.indexOf(path)), path].join(' › ');
    throw new ImportFault(`An entity contains itself: ${chain}.`, at.file, at.line);
  }
  if (session.openFiles.length > entityLimits.depth) throw new ImportFault('Entities nest too deep.', at.file, at.line);
  session.openFiles.push(path);
  try {
    return work();
  } finally {
    session.openFiles.pop();
  }
}

export function keyForFile(session: ImportSession, file: ImportedFile, at: XmlNode): string {
  if (file.key === null) {
    const name = at.kind === 'entity' ? at.name : file.path;
    file.key = session.newKey(keyFromTitle(baseName(name)));
  }
  return file.key;
}

/** The component that a file became, made at its first use. */
export function componentOfFile(session: ImportSession, file: ImportedFile, at: XmlNode): string {
  if (file.key !== null && session.components.has(file.key)) return file.key;
  const key = keyForFile(session, file, at);
  inFile(session, file.path, at, () => {
    const root = soleElement(file.nodes);
    if (file.shape === 'topic' && root) session.topic(root, key, false);
    else {
      const context: Context = { component: key, footnotes: [], anchors: [] };
      const body =
        file.shape === 'phrase'
          ? makeNode('phrase', null, normalizeSpaces(session.inline(file.nodes, [], context)))
          : makeNode('fragment', null, session.flow(file.nodes, context));
      session.leadRest(context);
      addSnippet(session, key, body, baseName(file.path));
    }
  });
  return key;
}

export function addSnippet(session: ImportSession, key: string, body: ContentNode, title: string): void {
  const filled =
    body.type === 'fragment' && childrenOf(body).length === 0
      ? makeNode('fragment', null, [makeNode('paragraph')])
      : body;
  session.components.set(key, { key, kind: 'snippet', title, revision: 1, body: filled });
}

/** The element that a pointer names: an id, or a way by positions from an id or the root (XPointer `element()` scheme). */
function pointedTo(nodes: readonly XmlNode[], pointer: string): XmlElement | null {
  const scheme = /^element\((.*)\)$/.exec(pointer)?.[1];
  const [start = '', ...steps] = (scheme ?? pointer.replace(/^xpointer\(id\(['"](.*)['"]\)\)$/, '$1')).split('/');
  const elements = (list: readonly XmlNode[]): readonly XmlElement[] =>
    list.filter((node): node is XmlElement => node.kind === 'element');
  const byId = (list: readonly XmlNode[]): XmlElement | null => {
    for (const each of elements(list)) {
      if (each.attrs['id'] === start || each.attrs['xml:id'] === start) return each;
      const found = byId(each.children);
      if (found) return found;
    }
    return null;
  };
  let found: XmlElement | null = start === '' ? null : byId(nodes);
  for (const step of steps) {
    const list = elements(found ? found.children : nodes);
    found = list[Number(step) - 1] ?? null;
    if (!found) return null;
  }
  return found;
}
