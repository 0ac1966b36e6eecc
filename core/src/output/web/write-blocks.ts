import { chosenFileOf } from '../../model/component.js';
import { recordingOf } from '../../model/recording.js';
import { asPrepared, labelled, linked, type Written } from '../../assemble/prepared.js';
import { topicHeading } from '../../assemble/sections.js';
import { known } from '../../model/known.js';
import { admonitionKinds, handlerFor, type AdmonitionKind, type ForEachAssembledBlock } from '../../model/kinds.js';
import { childrenOf, numberAttr, textAttr, type AssembledNode } from '../../model/node.js';
import { anchorFor } from '../../number/anchors.js';
import type { Label } from '../../number/notes.js';
import { positionOf } from '../../number/notes.js';
import { labelAt } from '../../number/numbered.js';
import { hasTitleCase, headingKey, headingNumber, headingTitle, lettersAt, linkAddress } from '../labels.js';
import { colouredCode } from '../looks/code-colours.js';
import { element, escapeHtml, startTag, type Attributes } from '../markup.js';
import type { PageWriter } from './page-writer.js';
import { isHeaderRow, tableCells, type CellPlace } from '../table-cells.js';
import { formulaMarkup } from '../write-formula.js';
import type { WritingPlace } from '../writing-place.js';
import { pictureTag, stampClass, writeInline } from './write-inline.js';

/** Blocks and sections as HTML. */
export function writeBlocks(writer: PageWriter, nodes: readonly AssembledNode[], place: WritingPlace): string {
  let html = '';
  for (const node of nodes) html += writeBlock(writer, node, place);
  return html;
}

/** The blocks of the page itself. */
export function writePageBlocks(writer: PageWriter, place: WritingPlace): string {
  const { blocks, notes } = writer.page;
  let html = '';
  for (let at = 0; at < blocks.length; at += 1) html += writeBlock(writer, known(blocks[at]), place, notes.starts[at]);
  return html;
}

/** @param start the position of its first landmark among those of the page, where it is known */
function writeBlock(writer: PageWriter, node: AssembledNode, place: WritingPlace, start?: number): string {
  const { tell } = writer.form;
  if (tell) return told(node, write(writer, node, place), tell(node, place.placements));
  const prepared = asPrepared(node);
  // What leads elsewhere or is led to reads otherwise on every page.
  if (!prepared || writer.wanted || (prepared.traits & linked) !== 0) return write(writer, node, place);
  const isLabelled = (prepared.traits & labelled) !== 0;
  const shown = isLabelled ? shownByPlace(writer, node, place, start) : nothingShown;
  if (!shown) return write(writer, node, place);
  const { made } = prepared;
  if (made && isAsWritten(made, writer, shown)) return made.markup;
  const markup = write(writer, node, place);
  // Asking for a sign puts the text in one piece, which is quicker to copy than one of many pieces.
  markup.charCodeAt(0);
  const { words, form } = writer;
  const { level, cases, id, numbers } = shown;
  prepared.made = { words, form, level, cases, id, numbers, markup };
  return markup;
}

/** What a block shows by its place. */
interface ShownByPlace {
  readonly level: number;
  /** How the letters of its headings are written. */
  readonly cases: string;
  /** Its name on the page. */
  readonly id: string;
  /** The numbers in it. */
  readonly numbers: string;
}

const nothingShown: ShownByPlace = { level: 0, cases: '', id: '', numbers: '' };

function isAsWritten(made: Written, { words, form }: PageWriter, shown: ShownByPlace): boolean {
  return (
    made.words === words &&
    made.form === form &&
    made.level === shown.level &&
    made.cases === shown.cases &&
    made.id === shown.id &&
    made.numbers === shown.numbers
  );
}

/** The markup of a block with what is said of it besides: its first tag says it; what has none of its own gets one. */
function told(node: AssembledNode, html: string, attributes: Attributes): string {
  const said = startTag('div', attributes);
  if (said === '<div>') return html;
  if (node.type === 'definition') return `${said}\n${html}</div>\n`;
  return html.replace(/^<[a-z][a-z0-9]*/, (start) => start + said.slice('<div'.length, -1));
}

