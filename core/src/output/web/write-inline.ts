import { chosenFileOf } from '../../model/component.js';
import { known } from '../../model/known.js';
import { handlerFor, type ForEachAssembledInline, type MarkKind } from '../../model/kinds.js';
import { isLeftOut, textAttr, type AssembledNode, type ContentMark } from '../../model/node.js';
import { anchorFor } from '../../number/anchors.js';
import { plainText } from '../../number/plain-text.js';
import { linkAddress, referenceText } from '../labels.js';
import { element, escapeHtml, startTag } from '../markup.js';
import { formulaMarkup } from '../write-formula.js';
import type { PageWriter } from './page-writer.js';
import type { WritingPlace } from '../writing-place.js';

/** Inline content as HTML; neighbours with the same outer marks share their elements. */
export function writeInline(writer: PageWriter, nodes: readonly AssembledNode[], place: WritingPlace): string {
  let html = '';
  let open = noMarks;
  for (const node of nodes) {
    const marks = node.marks ? shownMarks(node.marks, place.inLink) : noMarks;
    let shared = 0;
    while (shared < open.length && shared < marks.length && equalMark(known(open[shared]), known(marks[shared]))) {
      shared += 1;
    }
    for (let index = open.length - 1; index >= shared; index -= 1) html += closeMark(writer, known(open[index]));
    for (let index = shared; index < marks.length; index += 1) html += openMark(writer, known(marks[index]));
    open = marks;
    if (node.text !== undefined) html += escapeHtml(node.text);
    else {
      // No link stands in a link.
      const isLinked = marks.some(({ type }) => type === 'link');
      html += handlerFor(inlineWriters, node.type)(writer, node, isLinked ? { ...place, inLink: true } : place);
    }
  }
  for (let index = open.length - 1; index >= 0; index -= 1) html += closeMark(writer, known(open[index]));
  return html;
}

type InlineWriter = (writer: PageWriter, node: AssembledNode, place: WritingPlace) => string;

const inlineWriters: ForEachAssembledInline<InlineWriter> = {
  text: (_, node) => escapeHtml(node.text ?? ''),
  line_break: () => '<br>',
  image: (writer, node) => pictureTag(writer, node),
  variable: (writer, node) =>
    textAttr(node, 'key') === '@chapter-title' ? escapeHtml(plainText(writer.page.chapter.title, writer.words)) : '',
  cross_reference: (writer, node, place) => {
    const { publication, page, words } = writer;
    const found = publication.reference({ entry: page.entry, ...place }, node);
    if (!found) return missingMarker(writer);
    const text = escapeHtml(referenceText(publication.design, found, words, writer.form.capabilities));
    if (place.inLink) return text;
    const onPage = found.page === page.name && found.anchor !== null && !place.elsewhere;
    const href = onPage ? `#${encodeURIComponent(writer.id(found.anchor ?? ''))}` : writer.form.address(found);
    return element('a', { class: 'reference', href }, text);
  },
  footnote_reference: (writer, node, place) => {
    if (place.elsewhere) return '';
    const anchor = anchorFor(place.placements, textAttr(node, 'target') ?? '');
    const number = writer.page.footnotes.get(anchor);
    if (number === undefined) return '';
    const id = writer.call(anchor) ? writer.id(`_call-${number}`) : null;
    // No link stands in a link; what leads back leads to the call all the same.
    if (place.inLink) return element('sup', { class: 'footnote', id }, `[${number}]`);
    const link = element('a', { id, href: `#${writer.id(`_note-${number}`)}`, ...writer.form.noteCall }, `[${number}]`);
    return element('sup', { class: 'footnote' }, link);
  },
  index_marker: () => '',
  missing: (writer) => missingMarker(writer),
  formula: (_, node) => formulaMarkup(textAttr(node, 'source') ?? '', false),
};

function missingMarker(writer: PageWriter): string {
  return element('span', { class: 'missing' }, escapeHtml(writer.words.missing));
}

/** The element of a picture or image. */
export function pictureTag(writer: PageWriter, node: AssembledNode): string {
  const file = known(chosenFileOf(node));
  const { width, height } = file;
  return startTag('img', {
    src: writer.form.picture(file),
    alt: textAttr(node, 'alt') ?? '',
    width: width && height ? width : null,
    height: width && height ? height : null,
  });
}

const noMarks: readonly ContentMark[] = [];

function shownMarks(marks: readonly ContentMark[], inLink: boolean | undefined): readonly ContentMark[] {
  const isHidden = (mark: ContentMark): boolean =>
    (mark.type === 'condition' && !isLeftOut(mark)) || (inLink === true && mark.type === 'link');
  return marks.some(isHidden) ? marks.filter((mark) => !isHidden(mark)) : marks;
}

function equalMark(a: ContentMark, b: ContentMark): boolean {
  return (
    a === b ||
    (a.type === b.type && ['href', 'kind', 'leftOut', 'stamp'].every((name) => textAttr(a, name) === textAttr(b, name)))
  );
}

/** The classes of what bears a stamp. */
export function stampClass(stamp: string): string {
  return `stamp stamp-${stamp}`;
}

type MarkWriter = (mark: ContentMark, writer: PageWriter) => readonly [string, string];

const tagged = (tag: string, name?: string): MarkWriter => {
  const pair = [startTag(tag, { class: name }), `</${tag}>`] as const;
  return () => pair;
};

const markWriters: Readonly<Record<MarkKind, MarkWriter>> = {
  // Shown only where what is left out is shown, too.
  condition: (mark) => [startTag('span', { 'data-left-out': textAttr(mark, 'leftOut') ?? '' }), '</span>'],
  stamp: (mark, { words }) => {
    const stamp = textAttr(mark, 'stamp') ?? '';
    const word = words.stamps[stamp] ?? '';
    const before = word === '' ? '' : `${element('span', { class: 'stamp-word' }, escapeHtml(word))} `;
    return [startTag('span', { class: stampClass(stamp) }) + before, '</span>'];
  },
  link: (mark, { form }) => {
    const href = linkAddress(textAttr(mark, 'href') ?? '', form.capabilities);
    // A refused address leads nowhere; its words stay.
    return href === null ? ['', ''] : [startTag('a', { href }), '</a>'];
  },
  strong: tagged('strong'),
  emphasis: tagged('em'),
  quote: (_, { words }) => words.quotes,
  defined_term: tagged('dfn'),
  cited_title: tagged('cite'),
  interface_label: tagged('b', 'label'),
  key: tagged('kbd'),
  code: (mark) => {
    const kind = textAttr(mark, 'kind') ?? 'code';
    return [startTag('code', { class: kind === 'code' ? null : kind }), '</code>'];
  },
  superscript: tagged('sup'),
  subscript: tagged('sub'),
};

function openMark(writer: PageWriter, mark: ContentMark): string {
  return handlerFor(markWriters, mark.type)(mark, writer)[0];
}

function closeMark(writer: PageWriter, mark: ContentMark): string {
  return handlerFor(markWriters, mark.type)(mark, writer)[1];
}
