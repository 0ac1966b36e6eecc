import { safeAddress } from '../../assemble/addresses.js';
import { topicHeading } from '../../assemble/sections.js';
import { admonitionKinds, handlerFor, type ForEachAssembledBlock } from '../../model/kinds.js';
import { childrenOf, numberAttr, textAttr, type AssembledNode } from '../../model/node.js';
import { recordingOf } from '../../model/recording.js';
import { anchorFor } from '../../number/anchors.js';
import type { Label } from '../../number/notes.js';
import { labelAt } from '../../number/numbered.js';
import { recordingFileName } from '../file-names.js';
import { headingNumber } from '../labels.js';
import { element } from '../markup.js';
import { codeFence, destination, escapeLineStart, escapeMarkdown } from './escape.js';
import { isHeaderRow, tableCells } from '../table-cells.js';
import type { WritingPlace } from '../writing-place.js';
import type { MarkdownWriter } from './page-writer.js';
import { imageOf, plainLeaf, stampWord, writeInline } from './write-inline.js';

/** Blocks and sections as CommonMark, each block apart from the next by an empty line. */
export function writeBlocks(writer: MarkdownWriter, nodes: readonly AssembledNode[], place: WritingPlace): string {
  return nodes
    .map((node) => writeBlock(writer, node, place))
    .filter((text) => text !== '')
    .join('\n\n');
}

/** A block, after the word of its stamp. */
function writeBlock(writer: MarkdownWriter, node: AssembledNode, place: WritingPlace): string {
  const text = handlerFor(blockWriters, node.type)(writer, node, place);
  const stamp = textAttr(node, 'stamp');
  // A definition is an entry of a list itself.
  return stamp === null || text === '' || node.type === 'definition' ? text : stampWord(writer, stamp, '\n\n') + text;
}

type BlockWriter = (writer: MarkdownWriter, node: AssembledNode, place: WritingPlace) => string;

const line = (writer: MarkdownWriter, nodes: readonly AssembledNode[], place: WritingPlace): string =>
  escapeLineStart(writeInline(writer, nodes, place).trim());

const inner: BlockWriter = (writer, node, place) => writeBlocks(writer, childrenOf(node), place);

