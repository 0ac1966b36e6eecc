import { chosenFileOf } from '../../model/component.js';
import { known } from '../../model/known.js';
import { safeAddress } from '../../assemble/addresses.js';
import { handlerFor, type ForEachAssembledInline } from '../../model/kinds.js';
import { textAttr, type AssembledNode, type ContentMark } from '../../model/node.js';
import { anchorFor } from '../../number/anchors.js';
import { plainText } from '../../number/plain-text.js';
import { referenceText } from '../labels.js';
import { capabilities } from './capabilities.js';
import { destination, escapeMarkdown, inlineCode, inlineFormula } from './escape.js';
import type { WritingPlace } from '../writing-place.js';
import type { MarkdownWriter } from './page-writer.js';

/** Inline content as CommonMark. Marks that the language has no sign for go; their words stay. */
export function writeInline(writer: MarkdownWriter, nodes: readonly AssembledNode[], place: WritingPlace): string {
  let text = '';
  let around: string | null = null;
  for (let at = 0; at < nodes.length;) {
    const marks = shownMarks(known(nodes[at]));
    let end = at + 1;
    while (end < nodes.length && sameMarks(marks, shownMarks(known(nodes[end])))) end += 1;
    const stamp = stampOf(marks);
    if (stamp !== null && stamp !== around) text += stampWord(writer, stamp, ' ');
    around = stamp;
    text += writeRun(writer, nodes.slice(at, end), marks, place);
    at = end;
  }
  return text;
}

type Shown = 'code' | 'strong' | 'emphasis' | 'raised' | 'lowered' | 'quote' | 'link';
const shown: ReadonlyMap<string, Shown> = new Map([
  ['code', 'code'],
  ['key', 'code'],
  ['strong', 'strong'],
  ['interface_label', 'strong'],
  ['defined_term', 'emphasis'],
  ['emphasis', 'emphasis'],
  ['cited_title', 'emphasis'],
  ['superscript', 'raised'],
  ['subscript', 'lowered'],
  ['quote', 'quote'],
  ['link', 'link'],
]);

function shownMarks(node: AssembledNode): readonly ContentMark[] {
  return (node.marks ?? []).filter(({ type }) => shown.has(type) || type === 'stamp');
}

function stampOf(marks: readonly ContentMark[]): string | null {
  const mark = marks.find(({ type }) => type === 'stamp');
  return mark ? textAttr(mark, 'stamp') : null;
}

/** The word of a stamp, and what follows it; empty where it has none. */
export function stampWord({ words }: MarkdownWriter, stamp: string, after: string): string {
  const word = words.stamps[stamp] ?? '';
  return word === '' ? '' : `<strong>${escapeMarkdown(word)}</strong>${after}`;
}

function sameMarks(a: readonly ContentMark[], b: readonly ContentMark[]): boolean {
  return (
    a.length === b.length &&
    a.every((mark, at) => {
      const other = b[at];
      return (
        mark.type === other?.type && ['href', 'stamp'].every((name) => textAttr(mark, name) === textAttr(other, name))
      );
    })
  );
}

