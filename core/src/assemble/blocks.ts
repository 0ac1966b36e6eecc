import type { ForEachBlockKind } from '../model/kinds.js';
import { textAttr } from '../model/node.js';
import { branchesOf, remainsOf } from '../select/select.js';
import { selectGrid } from '../select/table-grid.js';
import type { Assembly } from './assembly.js';
import { checkFormula, isUnwritten } from './check-formula.js';
import { filterGrid } from './filter-grid.js';
import { resolvedAddress } from './resolve-address.js';
import { placeBlocks, fillSlot } from './placements.js';
import { chosenFile } from './pictures.js';
import type { Place } from './place.js';
import { section } from './sections.js';
import { derive, makePrepared, missingBlock, partsOf, type Becomes, type PreparedNode } from './prepared.js';

/** What a block becomes whose own condition holds. */
type BlockHandler = (assembly: Assembly, node: PreparedNode, place: Place) => Becomes;

/** A container goes with the last of what it holds, as far as its kind does. */
const container: BlockHandler = (assembly, node, place) => {
  const content = assembly.flow(partsOf(node), place);
  if (content === node.content) return node;
  const parts = content.map((child) => ({ node: child, set: true }));
  return remainsOf(assembly.algebra, node.type, parts, true) ? derive(node, content) : null;
};

/** A line of its own goes where all of it went; one that was written empty stays. */
const line: BlockHandler = (assembly, node, place) => {
  const content = assembly.line(node, place);
  if (content === node.content || (content.length === 0 && !node.content)) return node;
  return content.length === 0 ? null : derive(node, content);
};

/** A heading stays empty, for what it heads. */
const heading: BlockHandler = (assembly, node, place) => derive(node, assembly.line(node, place));

const inBodies: BlockHandler = (_, node) => {
  throw new Error(`“${node.type}” does not stand among blocks.`);
};

export const blockHandlers: ForEachBlockKind<BlockHandler> = {
  topic: inBodies,
  fragment: inBodies,
  phrase: inBodies,
  paragraph: line,
  code_block: line,
  title: heading,
  caption: heading,
  term: heading,
  section,
  bullet_list: container,
  ordered_list: container,
  list_item: container,
  steps: container,
  step: container,
  definition_list: container,
  definition: container,
  description: container,
  table: container,
  table_grid: grid,
  table_row: inBodies,
  table_cell: inBodies,
  table_header: inBodies,
  figure: container,
  picture,
  admonition: container,
  quotation: container,
  example: container,
  footnote: container,
  choice,
  branch: inBodies,
  slot: fillSlot,
  copied: (assembly, node, place) => assembly.flow(partsOf(node), place),
  placement: placeBlocks,
  display_formula: (assembly, node, place) => {
    checkFormula(assembly, node, place);
    return isUnwritten(node) ? missingBlock() : node;
  },
  media,
};

function grid(assembly: Assembly, node: PreparedNode, place: Place): PreparedNode | null {
  const selection = selectGrid(assembly.algebra, node, true);
  if (!selection.remains) return null;
  const filtered = filterGrid(node, selection);
  // Cells never go, so spans hold.
  const rows = sameMap(partsOf(filtered), (row) =>
    derive(
      row,
      sameMap(partsOf(row), (cell) => derive(cell, assembly.flow(partsOf(cell), place))),
    ),
  );
  return derive(filtered, rows);
}

/** A recording with the values in its address, its poster and what is left of its transcript. */
function media(assembly: Assembly, node: PreparedNode, place: Place): PreparedNode {
  const poster = textAttr(node, 'poster');
  const chosen =
    poster === null ? null : chosenFile(assembly, { type: 'picture', attrs: { component: poster } }, place);
  const address = resolvedAddress(assembly, textAttr(node, 'address') ?? '', place);
  const attrs = { ...node.attrs, address, poster: null, ...(chosen ? { file: chosen.file } : {}) };
  return makePrepared('media', attrs, assembly.flow(partsOf(node), place));
}

function picture(assembly: Assembly, node: PreparedNode, place: Place): PreparedNode {
  const chosen = chosenFile(assembly, node, place);
  return chosen ? makePrepared('picture', { ...node.attrs, ...chosen }) : makePrepared('missing');
}

function choice(assembly: Assembly, node: PreparedNode, place: Place): readonly PreparedNode[] {
  const taken = branchesOf(assembly.algebra, node, true).find(({ set }) => set)?.node;
  return taken ? assembly.flow(partsOf(taken), place) : [];
}

function sameMap<T>(list: readonly T[], map: (item: T) => T): readonly T[] {
  let changed: T[] | null = null;
  list.forEach((item, index) => {
    const result = map(item);
    if (!changed && result !== item) changed = list.slice(0, index);
    changed?.push(result);
  });
  return changed ?? list;
}