const blockWriters: ForEachAssembledBlock<BlockWriter> = {
  paragraph: (writer, node, place) => anchorOf(writer, node, place) + line(writer, childrenOf(node), place),
  // A listing holds words only: what is no text stands in it as it reads.
  code_block: (writer, node, place) => {
    const code = childrenOf(node)
      .map((child) => plainLeaf(writer, child, place))
      .join('');
    return anchorLine(writer, node, place) + codeFence(code, textAttr(node, 'language') ?? '');
  },
  section: (writer, node, place) => {
    const label = labelOf(writer, node, place);
    const [first, ...rest] = childrenOf(node);
    const body = first?.type === 'title' ? rest : childrenOf(node);
    const start = place.elsewhere ? '' : anchorTag(anchorFor(place.placements, textAttr(node, 'id') ?? ''));
    const heading = writeHeading(writer, place.level, label, place, start);
    return [heading, writeBlocks(writer, body, { ...place, level: place.level + 1 })]
      .filter((each) => each !== '')
      .join('\n\n');
  },
  bullet_list: (writer, node, place) => anchorLine(writer, node, place) + list(writer, node, place, () => '- '),
  ordered_list: (writer, node, place) => {
    const start = numberAttr(node, 'start', 1);
    return anchorLine(writer, node, place) + list(writer, node, place, (at) => `${start + at}. `);
  },
  list_item: inner,
  steps: (writer, node, place) => anchorLine(writer, node, place) + list(writer, node, place, (at) => `${at + 1}. `),
  step: (writer, node, place) =>
    (place.elsewhere ? '' : `${anchorTag(occurrence(node, place))}\n\n`) + inner(writer, node, place),
  definition_list: inner,
  definition: (writer, node, place) => {
    const terms = childrenOf(node).filter(({ type }) => type === 'term');
    const rest = childrenOf(node).filter(({ type }) => type !== 'term');
    const named = terms.map((term) => `<strong>${writeInline(writer, childrenOf(term), place).trim()}</strong>`);
    const text = `${anchorOf(writer, node, place)}${named.join('<br>')}\n\n${writeBlocks(writer, rest, place)}`;
    return `- ${indented(text.trim(), 2)}`;
  },
  term: (writer, node, place) => line(writer, childrenOf(node), place),
  description: inner,
  table: (writer, node, place) => {
    const label = labelOf(writer, node, place);
    const caption = childrenOf(node).find(({ type }) => type === 'caption');
    const start = place.elsewhere ? '' : anchorTag(occurrence(node, place));
    const head = caption ? `${start}<strong>${writeCaption(writer, label, place)}</strong>` : start;
    const grid = childrenOf(node).find(({ type }) => type === 'table_grid');
    return [head, grid ? writeGrid(writer, grid, place) : ''].filter((each) => each !== '').join('\n\n');
  },
  table_grid: (writer, node, place) => writeGrid(writer, node, place),
  table_row: inner,
  table_cell: inner,
  table_header: inner,
  figure: (writer, node, place) => {
    const label = labelOf(writer, node, place);
    const content = childrenOf(node).filter(({ type }) => type !== 'caption');
    const isPictures = content.every(({ type }) => type === 'picture' || type === 'missing');
    const caption = childrenOf(node).some(({ type }) => type === 'caption') ? writeCaption(writer, label, place) : '';
    const start = place.elsewhere ? '' : anchorTag(occurrence(node, place));
    const shown = isPictures
      ? [start + content.map((each) => writeBlocks(writer, [each], place)).join(' ')]
      : [start, writeBlocks(writer, content, place)];
    return [...shown, caption].filter((each) => each !== '').join('\n\n');
  },
  picture: (writer, node) => imageOf(writer, node),
  caption: (writer, node, place) => line(writer, childrenOf(node), place),
  title: (writer, node, place) => line(writer, childrenOf(node), place),
  admonition: (writer, node, place) => {
    const kind = admonitionKinds.find((each) => each === textAttr(node, 'kind')) ?? 'note';
    const [first, ...rest] = childrenOf(node);
    const titled = first?.type === 'title';
    const signal = `<strong>${escapeMarkdown(writer.words.admonitions[kind])}</strong>`;
    const title = titled ? `<strong>${writeInline(writer, childrenOf(first), place).trim()}</strong>` : '';
    const body = writeBlocks(writer, titled ? rest : childrenOf(node), place);
    return quoted([anchorOf(writer, node, place) + signal, title, body].filter((each) => each !== '').join('\n\n'));
  },
  quotation: (writer, node, place) => {
    const by = textAttr(node, 'attribution');
    const text = [inner(writer, node, place), by ? escapeMarkdown(by) : ''].filter((each) => each !== '');
    return quoted(anchorLine(writer, node, place) + text.join('\n\n'));
  },
  example: (writer, node, place) => {
    const label = labelOf(writer, node, place);
    const [first, ...rest] = childrenOf(node);
    const titled = first?.type === 'title';
    const start = place.elsewhere ? '' : anchorTag(occurrence(node, place));
    const caption = titled ? `<strong>${writeCaption(writer, label, place)}</strong>` : '';
    const head = start + caption;
    return [head, writeBlocks(writer, titled ? rest : childrenOf(node), place)]
      .filter((each) => each !== '')
      .join('\n\n');
  },
  // Footnotes stand at the end of the page, where they are called.
  footnote: () => '',
  display_formula: (writer, node, place) =>
    anchorLine(writer, node, place) + codeFence(textAttr(node, 'source') ?? '', 'math'),
  media: (writer, node, place) => {
    const recording = recordingOf(node);
    const address = recording ? recordingFileName(recording) : (safeAddress(textAttr(node, 'address') ?? '') ?? '');
    const link = address === '' ? '' : `[${escapeMarkdown(recording?.name || address)}](${destination(address)})`;
    return [anchorOf(writer, node, place) + link, inner(writer, node, place)]
      .filter((each) => each !== '')
      .join('\n\n');
  },
  placed: writePlaced,
  slot: (writer, node, place) => {
    const stated = childrenOf(node).find((each) => textAttr(each, 'component') === textAttr(node, 'stated'));
    return stated ? writePlaced(writer, stated, place) : '';
  },
  missing: (writer) => escapeMarkdown(writer.words.missing),
};

