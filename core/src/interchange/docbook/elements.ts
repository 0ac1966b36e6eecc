import type { ContentMark, ContentNode } from '../../model/node.js';
import type { ProfilesFile } from '../../contract/profiles-file.js';
import type { OutlineEntry } from '../../model/publication.js';
import { normalizeSpaces } from './spaces.js';
import { referenceEnd, referenceStart, type XmlElement, type XmlEntityReference, type XmlNode } from './xml.js';

export function overriddenNames(profiles: ProfilesFile | undefined): ReadonlySet<string> {
  return new Set((profiles?.profiles ?? []).flatMap((profile) => Object.keys(profile.variables ?? {})));
}

export function conditionMark(when: string): ContentMark {
  return { type: 'condition', attrs: { when } };
}

export function isElement(node: XmlNode, ...names: readonly string[]): boolean {
  return node.kind === 'element' && names.includes(node.name);
}

/** The elements among nodes that have one of some names. */
export function elementsNamed(nodes: readonly XmlNode[], ...names: readonly string[]): readonly XmlElement[] {
  return nodes.filter((node) => node.kind === 'element').filter((element) => names.includes(element.name));
}

export function soleElement(nodes: readonly XmlNode[]): XmlElement | null {
  const significant = nodes.filter((node) => node.kind !== 'text' || node.text.trim() !== '');
  const [only] = significant;
  return significant.length === 1 && only?.kind === 'element' ? only : null;
}

export function withoutTitle(element: XmlElement): readonly XmlNode[] {
  return element.children.filter((node) => !isElement(node, 'title', 'titleabbrev'));
}

export function captionAsTitle(node: XmlNode): XmlNode {
  return node.kind === 'element' && node.name === 'caption'
    ? { ...node, name: 'title', children: node.children.flatMap(unwrapPara) }
    : node;
}

function unwrapPara(node: XmlNode): readonly XmlNode[] {
  return node.kind === 'element' && (node.name === 'para' || node.name === 'simpara') ? node.children : [node];
}

export function idOf(element: XmlElement): string | null {
  return element.attrs['id'] ?? element.attrs['xml:id'] ?? null;
}

export function nameOf(node: XmlElement | XmlEntityReference): string {
  return node.kind === 'entity' ? node.name : (node.attrs['href'] ?? '');
}

export function baseName(path: string): string {
  return (path.split('/').at(-1) ?? path).replace(/\.[a-z0-9]{1,5}$/i, '');
}

export function xmlText(node: XmlNode): string {
  return node.kind === 'text' ? node.text : node.kind === 'entity' ? '' : node.children.map(xmlText).join('');
}

export function roleOf(element: XmlElement): NonNullable<OutlineEntry['role']> {
  if (element.name === 'book' || element.name === 'set') return 'book';
  if (element.name === 'part') return 'part';
  if (element.name === 'appendix') return 'appendix';
  if (element.name === 'colophon') return 'back';
  if (unnumberedChapters.has(element.name)) return 'front';
  return 'auto';
}

/** What stands in a book like a chapter and takes no number, by the defaults of DocBook’s own processing. */
const unnumberedChapters: ReadonlySet<string> = new Set([
  'preface',
  'dedication',
  'acknowledgements',
  'colophon',
  'reference',
  'refentry',
  'glossary',
  'bibliography',
]);

export function numeration(value: string | undefined): string | null {
  const styles: Readonly<Record<string, string>> = {
    loweralpha: 'lower-alpha',
    upperalpha: 'upper-alpha',
    lowerroman: 'lower-roman',
    upperroman: 'upper-roman',
  };
  return styles[value ?? ''] ?? null;
}

export function splitReferences(raw: string): readonly { readonly text: string; readonly entity: boolean }[] {
  return raw
    .split(new RegExp(`${referenceStart}([^${referenceEnd}]*)${referenceEnd}`))
    .map((text, index) => ({ text, entity: index % 2 === 1 }))
    .filter((part) => part.text !== '');
}

export function trimVerbatim(nodes: readonly ContentNode[]): readonly ContentNode[] {
  const result = [...nodes];
  const first = result[0];
  if (first?.text !== undefined) result[0] = { ...first, text: first.text.replace(/^[ \t]*\n/, '') };
  const last = result.at(-1);
  if (last?.text !== undefined) result[result.length - 1] = { ...last, text: last.text.replace(/\n[ \t]*$/, '') };
  return result.filter((node) => node.text !== '');
}

/** A variable's value: spaces folded, and none at edges that only end a line of the source. */
export function normalizeValue(nodes: readonly ContentNode[]): readonly ContentNode[] {
  const first = nodes[0]?.text;
  const last = nodes.at(-1)?.text;
  const startsLine = first !== undefined && /^\s*\n/.test(first);
  const endsLine = last !== undefined && /\n\s*$/.test(last);
  return normalizeSpaces(nodes, { start: !startsLine, end: !endsLine });
}
