import { readFormula } from '../../formula/read-formula.js';
import { chosenFileOf } from '../../model/component.js';
import { known } from '../../model/known.js';
import { handlerFor, type ForEachAssembledInline, type MarkKind } from '../../model/kinds.js';
import { textAttr, type AssembledNode, type ContentMark } from '../../model/node.js';
import { anchorFor } from '../../number/anchors.js';
import type { ResolvedReference } from '../../number/numbered.js';
import { plainText } from '../../number/plain-text.js';
import { imageFileName } from '../file-names.js';
import { linkAddress, referenceText } from '../labels.js';
import type { WritingPlace } from '../writing-place.js';
import { capabilities } from './capabilities.js';
import type { PagedWriter } from './page-writer.js';
import type { PagedFormula, PagedInline } from './paged-document.js';
import { placeName } from './place-name.js';

/** Inline content as data; neighbours with the same outer marks share them. */
export function writeInline(
  writer: PagedWriter,
  nodes: readonly AssembledNode[],
  place: WritingPlace,
): readonly PagedInline[] {
  return writeRun(writer, nodes, 0, place);
}

/** @param depth how many of the marks, from the outermost, are around already */
function writeRun(
  writer: PagedWriter,
  nodes: readonly AssembledNode[],
  depth: number,
  place: WritingPlace,
): readonly PagedInline[] {
  const written: PagedInline[] = [];
  for (let at = 0; at < nodes.length;) {
    const node = known(nodes[at]);
    const mark = node.marks?.[depth];
    if (!mark) {
      const piece = node.text ?? handlerFor(inlineWriters, node.type)(writer, node, place);
      if (piece !== null && piece !== '') written.push(piece);
      at += 1;
      continue;
    }
    let end = at + 1;
    while (end < nodes.length && equalMark(mark, nodes[end]?.marks?.[depth])) end += 1;
    const inner = mark.type === 'link' ? { ...place, inLink: true } : place;
    const c = writeRun(writer, nodes.slice(at, end), depth + 1, inner);
    if (c.length > 0) written.push(...handlerFor(markWriters, mark.type)(mark, c, writer, place));
    at = end;
  }
  return joined(written);
}

/** Neighbouring strings in one piece: the typesetter joins no words across pieces that hyphenation would need. */
function joined(pieces: readonly PagedInline[]): readonly PagedInline[] {
  const all: PagedInline[] = [];
  for (const piece of pieces) {
    const last = all.at(-1);
    if (typeof piece === 'string' && typeof last === 'string') all[all.length - 1] = last + piece;
    else all.push(piece);
  }
  return all;
}

function equalMark(a: ContentMark, b: ContentMark | undefined): boolean {
  return (
    b !== undefined &&
    a.type === b.type &&
    textAttr(a, 'href') === textAttr(b, 'href') &&
    textAttr(a, 'kind') === textAttr(b, 'kind') &&
    textAttr(a, 'when') === textAttr(b, 'when') &&
    textAttr(a, 'stamp') === textAttr(b, 'stamp')
  );
}

type InlineWriter = (writer: PagedWriter, node: AssembledNode, place: WritingPlace) => PagedInline | null;

const inlineWriters: ForEachAssembledInline<InlineWriter> = {
  text: (_, node) => node.text ?? '',
  line_break: () => ({ i: 'break' }),
  image: (_, node) => {
    const file = known(chosenFileOf(node));
    return {
      i: 'image',
      path: imageFileName(file),
      alt: textAttr(node, 'alt') ?? '',
      width: file.width ?? 0,
      height: file.height ?? 0,
    };
  },
  variable: (writer, node) =>
    textAttr(node, 'key') === '@chapter-title' ? plainText(writer.page.chapter.title, writer.words) : null,
  cross_reference: (writer, node, place) => {
    const { publication, page, words } = writer;
    const found = publication.reference({ entry: page.entry, ...place }, node);
    if (!found) return { i: 'missing', text: words.missing };
    if (!writer.holds(found.page)) return outside(writer, found);
    const to = placeName(found);
    if (found.form === 'page') return { i: 'page', to, before: words.page };
    const text = referenceText(publication.design, found, words, capabilities);
    if (text === '') return null;
    return place.inLink ? text : { i: 'reference', to, c: [text] };
  },
  footnote_reference: (writer, node, place) => {
    if (place.elsewhere) return null;
    const anchor = anchorFor(place.placements, textAttr(node, 'target') ?? '');
    const found = writer.page.notes.footnotes.get(anchor);
    if (!writer.page.footnotes.has(anchor) || !found) return null;
    const at = `${placeName({ page: writer.page.name, anchor })} note`;
    if (writer.called.has(anchor)) return { i: 'again', note: at };
    writer.called.add(anchor);
    const c = writer.noteBlocks(found);
    // What leads to the footnote as a block leads into it.
    const start = writer.wantedAt(anchor, place);
    return { i: 'footnote', at, c: start.at === undefined ? c : [{ b: 'group', ...start, c }] };
  },
  index_marker: () => null,
  missing: ({ words }) => ({ i: 'missing', text: words.missing }),
  formula: (_, node) => ({ i: 'formula', ...pagedFormula(textAttr(node, 'source') ?? '', false) }),
};

/** A formula as it is drawn, on a line of its own or in one. */
export function pagedFormula(source: string, block: boolean): PagedFormula {
  return { source, elements: readFormula(source, block).elements };
}

/** A reference out of a part of a publication: it says in which part its end stands. */
function outside({ publication, words, part }: PagedWriter, found: ResolvedReference): PagedInline {
  const form = found.form === 'page' ? 'number-title' : found.form;
  const text = referenceText(publication.design, { ...found, form }, words, capabilities);
  const around = part?.titleAround(found.page) ?? '';
  // What leads to the part itself names it.
  if (around.endsWith(text)) return around;
  return text.includes(around) ? text : `${text} (${around})`;
}

type MarkWriter = (
  mark: ContentMark,
  c: readonly PagedInline[],
  writer: PagedWriter,
  place: WritingPlace,
) => readonly PagedInline[];

const marked =
  (i: 'strong' | 'emphasis' | 'term' | 'cited' | 'label' | 'key' | 'superscript' | 'subscript'): MarkWriter =>
  (_, c) => [{ i, c }];

const markWriters: Readonly<Record<MarkKind, MarkWriter>> = {
  condition: (_, c) => c,
  stamp: (mark, c, { words }) => {
    const stamp = textAttr(mark, 'stamp') ?? '';
    return [{ i: 'stamped', stamp, word: words.stamps[stamp] ?? '', c }];
  },
  link: (mark, c, _, place) => {
    const href = linkAddress(textAttr(mark, 'href') ?? '', capabilities);
    // A refused address leads nowhere; its words stay.
    return href === null || place.inLink ? c : [{ i: 'link', href, c }];
  },
  strong: marked('strong'),
  emphasis: marked('emphasis'),
  quote: (_, c, { words }) => [words.quotes[0], ...c, words.quotes[1]],
  defined_term: marked('term'),
  cited_title: marked('cited'),
  interface_label: marked('label'),
  key: marked('key'),
  code: (mark, c) => [{ i: 'code', kind: textAttr(mark, 'kind') ?? 'code', c }],
  superscript: marked('superscript'),
  subscript: marked('subscript'),
};