/** All that a section shows by its place; null: not known of others. */
function shownByPlace(
  writer: PageWriter,
  node: AssembledNode,
  place: WritingPlace,
  start: number | undefined,
): ShownByPlace | null {
  if (node.type !== 'section' || place.elsewhere) return null;
  const anchor = occurrenceOf(node, place);
  const first = start ?? positionOf(writer.page.notes, anchor);
  if (first === undefined) return null;
  const { level } = place;
  return { level, cases: letterCases(writer, level), id: writer.id(anchor), numbers: numbersFrom(writer, first) };
}

/** The numbers of a section and of all in it, as they are shown. */
function numbersFrom({ publication, page }: PageWriter, first: number): string {
  const { landmarks } = page.notes;
  const depth = landmarks[first]?.depth ?? 0;
  let numbers = '';
  let at = first;
  do {
    const key = headingKey(publication.design, known(page.labels[at]));
    if (key !== '') numbers += `${at - first}${key}\0`;
    at += 1;
  } while ((landmarks[at]?.depth ?? 0) > depth);
  return numbers;
}

/** The level of a heading in the whole: pages of a site begin with the first level, wherever they stand. */
function levelInWhole({ page, form }: PageWriter, level: number): number {
  return page.depth + 1 + level - form.level(page.depth);
}

function letterCases(writer: PageWriter, level: number): string {
  const { design } = writer.publication;
  if (!hasTitleCase(design)) return '';
  const own = levelInWhole(writer, level);
  return [0, 1, 2].map((below) => (lettersAt(design, own + below) === 'title' ? 't' : '')).join('');
}

function write(writer: PageWriter, node: AssembledNode, place: WritingPlace): string {
  const html = handlerFor(blockWriters, node.type)(writer, node, place);
  const stamp = textAttr(node, 'stamp');
  return stamp === null || html === '' ? html : stamped(writer, node, html, stamp);
}

/** The markup of a block that bears a stamp: items and sections say it themselves, anything else stands in a group. */
function stamped({ words }: PageWriter, { type }: AssembledNode, html: string, stamp: string): string {
  const name = stampClass(stamp);
  const word = words.stamps[stamp] ?? '';
  const line = word === '' ? '' : `${element('p', { class: 'stamp-word' }, escapeHtml(word))}\n`;
  if (type === 'list_item' || type === 'step' || type === 'section')
    return html.replace(/^<(\w+)([^>]*)>/, (_, tag: string, rest: string) => {
      const [, said = ''] = /^<\w+([^>]*)>$/.exec(startTag(tag, { class: name })) ?? [];
      return `<${tag}${said}${rest}>${line}`;
    });
  // A group of a list of terms holds terms and their descriptions only (HTML standard, 4.4.9).
  return `${element('div', { class: name }, `\n${type === 'definition' ? '' : line}${html}`)}\n`;
}

type BlockWriter = (writer: PageWriter, node: AssembledNode, place: WritingPlace) => string;

const wrapped =
  (tag: string, name?: string): BlockWriter =>
  (writer, node, place) =>
    `${startTag(tag, { class: name, id: wantedId(writer, node, place) })}\n${writeBlocks(writer, childrenOf(node), place)}</${tag}>\n`;

const isGroup = (html: string): boolean => html.startsWith('<div');

const inLines: BlockWriter = (writer, node, place) => writeInline(writer, [node], place);