/** Neighbours under the same marks. Emphasis stands right beside words only: spaces at its edges stand outside (6.2). */
function writeRun(
  writer: MarkdownWriter,
  nodes: readonly AssembledNode[],
  marks: readonly ContentMark[],
  place: WritingPlace,
): string {
  const look = writer.publication.design.stamps[stampOf(marks) ?? ''];
  const stamped = { strong: look?.weight === 'bold', emphasis: look?.slant === 'italic' };
  const has = (kind: Shown): boolean =>
    ((kind === 'strong' || kind === 'emphasis') && stamped[kind]) || marks.some(({ type }) => shown.get(type) === kind);
  const isText = nodes.every(({ text }) => text !== undefined);
  const plain = nodes.map(({ text }) => text ?? '').join('');
  if (has('code') && isText) return plain.trim() === '' ? ' ' : linked(inlineCode(plain), marks);
  // No link stands in a link.
  const within = has('link') ? { ...place, inLink: true } : place;
  const inner = nodes
    .map((node) =>
      node.text !== undefined ? escapeMarkdown(node.text) : handlerFor(inlineWriters, node.type)(writer, node, within),
    )
    .join('');
  const [, before = '', core = '', after = ''] = /^(\s*)([\s\S]*?)(\s*)$/.exec(inner) ?? [];
  if (core === '') return inner;
  const quoted = has('quote') ? `${writer.words.quotes[0]}${core}${writer.words.quotes[1]}` : core;
  const raised = has('raised') ? `<sup>${quoted}</sup>` : quoted;
  const lowered = has('lowered') ? `<sub>${raised}</sub>` : raised;
  const emphasized = has('emphasis') ? `<em>${lowered}</em>` : lowered;
  const strong = has('strong') ? `<strong>${emphasized}</strong>` : emphasized;
  return `${before}${linked(strong, marks)}${after}`;
}

function linked(text: string, marks: readonly ContentMark[]): string {
  const link = marks.find(({ type }) => type === 'link');
  const href = link ? safeAddress(textAttr(link, 'href') ?? '') : null;
  return href === null ? text : `[${text}](${destination(href)})`;
}

type InlineWriter = (writer: MarkdownWriter, node: AssembledNode, place: WritingPlace) => string;

const inlineWriters: ForEachAssembledInline<InlineWriter> = {
  text: (_, node) => escapeMarkdown(node.text ?? ''),
  line_break: () => '<br>',
  image: (writer, node) => imageOf(writer, node),
  variable: (writer, node) =>
    textAttr(node, 'key') === '@chapter-title'
      ? escapeMarkdown(plainText(writer.page.chapter.title, writer.words))
      : '',
  formula: (_, node) => inlineFormula(textAttr(node, 'source') ?? ''),
  cross_reference: (writer, node, place) => {
    const { publication, page, words } = writer;
    const found = publication.reference({ entry: page.entry, ...place }, node);
    if (!found) return escapeMarkdown(words.missing);
    const text = escapeMarkdown(referenceText(publication.design, found, words, capabilities));
    return place.inLink || text === '' ? text : `[${text}](${destination(writer.addressOf(found))})`;
  },
  footnote_reference: (writer, node, place) => {
    const number = writer.page.footnotes.get(anchorFor(place.placements, textAttr(node, 'target') ?? ''));
    return number === undefined || place.elsewhere ? '' : `<sup>[\\[${number}\\]](<#_note-${number}>)</sup>`;
  },
  index_marker: () => '',
  missing: (writer) => escapeMarkdown(writer.words.missing),
};

/** An image or picture. */
export function imageOf(writer: MarkdownWriter, node: AssembledNode): string {
  const file = known(chosenFileOf(node));
  return `![${escapeMarkdown(textAttr(node, 'alt') ?? '')}](${destination(writer.pictureAddress(file))})`;
}

/** What an inline node reads where no markup can stand. */
export function plainLeaf(writer: MarkdownWriter, node: AssembledNode, place: WritingPlace): string {
  if (node.text !== undefined) return node.text;
  const { publication, page, words } = writer;
  switch (node.type) {
    case 'line_break':
      return '\n';
    case 'missing':
      return words.missing;
    case 'formula':
      return textAttr(node, 'source') ?? '';
    case 'variable':
      return textAttr(node, 'key') === '@chapter-title' ? plainText(page.chapter.title, words) : '';
    case 'footnote_reference': {
      const number = page.footnotes.get(anchorFor(place.placements, textAttr(node, 'target') ?? ''));
      return number === undefined ? '' : `[${number}]`;
    }
    case 'cross_reference': {
      const found = publication.reference({ entry: page.entry, ...place }, node);
      return found ? referenceText(publication.design, found, words, capabilities) : words.missing;
    }
    default:
      return '';
  }
}
