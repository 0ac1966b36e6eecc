import { chosenFileOf } from '../../model/component.js';
import { recordingOf } from '../../model/recording.js';
import { known } from '../../model/known.js';
import { admonitionKinds, handlerFor, type AdmonitionKind, type ForEachAssembledBlock } from '../../model/kinds.js';
import { childrenOf, numberAttr, textAttr, type AssembledNode } from '../../model/node.js';
import { imageFileName } from '../file-names.js';
import { linkAddress } from '../labels.js';
import { isHeaderRow, tableCells } from '../table-cells.js';
import type { WritingPlace } from '../writing-place.js';
import { capabilities } from './capabilities.js';
import type { PagedWriter } from './page-writer.js';
import type { PagedBlock, PagedCell, PagedDefinition, PagedInline, PagedItem } from './paged-document.js';
import { pagedFormula, writeInline } from './write-inline.js';

/** Blocks and sections as data for the template. */
export function writeBlocks(
  writer: PagedWriter,
  nodes: readonly AssembledNode[],
  place: WritingPlace,
): readonly PagedBlock[] {
  return nodes.flatMap((node) => {
    const written = handlerFor(blockWriters, node.type)(writer, node, place);
    const stamp = textAttr(node, 'stamp');
    return stamp === null ? written : stamped(writer, stamp, written);
  });
}

/**
 * Blocks that bear a stamp. Those of a section bear it each by itself: headings, and what has pages of its own, stand in
 * nothing else.
 */
function stamped({ words }: PagedWriter, stamp: string, written: readonly PagedBlock[]): readonly PagedBlock[] {
  if (written.length === 0) return written;
  const word = words.stamps[stamp] ?? '';
  const hasHeadings = written.some(({ b }) => b === 'heading');
  if (!hasHeadings) return [{ b: 'stamped', stamp, word, c: written }];
  let said = word;
  return written.map((block): PagedBlock => {
    if (block.b === 'heading') return block;
    const own: PagedBlock = { b: 'stamped', stamp, word: said, c: [block] };
    said = '';
    return own;
  });
}

type BlockWriter = (writer: PagedWriter, node: AssembledNode, place: WritingPlace) => readonly PagedBlock[];

const inner: BlockWriter = (writer, node, place) => writeBlocks(writer, childrenOf(node), place);

const line: BlockWriter = (writer, node, place) => [
  { b: 'paragraph', ...writer.start(node, place), c: writeInline(writer, childrenOf(node), place) },
];