const blockWriters: ForEachAssembledBlock<BlockWriter> = {
  paragraph: (writer, node, place) =>
    `${element('p', { id: wantedId(writer, node, place) }, writeInline(writer, childrenOf(node), place))}\n`,
  code_block: (writer, node, place) => {
    const code = element('code', undefined, codeOf(writer, node, place));
    return `${element('pre', { id: wantedId(writer, node, place), ...writer.form.wide }, code)}\n`;
  },
  section: (writer, node, place) => {
    const label = labelOf(writer, node, place);
    const children = childrenOf(node);
    const body = children[0]?.type === 'title' ? children.slice(1) : children;
    const heading = writeHeading(writer, place.level, label, place);
    const inner = writeBlocks(writer, body, { ...place, level: place.level + 1 });
    return `${startTag('section', { id: occurrence(writer, node, place) })}\n${heading}${inner}</section>\n`;
  },
  bullet_list: wrapped('ul'),
  ordered_list: (writer, node, place) => {
    const start = numberAttr(node, 'start', 1);
    const style = textAttr(node, 'style') ?? 'decimal';
    const attrs = {
      id: wantedId(writer, node, place),
      start: start === 1 ? null : start,
      class: style === 'decimal' ? null : style,
    };
    return `${startTag('ol', attrs)}\n${writeBlocks(writer, childrenOf(node), place)}</ol>\n`;
  },
  list_item: (writer, node, place) =>
    `${element('li', { id: wantedId(writer, node, place) }, writeTight(writer, childrenOf(node), place))}\n`,
  steps: wrapped('ol', 'steps'),
  step: (writer, node, place) =>
    `${element('li', { id: occurrence(writer, node, place) }, writeTight(writer, childrenOf(node), place))}\n`,
  definition_list: (writer, node, place) => {
    const definitions = childrenOf(node).map((each) => writeBlock(writer, each, place));
    // Terms stand in groups all of them or none (HTML standard, 4.4.9).
    const inGroups = definitions.some(isGroup);
    const html = definitions.map((each) =>
      inGroups && each !== '' && !isGroup(each) ? element('div', undefined, `\n${each}`) + '\n' : each,
    );
    return `${startTag('dl', { id: wantedId(writer, node, place) })}\n${html.join('')}</dl>\n`;
  },
  definition: (writer, node, place) => {
    // What leads to a definition leads to its first term.
    const id = wantedId(writer, node, place);
    const [first, ...rest] = childrenOf(node);
    if (id === null || first?.type !== 'term') return writeBlocks(writer, childrenOf(node), place);
    const term = writeTerm(writer, first, id, place);
    const { tell } = writer.form;
    return (tell ? told(first, term, tell(first, place.placements)) : term) + writeBlocks(writer, rest, place);
  },
  term: (writer, node, place) => writeTerm(writer, node, null, place),
  description: (writer, node, place) => `${element('dd', undefined, writeTight(writer, childrenOf(node), place))}\n`,
  table: (writer, node, place) => {
    const label = labelOf(writer, node, place);
    const caption = childrenOf(node).find((child) => child.type === 'caption');
    const grid = childrenOf(node).find((child) => child.type === 'table_grid');
    const head = caption ? `${element('caption', undefined, writeCaption(writer, label, place))}\n` : '';
    const table = `<table>\n${head}${grid ? writeGrid(writer, grid, place) : ''}</table>\n`;
    const lines = textAttr(node, 'lines');
    const look = lines === null ? 'table' : `table lines-${lines}`;
    return `${element('div', { class: look, id: occurrence(writer, node, place), ...writer.form.wide }, `\n${table}`)}\n`;
  },
  table_grid: (writer, node, place) => writeGrid(writer, node, place),
  table_row: writeOutsideGrid,
  table_cell: writeOutsideGrid,
  table_header: writeOutsideGrid,
  figure: (writer, node, place) => {
    const label = labelOf(writer, node, place);
    const content = childrenOf(node).filter((child) => child.type !== 'caption');
    const caption = childrenOf(node).some((child) => child.type === 'caption')
      ? `${element('figcaption', undefined, writeCaption(writer, label, place))}\n`
      : '';
    const inner = `\n${writeBlocks(writer, content, place)}${caption}`;
    return `${element('figure', { id: occurrence(writer, node, place) }, inner)}\n`;
  },
  picture: (writer, node) => `${pictureTag(writer, node)}\n`,
  admonition: (writer, node, place) => {
    const kind = admonitionKinds.find((each) => each === textAttr(node, 'kind')) ?? ('note' satisfies AdmonitionKind);
    const [first, ...rest] = childrenOf(node);
    const titled = first?.type === 'title';
    const signal = `${element('p', { class: 'signal' }, escapeHtml(writer.words.admonitions[kind]))}\n`;
    const title = titled ? `${element('p', { class: 'title' }, writeInline(writer, childrenOf(first), place))}\n` : '';
    const inner = writeBlocks(writer, titled ? rest : childrenOf(node), place);
    // No landmark: a page has many.
    const attrs = { class: `admonition ${kind}`, role: 'note', id: wantedId(writer, node, place) };
    return `${element('div', attrs, `\n${signal}${title}${inner}`)}\n`;
  },
  quotation: (writer, node, place) => {
    const by = textAttr(node, 'attribution');
    const source = by ? `${element('footer', undefined, escapeHtml(by))}\n` : '';
    const inner = `\n${writeBlocks(writer, childrenOf(node), place)}${source}`;
    return `${element('blockquote', { id: wantedId(writer, node, place) }, inner)}\n`;
  },
  example: (writer, node, place) => {
    const label = labelOf(writer, node, place);
    const content = childrenOf(node);
    const titled = content[0]?.type === 'title';
    const caption = titled ? `${element('p', { class: 'title' }, writeCaption(writer, label, place))}\n` : '';
    const inner = `\n${caption}${writeBlocks(writer, titled ? content.slice(1) : content, place)}`;
    return `${element('div', { class: 'example', id: occurrence(writer, node, place) }, inner)}\n`;
  },
  // Footnotes stand at the end of the page, where they are called.
  footnote: () => '',
  placed: writePlaced,
  slot: (writer, node, place) => {
    const stated = textAttr(node, 'stated');
    if (!writer.form.capabilities.allCandidates) {
      const one = childrenOf(node).find((candidate) => textAttr(candidate, 'component') === stated);
      return one ? writePlaced(writer, one, place) : '';
    }
    const candidates = childrenOf(node).map((candidate) => {
      const hidden = textAttr(candidate, 'component') !== stated;
      return `${element('div', { hidden }, `\n${writePlaced(writer, candidate, place)}`)}\n`;
    });
    const attrs = { class: 'slot', 'data-slot': anchorFor(place.placements, textAttr(node, 'id') ?? '') };
    return `${element('div', attrs, `\n${candidates.join('')}`)}\n`;
  },
  title: inLines,
  caption: inLines,
  missing: inLines,
  display_formula: (writer, node, place) => {
    const formula = formulaMarkup(textAttr(node, 'source') ?? '', true);
    return `${element('div', { class: 'formula', id: wantedId(writer, node, place), ...writer.form.wide }, formula)}\n`;
  },
  media: (writer, node, place) => {
    const isAudio = textAttr(node, 'medium') === 'audio';
    const { form } = writer;
    const address = linkAddress(textAttr(node, 'address') ?? '', form.capabilities);
    const recording = recordingOf(node);
    const isCarried = recording && form.capabilities.carriesRecording(recording.mediaType);
    const played = isCarried ? form.recording(recording) : form.capabilities.playsRecordings ? address : null;
    if (played === null) return writeRecording(writer, node, address, place);
    const file = chosenFileOf(node);
    const poster = !isAudio && file ? form.picture(file) : null;
    const player = startTag(isAudio ? 'audio' : 'video', { controls: true, preload: 'none', src: played, poster });
    const transcript = writeBlocks(writer, childrenOf(node), place);
    const said = transcript === '' ? '' : `${element('figcaption', undefined, `\n${transcript}`)}\n`;
    const inner = `\n${player}</${isAudio ? 'audio' : 'video'}>\n${said}`;
    return `${element('figure', { class: 'media', id: wantedId(writer, node, place) }, inner)}\n`;
  },
};

