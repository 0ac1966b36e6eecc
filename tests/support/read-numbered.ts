import { childrenOf, textAttr, type AssembledNode } from '../../core/src/model/node.js';
import type { ImageFile } from '../../core/src/model/component.js';
import { anchorFor } from '../../core/src/number/anchors.js';
import { flattenPages, labelAt, type NumberedPage, type NumberedPublication } from '../../core/src/number/numbered.js';
import type { OraclePage } from './oracle/numbers.js';
import { plain } from './oracle/line.js';

/** Writes what the engine numbered in the way in which the oracle writes down what it worked out. */
export function readNumbered(publication: NumberedPublication): readonly OraclePage[] {
  return flattenPages(publication.pages).map((page) => {
    const { kind, number, title } = page.label;
    const lines: string[] = [];
    write(publication, page, page.blocks, { component: page.topic ?? '', placements: [] }, lines, 0);
    return { id: page.entry, lines: [`${page.entry} ${kind} ${number} ${line(title, leafOf)}`, ...lines] };
  });
}

export function readTitle(publication: NumberedPublication): string {
  return line(publication.title, () => '');
}

interface Place {
  readonly component: string;
  readonly placements: readonly string[];
}

const lineKinds = new Set(['paragraph', 'title', 'caption', 'term', 'code_block']);

function write(
  publication: NumberedPublication,
  page: NumberedPage,
  nodes: readonly AssembledNode[],
  at: Place,
  lines: string[],
  depth: number,
): void {
  for (const node of nodes) {
    const indent = ' '.repeat(depth);
    if (node.type === 'placed') {
      const placements = [...at.placements, textAttr(node, 'placement') ?? ''];
      const inner = { component: textAttr(node, 'component') ?? '', placements };
      write(publication, page, childrenOf(node), inner, lines, depth);
    } else if (lineKinds.has(node.type)) {
      lines.push(`${indent}${node.type}: ${line(childrenOf(node), (leaf) => read(publication, page, at, leaf))}`);
    } else if (node.type === 'picture') {
      lines.push(`${indent}picture ${digestIn(node)} ${textAttr(node, 'alt') ?? 'null'}`);
    } else if (node.type === 'missing') lines.push(`${indent}⟦missing⟧`);
    else {
      const label = labelAt(page, anchorFor(at.placements, textAttr(node, 'id') ?? ''));
      const cell = node.type === 'table_cell' || node.type === 'table_header';
      const spans = cell ? ` ${Number(node.attrs?.['colspan'] ?? 1)}x${Number(node.attrs?.['rowspan'] ?? 1)}` : '';
      lines.push(`${indent}${node.type}${label ? ` ${label.number}` : ''}${spans}`);
      write(publication, page, childrenOf(node), at, lines, depth + 1);
    }
  }
}

function read(publication: NumberedPublication, page: NumberedPage, at: Place, node: AssembledNode): string {
  if (node.type === 'variable' && textAttr(node, 'key') === '@chapter-title') return plain(page.chapter.title);
  if (node.type !== 'cross_reference') return leafOf(node);
  const found = publication.reference({ entry: page.entry, ...at }, node);
  return found ? `⟦→ ${found.label.number}|${plain(found.label.title)}⟧` : '⟦missing⟧';
}

function line(nodes: readonly AssembledNode[], leaf: (node: AssembledNode) => string): string {
  let text = '';
  let open = '';
  for (const node of nodes) {
    const marks = (node.marks ?? [])
      .filter(({ type }) => type !== 'condition')
      .map((mark) => `${mark.type}${mark.attrs?.['href'] === undefined ? '' : `=${String(mark.attrs['href'])}`}`)
      .join();
    if (marks !== open) text += `‹${marks}›`;
    open = marks;
    text += node.text ?? leaf(node);
  }
  return text;
}

function leafOf(node: AssembledNode): string {
  switch (node.type) {
    case 'line_break':
      return '⏎';
    case 'image':
      return `⟦image ${digestIn(node)}⟧`;
    case 'footnote_reference':
      return `⟦note ${textAttr(node, 'target') ?? ''}⟧`;
    case 'formula':
      return `⟦formula ${textAttr(node, 'source') ?? ''}⟧`;
    case 'missing':
      return '⟦missing⟧';
    default:
      return '';
  }
}

function digestIn(node: AssembledNode): string {
  return (node.attrs?.['file'] as ImageFile | undefined)?.digest ?? '';
}