const blockWriters: ForEachAssembledBlock<BlockWriter> = {
  paragraph: line,
  title: line,
  caption: line,
  term: line,
  missing: (writer, node, place) => [{ b: 'paragraph', c: writeInline(writer, [node], place) }],
  code_block: (writer, node, place) => {
    const children = childrenOf(node);
    const at = writer.start(node, place);
    const isPlain = children.every(({ text, marks }) => text !== undefined && !marks?.length);
    if (!isPlain) return [{ b: 'lines', ...at, c: writeInline(writer, children, place) }];
    const text = children.map((child) => child.text ?? '').join('');
    return [{ b: 'code', ...at, language: textAttr(node, 'language') ?? '', text }];
  },
  section: (writer, node, place) => {
    const children = childrenOf(node);
    const body = children[0]?.type === 'title' ? children.slice(1) : children;
    const heading = writer.headingOf(writer.labelOf(node, place), place);
    return [heading, ...writeBlocks(writer, body, { ...place, level: place.level + 1 })];
  },
  bullet_list: (writer, node, place) => [
    { b: 'list', ...writer.start(node, place), items: items(writer, node, place) },
  ],
  ordered_list: (writer, node, place) => [
    {
      b: 'list',
      ...writer.start(node, place),
      start: numberAttr(node, 'start', 1),
      numerals: textAttr(node, 'style') ?? 'decimal',
      items: items(writer, node, place),
    },
  ],
  list_item: inner,
  steps: (writer, node, place) => [
    { b: 'list', ...writer.start(node, place), start: 1, numerals: 'step', items: items(writer, node, place) },
  ],
  step: inner,
  definition_list: (writer, node, place) => [
    {
      b: 'terms',
      ...writer.start(node, place),
      items: childrenOf(node).map((definition): PagedDefinition => {
        const parts = childrenOf(definition);
        const terms = parts.filter(({ type }) => type === 'term');
        const rest = parts.filter(({ type }) => type !== 'term');
        return {
          ...writer.start(definition, place),
          terms: terms.map((term) => writeInline(writer, childrenOf(term), place)),
          c: stampedItem(writer, definition, writeBlocks(writer, rest, place)),
        };
      }),
    },
  ],
  definition: inner,
  description: inner,
  table: (writer, node, place) => {
    const label = writer.labelOf(node, place);
    const lines = textAttr(node, 'lines');
    const grid = childrenOf(node).find(({ type }) => type === 'table_grid');
    const hasCaption = childrenOf(node).some(({ type }) => type === 'caption');
    return grid
      ? [
          {
            ...table(writer, grid, place),
            ...writer.landmark(node, place),
            caption: hasCaption ? writer.caption(label, place) : null,
            ...(lines === null ? {} : { lines }),
          },
        ]
      : [];
  },
  table_grid: (writer, node, place) => [table(writer, node, place)],
  table_row: inner,
  table_cell: inner,
  table_header: inner,
  figure: (writer, node, place) => {
    const content = childrenOf(node).filter(({ type }) => type !== 'caption');
    const hasCaption = content.length < childrenOf(node).length;
    return [
      {
        b: 'figure',
        ...writer.landmark(node, place),
        caption: hasCaption ? writer.caption(writer.labelOf(node, place), place) : null,
        c: writeBlocks(writer, content, place),
      },
    ];
  },
  picture: (_, node) => {
    const file = known(chosenFileOf(node));
    const share = numberAttr(node, 'width', 0);
    return [
      {
        b: 'picture',
        path: imageFileName(file),
        alt: textAttr(node, 'alt') ?? '',
        width: file.width ?? 0,
        height: file.height ?? 0,
        share,
      },
    ];
  },
  admonition: (writer, node, place) => {
    const kind = admonitionKinds.find((each) => each === textAttr(node, 'kind')) ?? ('note' satisfies AdmonitionKind);
    const [first, ...rest] = childrenOf(node);
    const titled = first?.type === 'title';
    return [
      {
        b: 'admonition',
        ...writer.start(node, place),
        kind,
        signal: writer.words.admonitions[kind],
        title: titled ? writeInline(writer, childrenOf(first), place) : [],
        c: writeBlocks(writer, titled ? rest : childrenOf(node), place),
      },
    ];
  },
  quotation: (writer, node, place) => [
    {
      b: 'quotation',
      ...writer.start(node, place),
      by: textAttr(node, 'attribution') ?? '',
      c: inner(writer, node, place),
    },
  ],
  example: (writer, node, place) => {
    const [first, ...rest] = childrenOf(node);
    const titled = first?.type === 'title';
    return [
      {
        b: 'example',
        ...writer.landmark(node, place),
        caption: titled ? writer.caption(writer.labelOf(node, place), place) : null,
        c: writeBlocks(writer, titled ? rest : childrenOf(node), place),
      },
    ];
  },
  // Footnotes stand at the foot of the page on which they are called.
  footnote: () => [],
  placed: (writer, node, place) => placed(writer, node, place),
  slot: (writer, node, place) => {
    // Paper cannot choose later: the stated candidate is the one.
    const stated = childrenOf(node).find((each) => textAttr(each, 'component') === textAttr(node, 'stated'));
    return stated ? placed(writer, stated, place) : [];
  },
  display_formula: (writer, node, place) => [
    { b: 'formula', ...writer.start(node, place), ...pagedFormula(textAttr(node, 'source') ?? '', true) },
  ],
  media: (writer, node, place) => {
    const address = linkAddress(textAttr(node, 'address') ?? '', capabilities);
    const file = chosenFileOf(node);
    const poster: readonly PagedBlock[] = file
      ? [
          {
            b: 'picture',
            path: imageFileName(file),
            alt: '',
            width: file.width ?? 0,
            height: file.height ?? 0,
            share: 0,
          },
        ]
      : [];
    // Paper shows where the recording is found, or what its file is called.
    const name = recordingOf(node)?.name ?? '';
    const found: readonly PagedInline[] =
      address === null ? (name === '' ? [] : [name]) : [{ i: 'link', href: address, c: [address] }];
    const shown: readonly PagedBlock[] = found.length === 0 ? [] : [{ b: 'paragraph', c: found }];
    return [{ b: 'group', ...writer.start(node, place), c: [...poster, ...shown, ...inner(writer, node, place)] }];
  },
};

function stampedItem(writer: PagedWriter, item: AssembledNode, c: readonly PagedBlock[]): readonly PagedBlock[] {
  const stamp = textAttr(item, 'stamp');
  return stamp === null ? c : stamped(writer, stamp, c);
}

function items(writer: PagedWriter, list: AssembledNode, place: WritingPlace): readonly PagedItem[] {
  return childrenOf(list).map((item) => ({
    ...(item.type === 'step' ? writer.landmark(item, place) : writer.start(item, place)),
    c: stampedItem(writer, item, writeBlocks(writer, childrenOf(item), place)),
  }));
}

function placed(writer: PagedWriter, node: AssembledNode, place: WritingPlace): readonly PagedBlock[] {
  const component = textAttr(node, 'component') ?? '';
  const within = { ...place, component, placements: [...place.placements, textAttr(node, 'placement') ?? ''] };
  const c = writeBlocks(writer, childrenOf(node), within);
  const start = writer.placedStart(node, within);
  return start.at === undefined ? c : [{ b: 'group', ...start, c: [] }, ...c];
}

function table(
  writer: PagedWriter,
  grid: AssembledNode,
  place: WritingPlace,
): Extract<PagedBlock, { readonly b: 'table' }> {
  const { rows: placed, widths, headRows } = tableCells(grid);
  const rows = childrenOf(grid);
  const cells = placed.flatMap((cellsOfRow, y) => {
    const row = known(rows[y]);
    // The row is led to by its first cell.
    let start = writer.start(row, place);
    const stamp = textAttr(row, 'stamp');
    return cellsOfRow.flatMap(({ cell, x, columns, rows: down }): PagedCell[] => {
      // The typesetter leaves holes empty.
      if (!cell) return [];
      const own = start;
      start = {};
      return [
        {
          ...own,
          ...(stamp === null ? {} : { stamp }),
          x,
          y,
          columns,
          rows: down,
          isHead: isHeaderRow(row) || cell.type === 'table_header',
          align: textAttr(cell, 'align') ?? '',
          c: writeBlocks(writer, childrenOf(cell), place),
        },
      ];
    });
  });
  return {
    b: 'table',
    caption: null,
    columns: widths.map((width) => width ?? 0),
    headRows,
    cells,
  };
}