/** A recording where it cannot be played: its picture, where it is found, and what is said in it. */
function writeRecording(writer: PageWriter, node: AssembledNode, address: string | null, place: WritingPlace): string {
  const file = chosenFileOf(node);
  const poster = file ? `${startTag('img', { src: writer.form.picture(file), alt: '' })}\n` : '';
  const name = recordingOf(node)?.name ?? '';
  const found = address === null ? escapeHtml(name) : element('a', { href: address }, escapeHtml(address));
  const where = found === '' ? '' : `${element('p', undefined, found)}\n`;
  const transcript = writeBlocks(writer, childrenOf(node), place);
  return `${element('div', { class: 'media', id: wantedId(writer, node, place) }, `\n${poster}${where}${transcript}`)}\n`;
}

/** A listing: in the colours of its language, where no part of it is marked or leads anywhere. */
function codeOf(writer: PageWriter, node: AssembledNode, place: WritingPlace): string {
  const children = childrenOf(node);
  const isPlain = children.every(({ text, marks }) => text !== undefined && !marks?.length);
  const language = textAttr(node, 'language') ?? '';
  const coloured =
    isPlain && language !== '' ? colouredCode(children.map(({ text }) => text).join(''), language) : null;
  return coloured ?? writeInline(writer, children, place);
}

