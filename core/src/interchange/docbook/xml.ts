import { SaxesParser } from 'saxes';
import { ImportFault } from '../import-result.js';

export interface XmlElement {
  readonly kind: 'element';
  /** Local name. */
  readonly name: string;
  readonly attrs: Readonly<Record<string, string>>;
  readonly children: XmlNode[];
  /** The name of the element that it was written in; the empty string: none in its file. */
  readonly inside: string;
  readonly file: string;
  readonly line: number;
}

export interface XmlText {
  readonly kind: 'text';
  readonly text: string;
  readonly file: string;
  readonly line: number;
}

/** A reference to a general entity, left for the importer to decide on. */
export interface XmlEntityReference {
  readonly kind: 'entity';
  readonly name: string;
  readonly file: string;
  readonly line: number;
}

export type XmlNode = XmlElement | XmlText | XmlEntityReference;

/** What stands around the name of an entity reference in attribute values: noncharacters that no text uses. */
export const referenceStart = '\uFDD0';
export const referenceEnd = '\uFDD1';
const marked = /\uFDD0([^\uFDD1]*)\uFDD1/;
const maximumDepth = 400;

/** Namespaces by prefix; the default one by the empty prefix. */
type Prefixes = Readonly<Record<string, string>>;
const xinclude = 'http://www.w3.org/2001/XInclude';
/** Files that are put in through entities use prefixes that the document around them declares. */
const usualPrefixes: Prefixes = { xi: xinclude };

function declaredIn(attributes: Readonly<Record<string, string>>, around: Prefixes): Prefixes {
  const own = Object.entries(attributes).flatMap(([name, uri]): [string, string][] => {
    const prefix = /^xmlns(?::(.+))?$/.exec(name);
    return prefix ? [[prefix[1] ?? '', uri]] : [];
  });
  return own.length === 0 ? around : { ...around, ...Object.fromEntries(own) };
}

/** The local name of an element; inclusions (XInclude 1.1) are told apart by their prefix, whichever they have. */
function nameIn(name: string, prefixes: Prefixes): string {
  const at = name.indexOf(':');
  const local = name.slice(at + 1);
  return local === 'include' && prefixes[name.slice(0, Math.max(0, at))] === xinclude ? 'xi:include' : local;
}

const predefined = new Set(['amp', 'lt', 'gt', 'quot', 'apos']);
// What is never closed ends with the text, so that each sign is looked at once.
const references =
  /<!--[\s\S]*?(?:-->|$)|<!\[CDATA\[[\s\S]*?(?:\]\]>|$)|<\?[\s\S]*?(?:\?>|$)|<!DOCTYPE(?:[^[>]*\[[\s\S]*?(?:\]\s*>|$)|[^>]*(?:>|$))|&([\p{L}_:][\p{L}\p{N}_:.-]*);/gu;

/** Whether a document type declaration stands before the root element, after declarations, comments and instructions. */
function declaresType(text: string): boolean {
  const next = /\s*(?:<!--[\s\S]*?-->|<\?[\s\S]*?\?>|(<!DOCTYPE))/y;
  for (let found = next.exec(text); found; found = next.exec(text)) if (found[1] !== undefined) return true;
  return false;
}

/**
 * Parses XML text whose entity references stay references. The marks that replace them are as long as
 * what they replace, so positions hold.
 * @param text a document, or the text of an entity (any number of elements and text)
 * @param onDoctype gets the text of a document type declaration
 * @throws ImportFault where the text is not well formed
 */
export function parseXml(
  text: string,
  file: string,
  options: { readonly firstLine?: number; readonly onDoctype?: (doctype: string, line: number) => void } = {},
): readonly XmlNode[] {
  const firstLine = options.firstLine ?? 1;
  if (/[\uFDD0\uFDD1]/.test(text))
    throw new ImportFault('The text holds characters that XML forbids.', file, firstLine);
  const marked = text
    .replace(/^\uFEFF/, '')
    .replace(references, (whole, name?: string) =>
      name === undefined || predefined.has(name) ? whole : `${referenceStart}${name}${referenceEnd}`,
    );
  const isDocument = declaresType(marked);
  const wrapped = isDocument ? marked : `<entity>${marked.replace(/^\s*<\?xml[^>]*\?>/, '')}</entity>`;

  const top: XmlNode[] = [];
  const stack: XmlElement[] = [];
  const inScope: Prefixes[] = [];
  const parser = new SaxesParser({ xmlns: false, position: true });
  const lineNow = (): number => parser.line + firstLine - 1;
  let startLine = firstLine;

  parser.on('error', (error) => {
    throw new ImportFault(`The XML is not well formed: ${describe(error.message)}`, file, lineNow());
  });
  parser.on('doctype', (doctype) =>
    options.onDoctype?.(doctype, firstLine + lineOf(text, text.indexOf('<!DOCTYPE')) - 1),
  );
  parser.on('opentagstart', () => {
    startLine = lineNow();
  });
  parser.on('opentag', (tag) => {
    const declared = declaredIn(tag.attributes, inScope.at(-1) ?? usualPrefixes);
    inScope.push(declared);
    if (stack.length > maximumDepth) throw new ImportFault('Elements nest too deep.', file, lineNow());
    const around = stack.at(-1);
    const element: XmlElement = {
      kind: 'element',
      name: nameIn(tag.name, declared),
      attrs: tag.attributes,
      children: [],
      inside: around && (isDocument || stack.length > 1) ? around.name : '',
      file,
      line: startLine,
    };
    (around?.children ?? top).push(element);
    stack.push(element);
  });
  parser.on('closetag', () => {
    stack.pop();
    inScope.pop();
  });
  const addText = (value: string): void => {
    const into = stack.at(-1)?.children ?? top;
    let line = lineNow() - (value.split('\n').length - 1);
    for (const [index, part] of value.split(marked2).entries()) {
      if (index % 2 === 1) into.push({ kind: 'entity', name: part, file, line });
      else if (part !== '') into.push({ kind: 'text', text: part, file, line });
      line += part.split('\n').length - 1;
    }
  };
  parser.on('text', addText);
  parser.on('cdata', (value) => {
    (stack.at(-1)?.children ?? top).push({ kind: 'text', text: value, file, line: lineNow() });
  });
  parser.write(wrapped).close();

  if (isDocument) return top;
  const [entity] = top;
  return entity?.kind === 'element' ? entity.children : [];
}

const marked2 = new RegExp(marked.source, 'g');

function lineOf(text: string, at: number): number {
  return text.slice(0, Math.max(0, at)).split('\n').length;
}

/** The parser's message without its own position, which the fault gives with the file. */
function describe(message: string): string {
  const plain = message.replace(/^\d+:\d+:\s*/, '').replace(/\.$/, '');
  return `${plain}.`;
}