/** A heading; levels that CommonMark has no sign for (4.2) are as deep as it goes. */
export function writeHeading(
  writer: MarkdownWriter,
  level: number,
  label: Label,
  place: WritingPlace,
  start = '',
): string {
  return `${'#'.repeat(Math.min(level, 6))} ${start}${writeCaption(writer, label, place)}`.trimEnd();
}

/** A number and a title. */
function writeCaption(writer: MarkdownWriter, label: Label, place: WritingPlace): string {
  const number = headingNumber(writer.publication.design, label);
  const title = writeInline(writer, label.title, place).trim();
  return [number === '' ? '' : escapeMarkdown(number), title].filter((each) => each !== '').join(' ');
}

function labelOf(writer: MarkdownWriter, node: AssembledNode, place: WritingPlace): Label {
  const label = labelAt(writer.page, occurrence(node, place));
  if (!label) throw new Error(`“${occurrence(node, place)}” has no label on the page “${writer.page.name}”.`);
  return label;
}

function occurrence(node: AssembledNode, { placements }: WritingPlace): string {
  return anchorFor(placements, textAttr(node, 'id') ?? '');
}

/** CommonMark gives nothing an id: HTML does (6.6). */
function anchorTag(anchor: string): string {
  return element('a', { id: anchor }, '');
}

/** The place that something leads to, where anything does. */
function anchorOf(writer: MarkdownWriter, node: AssembledNode, place: WritingPlace): string {
  const id = textAttr(node, 'id');
  if (!writer.wanted || place.elsewhere || id === null) return '';
  const anchor = anchorFor(place.placements, id);
  return writer.wanted.has(anchor) ? anchorTag(anchor) : '';
}

function anchorLine(writer: MarkdownWriter, node: AssembledNode, place: WritingPlace): string {
  const anchor = anchorOf(writer, node, place);
  return anchor === '' ? '' : `${anchor}\n\n`;
}

function list(
  writer: MarkdownWriter,
  node: AssembledNode,
  place: WritingPlace,
  marker: (at: number) => string,
): string {
  const items = childrenOf(node).map((item, at) => {
    const sign = marker(at);
    const text = anchorLine(writer, item, place) + writeBlock(writer, item, place);
    return `${sign}${indented(text, sign.length)}`.trimEnd();
  });
  // Another list right before would be the same list otherwise (5.3).
  return `<!-- -->\n\n${items.join('\n\n')}`;
}

function indented(text: string, by: number): string {
  return text.replace(/\n(?=[^\n])/g, `\n${' '.repeat(by)}`);
}

function quoted(text: string): string {
  return text
    .split('\n')
    .map((each) => `> ${each}`.trimEnd())
    .join('\n');
}

function writePlaced(writer: MarkdownWriter, node: AssembledNode, place: WritingPlace): string {
  const component = textAttr(node, 'component') ?? '';
  const placements = [...place.placements, textAttr(node, 'placement') ?? ''];
  const within: WritingPlace = { ...place, component, placements };
  const anchor = anchorFor(placements, topicHeading);
  const [only] = childrenOf(node);
  const hasHeading = only?.type === 'section' && textAttr(only, 'id') === topicHeading;
  const start = !hasHeading && !place.elsewhere && writer.wanted?.has(anchor) ? `${anchorTag(anchor)}\n\n` : '';
  return start + writeBlocks(writer, childrenOf(node), within);
}

/** Tables are HTML (CommonMark 0.31.2, 4.6): the language has none. Their cells hold CommonMark between empty lines. */
function writeGrid(writer: MarkdownWriter, grid: AssembledNode, place: WritingPlace): string {
  const { rows: placed } = tableCells(grid);
  const rows = childrenOf(grid).map((row, at) => {
    const cells = (placed[at] ?? []).map(({ cell, rows: down, columns }) => {
      const attrs = { rowspan: down > 1 ? down : null, colspan: columns > 1 ? columns : null };
      if (!cell) return element('td', attrs, '');
      const tag = isHeaderRow(row) || cell.type === 'table_header' ? 'th' : 'td';
      return element(tag, attrs, `\n\n${writeBlocks(writer, childrenOf(cell), place)}\n\n`);
    });
    return element('tr', undefined, `\n${cells.join('\n')}\n`);
  });
  return element('table', undefined, `\n${rows.join('\n')}\n`);
}