/** The tags of headings, from the first level on. */
const headingTags = [1, 2, 3, 4, 5, 6].map((level) => ({ start: `<h${level}>`, end: `</h${level}>\n` }));

/** A heading; what is deeper than HTML's headings says its level otherwise (WAI-ARIA 1.2, “heading”). */
export function writeHeading(writer: PageWriter, level: number, label: Label, place: WritingPlace): string {
  const title = headingTitle(writer.publication.design, levelInWhole(writer, level), label.title);
  const text = writeCaption(writer, title === label.title ? label : { ...label, title }, place);
  const tags = headingTags[level - 1];
  if (tags) return tags.start + text + tags.end;
  return `${element('p', { class: 'heading', role: 'heading', 'aria-level': level }, text)}\n`;
}

/** A number and a title. */
function writeCaption(writer: PageWriter, label: Label, place: WritingPlace): string {
  const number = headingNumber(writer.publication.design, label);
  const before = number === '' ? '' : `${element('span', { class: 'number' }, escapeHtml(number))} `;
  return before + writeInline(writer, label.title, place);
}

function labelOf(writer: PageWriter, node: AssembledNode, place: WritingPlace): Label {
  const label = labelAt(writer.page, occurrenceOf(node, place));
  if (!label) throw new Error(`“${occurrenceOf(node, place)}” has no label on the page “${writer.page.name}”.`);
  return label;
}

function occurrenceOf(node: AssembledNode, { placements }: WritingPlace): string {
  return anchorFor(placements, textAttr(node, 'id') ?? '');
}

/** The HTML id of what carries a label; none where it stands on another page. */
function occurrence(writer: PageWriter, node: AssembledNode, place: WritingPlace): string | null {
  return place.elsewhere ? null : writer.id(occurrenceOf(node, place));
}

/** The HTML id of a block without a label: only where something leads there. */
function wantedId(writer: PageWriter, node: AssembledNode, place: WritingPlace): string | null {
  if (!writer.wanted || place.elsewhere) return null;
  const id = textAttr(node, 'id');
  if (id === null) return null;
  const anchor = anchorFor(place.placements, id);
  return writer.wanted.has(anchor) ? writer.id(anchor) : null;
}

function writeTerm(writer: PageWriter, term: AssembledNode, id: string | null, place: WritingPlace): string {
  return `${element('dt', { id }, writeInline(writer, childrenOf(term), place))}\n`;
}

/** The content of a list item or cell: one paragraph alone goes without its own element. */
function writeTight(writer: PageWriter, nodes: readonly AssembledNode[], place: WritingPlace): string {
  const [only] = nodes;
  const isBare = only?.type === 'paragraph' && textAttr(only, 'stamp') === null;
  if (nodes.length === 1 && isBare && wantedId(writer, only, place) === null) {
    const line = writeInline(writer, childrenOf(only), place);
    const { tell } = writer.form;
    return tell ? element('span', tell(only, place.placements), line) : line;
  }
  return writeBlocks(writer, nodes, place);
}

