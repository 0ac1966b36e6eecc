import type { Source } from '../assemble/assemble.js';
import { columnsOf } from '../content/body.js';
import { childrenOf, isInlineContainer, numberAttr, textAttr, type ContentNode } from '../content/node.js';
import { contentBody, type Component } from '../library/component.js';
import type { OutlineEntry, Publication } from '../publication/publication.js';
import type { VariantSet, VariantSets } from '../variation/variant-sets.js';
import { placeCells } from '../assemble/filter-table.js';

/** One piece of content and the variants that it is in, through all that it stands in. */
export interface Piece {
  readonly kind: 'block' | 'placement' | 'reference' | 'words';
  readonly node: ContentNode;
  /** The component whose body holds it. */
  readonly component: string;
  readonly set: VariantSet;
  /** What it stands in, before its own condition. */
  readonly within: VariantSet;
}

/** An outline entry, the variants that it is in, and the content of its topic. */
export interface EntrySet {
  /** As in an assembled publication: unique also where publications stand in publications. */
  readonly id: string;
  readonly entry: OutlineEntry;
  readonly set: VariantSet;
  readonly pieces: readonly Piece[];
}

const references = new Set(['variable', 'cross_reference', 'external_link', 'image', 'picture', 'footnote_reference']);

/**
 * The variants of every piece of a publication, for all variants in one pass: through the conditions of
 * entries, blocks, table columns, choices and words, and through placements of any depth. What filtering
 * leaves empty is not taken away here; a piece is in where its conditions and those around it hold.
 */
export function setsOfPublication(source: Source, sets: VariantSets, publication: Publication): readonly EntrySet[] {
  const walker = new SetWalker(source, sets);
  return walker.entries(publication.entries, sets.all, '', [publication.key]);
}

/** The same for one component as it stands alone. */
export function setsOfComponent(source: Source, sets: VariantSets, component: Component): readonly Piece[] {
  return new SetWalker(source, sets).component(component, sets.all);
}

class SetWalker {
  /** Placed content is walked once for each set of variants that it stands in. */
  private readonly walked = new Map<string, readonly Piece[]>();
  private readonly stack: string[] = [];

  constructor(
    private readonly source: Source,
    private readonly sets: VariantSets,
  ) {}

  entries(
    entries: readonly OutlineEntry[],
    within: VariantSet,
    prefix: string,
    publications: readonly string[],
  ): readonly EntrySet[] {
    return entries.flatMap((entry) => {
      const id = prefix + entry.id;
      const set = this.sets.and(within, this.sets.of(entry.when ?? null));
      if (entry.publication !== undefined) {
        const inner = this.source.publications.get(entry.publication);
        const below =
          inner && !publications.includes(inner.key)
            ? this.entries(inner.entries, set, `${id}.`, [...publications, inner.key])
            : [];
        return [
          { id, entry, set, pieces: [] },
          ...below,
          ...this.entries(entry.entries ?? [], set, `${id}.`, publications),
        ];
      }
      const topic = entry.topic === undefined ? undefined : this.source.library.component(entry.topic);
      const pieces = topic ? this.component(topic, set) : [];
      return [{ id, entry, set, pieces }, ...this.entries(entry.entries ?? [], set, prefix, publications)];
    });
  }

  component(component: Component, within: VariantSet): readonly Piece[] {
    const body = contentBody(component);
    if (!body || this.stack.includes(component.key)) return [];
    const key = `${component.key}@${component.revision}:${within.id}`;
    const known = this.walked.get(key);
    if (known) return known;
    const pieces: Piece[] = [];
    this.stack.push(component.key);
    this.nodes(childrenOf(body), within, component.key, pieces);
    this.stack.pop();
    this.walked.set(key, pieces);
    return pieces;
  }

  private nodes(nodes: readonly ContentNode[], within: VariantSet, component: string, pieces: Piece[]): void {
    for (const node of nodes) this.node(node, within, component, pieces);
  }

  private node(node: ContentNode, within: VariantSet, component: string, pieces: Piece[]): void {
    const { sets } = this;
    let set = within;
    for (const mark of node.marks ?? []) {
      if (mark.type === 'condition') set = sets.and(set, sets.of(textAttr(mark, 'when')));
    }
    set = sets.and(set, sets.of(textAttr(node, 'when')));
    const add = (kind: Piece['kind']): void => void pieces.push({ kind, node, component, set, within });
    if (node.text !== undefined) {
      if (set !== within) add('words');
      return;
    }
    if (node.type === 'placement' || node.type === 'inline_placement') {
      add('placement');
      const placed = this.placed(node);
      if (placed) for (const piece of this.component(placed, set)) pieces.push(piece);
      return;
    }
    if (references.has(node.type)) {
      add('reference');
      return;
    }
    if (node.type === 'choice') {
      add('block');
      this.choice(node, set, component, pieces);
      return;
    }
    if (node.type === 'table_grid') {
      this.grid(node, set, component, pieces);
      return;
    }
    if (isBlock(node.type)) add('block');
    this.nodes(childrenOf(node), set, component, pieces);
  }

  private placed(node: ContentNode): Component | undefined {
    const key = textAttr(node, 'component') ?? '';
    const { library } = this.source;
    return textAttr(node, 'mode') === 'held'
      ? library.revision(key, numberAttr(node, 'revision', 0))
      : library.component(key);
  }

  /** A branch is in where its condition holds and that of no branch before it does. */
  private choice(node: ContentNode, within: VariantSet, component: string, pieces: Piece[]): void {
    let left = within;
    for (const branch of childrenOf(node)) {
      const set = this.sets.and(left, this.sets.of(textAttr(branch, 'when')));
      this.nodes(childrenOf(branch), set, component, pieces);
      left = this.sets.minus(left, set);
    }
  }

  /** A cell is in where its row is and any of the columns that it covers. */
  private grid(node: ContentNode, within: VariantSet, component: string, pieces: Piece[]): void {
    const rows = childrenOf(node);
    const columns = columnsOf(node);
    const rowSets = rows.map((row) => this.sets.and(within, this.sets.of(textAttr(row, 'when'))));
    for (const { cell, row, column, rowspan, colspan } of placeCells(rows)) {
      const inRows = rowSets.slice(row, row + rowspan).reduce((sum, set) => this.sets.or(sum, set), this.sets.none);
      let inColumns = this.sets.none;
      for (let at = column; at < column + colspan; at += 1) {
        inColumns = this.sets.or(inColumns, this.sets.of(columns[at]?.when ?? null));
      }
      this.nodes(childrenOf(cell), this.sets.and(inRows, inColumns), component, pieces);
    }
  }
}

/** Blocks that readers see as one thing each; what only holds others together does not count. */
function isBlock(type: string): boolean {
  return isInlineContainer(type) ? type === 'paragraph' || type === 'code_block' : countedContainers.has(type);
}

const countedContainers = new Set([
  'section',
  'list_item',
  'step',
  'definition',
  'table',
  'figure',
  'admonition',
  'example',
  'footnote',
  'slot',
]);