function writePlaced(writer: PageWriter, node: AssembledNode, place: WritingPlace): string {
  const component = textAttr(node, 'component') ?? '';
  const placements = [...place.placements, textAttr(node, 'placement') ?? ''];
  const inner: WritingPlace = { ...place, component, placements };
  return placedStart(writer, node, inner) + writeBlocks(writer, childrenOf(node), inner);
}

/** Where a reference to something placed without its title leads to. */
function placedStart(writer: PageWriter, node: AssembledNode, inner: WritingPlace): string {
  if (!writer.wanted || inner.elsewhere) return '';
  const anchor = anchorFor(inner.placements, topicHeading);
  const [only] = childrenOf(node);
  const hasHeading = only?.type === 'section' && textAttr(only, 'id') === topicHeading;
  return !hasHeading && writer.wanted.has(anchor) ? `${startTag('span', { id: writer.id(anchor) })}</span>` : '';
}

function writeGrid(writer: PageWriter, grid: AssembledNode, place: WritingPlace): string {
  const { rows: placed, widths, headRows } = tableCells(grid);
  const rows = childrenOf(grid);
  const cols = widths.map((width) => startTag('col', { class: width === null ? null : `w${Math.round(width)}` }));
  const columns = widths.some((width) => width !== null) ? `<colgroup>${cols.join('')}</colgroup>\n` : '';
  const written = placed.map((cells, at) => writeRow(writer, known(rows[at]), cells, place));
  const [head, body] = [written.slice(0, headRows), written.slice(headRows)];
  return (
    columns +
    (head.length > 0 ? `<thead>\n${head.join('')}</thead>\n` : '') +
    (body.length > 0 ? `<tbody>\n${body.join('')}</tbody>\n` : '')
  );
}

/** Whether there is in something what may not stand in header cells: headings, or the foot of a quotation. */
function isTooMuchForHead(node: AssembledNode): boolean {
  return childrenOf(node).some(
    (child) =>
      child.type === 'section' ||
      (child.type === 'quotation' && Boolean(textAttr(child, 'attribution'))) ||
      isTooMuchForHead(child),
  );
}

/** Rows and cells stand in grids, which write them. */
function writeOutsideGrid(_: PageWriter, { type }: AssembledNode): never {
  throw new Error(`“${type}” stands in no table.`);
}

function writeRow(writer: PageWriter, row: AssembledNode, placed: readonly CellPlace[], place: WritingPlace): string {
  const cells = placed.map((at) => writeCell(writer, row, at, place));
  const stamp = textAttr(row, 'stamp');
  const attrs = {
    class: stamp === null ? null : stampClass(stamp),
    id: wantedId(writer, row, place),
    ...writer.form.tell?.(row, place.placements),
  };
  return `${element('tr', attrs, `\n${cells.join('')}`)}\n`;
}

function writeCell(
  writer: PageWriter,
  row: AssembledNode,
  { cell, columns, rows }: CellPlace,
  place: WritingPlace,
): string {
  const spans = { rowspan: rows > 1 ? rows : null, colspan: columns > 1 ? columns : null };
  if (!cell) return `${element('td', spans, '')}\n`;
  const isInHead = isHeaderRow(row);
  const scope = isInHead ? 'col' : cell.type === 'table_header' ? 'row' : null;
  // Neither headings nor footers may stand in header cells (HTML Standard, “The th element”).
  const tag = scope === null || isTooMuchForHead(cell) ? 'td' : 'th';
  const align = textAttr(cell, 'align');
  const attrs = {
    ...spans,
    class: align === 'center' || align === 'right' ? align : null,
    scope: tag === 'th' ? scope : null,
    ...writer.form.tell?.(cell, place.placements),
  };
  return `${element(tag, attrs, writeTight(writer, childrenOf(cell), place))}\n`;
}
