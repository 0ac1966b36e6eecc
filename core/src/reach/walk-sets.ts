import { limits, TooLargeError } from '../model/limits.js';
import { known } from '../model/known.js';
import { contentBody, type Component } from '../model/component.js';
import { handlerFor, kindSpec, type ForEachKind } from '../model/kinds.js';
import { paragraphOf, childrenOf, numberAttr, textAttr, type ContentNode } from '../model/node.js';
import type { OutlineEntry, Publication } from '../model/publication.js';
import type { Source } from '../model/source.js';
import {
  branchesOf,
  conditionOfTopic,
  ownCondition,
  ownSet,
  placedPart,
  remainsOf,
  type Part,
} from '../select/select.js';
import { candidatesOf } from '../select/slots.js';
import { selectGrid } from '../select/table-grid.js';
import type { VariantSet, VariantSets } from '../variation/variant-sets.js';

/** One piece of content and the variants that it is in, through all that it stands in. */
export interface Piece {
  readonly kind: 'block' | 'placement' | 'reference' | 'words';
  readonly node: ContentNode;
  /** The component whose body holds it. */
  readonly component: string;
  /** Where it is in and is not left empty. */
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
  /** Where it is in by the outline, whatever its topic says of itself. */
  readonly within: VariantSet;
  readonly pieces: readonly Piece[];
}

/** What selection by sets must know of the variants besides their profiles. */
export interface SetOptions {
  /** The variants that leave out sections of which nothing but the title is left. */
  readonly leavingOut?: VariantSet;
}

/**
 * The variants of every piece of a publication, for all variants in one pass, by the rules that choose the content of
 * one: through the conditions of entries, blocks, rows, columns, choices and words, and through placements of
 * any depth, with what is left empty taken away. Variables count as text, whatever they read.
 */
export function setsOfPublication(
  source: Source,
  sets: VariantSets,
  publication: Publication,
  options: SetOptions = {},
): readonly EntrySet[] {
  const walker = new SetWalker(source, sets, options);
  return walker.entries(publication.entries, sets.all, '', [publication.key]);
}

/** The same for one component as it stands alone. */
export function setsOfComponent(
  source: Source,
  sets: VariantSets,
  component: Component,
  options: SetOptions = {},
): readonly Piece[] {
  const walker = new SetWalker(source, sets, options);
  const topic = component.kind === 'topic' ? component.key : null;
  return walker.whole(component, sets.all, topic);
}

const tooLarge = 'A topic places so much, or so deep, that it cannot be told for all variants at once.';

interface Walked {
  readonly pieces: readonly Piece[];
  /** Where anything of it is left. */
  readonly remains: VariantSet;
}

type Open = { -readonly [Member in keyof Piece]: Piece[Member] };

/** Where content is walked. */
interface Around {
  readonly component: string;
  readonly topic: string | null;
  readonly pieces: Piece[];
}

class SetWalker {
  /** Placed content is walked once for each set of variants that it stands in. */
  private readonly walked = new Map<string, Walked>();
  private readonly stack: string[] = [];
  /** The outermost place of the stack that a placement closed a circle with. */
  private circle = Infinity;
  readonly leavingOut: VariantSet;

  constructor(
    readonly source: Source,
    readonly sets: VariantSets,
    { leavingOut }: SetOptions,
  ) {
    this.leavingOut = leavingOut ?? sets.none;
  }

  entries(
    entries: readonly OutlineEntry[],
    within: VariantSet,
    prefix: string,
    publications: readonly string[],
  ): readonly EntrySet[] {
    return entries.flatMap((entry) => {
      const id = prefix + entry.id;
      const topic = entry.topic === undefined ? undefined : this.source.library.component(entry.topic);
      const byOutline = this.sets.and(within, this.sets.holds(entry.when ?? null));
      const set = this.sets.and(byOutline, this.sets.holds(conditionOfTopic(entry, () => ownCondition(topic))));
      const own = (pieces: readonly Piece[]): EntrySet => ({ id, entry, set, within: byOutline, pieces });
      const below = this.entries(entry.entries ?? [], set, prefix, publications);
      if (entry.publication !== undefined) {
        const inner = this.source.publications.get(entry.publication);
        const nested =
          inner && !publications.includes(inner.key)
            ? this.entries(inner.entries, set, `${id}.`, [...publications, inner.key])
            : [];
        return [own([]), ...nested, ...below];
      }
      return [own(topic ? this.whole(topic, set, topic.key) : []), ...below];
    });
  }

  /** A component as it stands alone, or as a page. */
  whole(component: Component, within: VariantSet, topic: string | null): readonly Piece[] {
    const body = contentBody(component);
    return body ? this.body(component, '', childrenOf(body), ownSet(this.sets, body, within), topic).pieces : [];
  }

  /** What a placement shows. */
  placed(
    component: Component,
    section: string | null,
    withTitle: boolean,
    within: VariantSet,
    topic: string | null,
  ): Walked {
    const body = contentBody(component);
    const at = this.stack.indexOf(component.key);
    if (at >= 0) this.circle = Math.min(this.circle, at);
    const part = body && at < 0 ? placedPart(body, section, withTitle, paragraphOf) : null;
    if (!part) return { pieces: [], remains: this.sets.none };
    const set = part.conditions.reduce((sum, when) => this.sets.and(sum, this.sets.holds(when)), within);
    return this.body(component, JSON.stringify([section, withTitle]), part.nodes, set, topic);
  }

  private body(
    component: Component,
    part: string,
    nodes: readonly ContentNode[],
    within: VariantSet,
    topic: string | null,
  ): Walked {
    const key = `${component.key}@${component.revision} ${component.draft ?? ''} ${part} ${within.id} ${topic ?? ''}`;
    const known = this.walked.get(key);
    if (known) return known;
    const pieces: Piece[] = [];
    const { circle } = this;
    this.circle = Infinity;
    if (this.stack.length > limits.placementDepth) throw new TooLargeError(tooLarge);
    this.stack.push(component.key);
    const remains = this.anyOf(this.nodes(nodes, within, { component: component.key, topic, pieces }));
    this.stack.pop();
    const walked = { pieces, remains };
    // What closed a circle with something around it reads otherwise elsewhere.
    if (this.circle >= this.stack.length) this.walked.set(key, walked);
    this.circle = Math.min(this.circle, circle);
    return walked;
  }

  /** The nodes of a flow or line, each with where it remains. */
  nodes(nodes: readonly ContentNode[], within: VariantSet, around: Around): readonly Part<VariantSet>[] {
    return nodes.map((node) => ({ node, set: this.node(node, within, around) }));
  }

  private node(node: ContentNode, within: VariantSet, around: Around): VariantSet {
    const set = ownSet(this.sets, node, within);
    return handlerFor(setHandlers, node.type)(this, node, set, within, around);
  }

  /** Adds a piece; where it remains is known when its content was walked. */
  add(kind: Piece['kind'], node: ContentNode, set: VariantSet, within: VariantSet, around: Around): Open {
    const piece: Open = { kind, node, component: around.component, set, within };
    around.pieces.push(piece);
    return piece;
  }

  /** Adds the pieces of what is placed. */
  take(placed: readonly Piece[], pieces: Piece[]): void {
    if (pieces.length + placed.length > limits.pieces) throw new TooLargeError(tooLarge);
    for (const each of placed) pieces.push(each);
  }

  anyOf(parts: readonly Part<VariantSet>[]): VariantSet {
    return parts.reduce((sum, { set }) => this.sets.or(sum, set), this.sets.none);
  }
}

/** Walks a node, and tells where anything of it remains. */
type SetHandler = (
  walker: SetWalker,
  node: ContentNode,
  set: VariantSet,
  within: VariantSet,
  around: Around,
) => VariantSet;

/** Whatever holds others: where it remains follows from what its kind asks for. */
const container: SetHandler = (walker, node, set, within, around) => {
  const piece = kindSpec(node.type).counts ? walker.add('block', node, set, within, around) : null;
  const parts = walker.nodes(childrenOf(node), set, around);
  const remains = remainsOf(walker.sets, node.type, parts, set);
  if (piece) piece.set = remains;
  return remains;
};

/** A line of its own goes where all of it went; one that was written empty stays. */
const line: SetHandler = (walker, node, set, within, around) => {
  const piece = walker.add('block', node, set, within, around);
  const parts = walker.nodes(childrenOf(node), set, around);
  const remains = parts.length === 0 ? set : walker.anyOf(parts);
  piece.set = remains;
  return remains;
};

const heading: SetHandler = (walker, node, set, _within, around) => {
  walker.nodes(childrenOf(node), set, around);
  return set;
};

const reference: SetHandler = (walker, node, set, within, around) => {
  walker.add('reference', node, set, within, around);
  return set;
};

const mark: SetHandler = (_walker, _node, set) => set;

const setHandlers: ForEachKind<SetHandler> = {
  topic: container,
  fragment: container,
  phrase: container,
  paragraph: line,
  code_block: line,
  title: heading,
  caption: heading,
  term: heading,
  section: (walker, node, set, within, around) => {
    const { sets } = walker;
    const piece = walker.add('block', node, set, within, around);
    const parts = walker.nodes(childrenOf(node), set, around);
    const filled = walker.anyOf(parts.filter((part) => part.node.type !== 'title'));
    piece.set = sets.or(filled, sets.minus(set, walker.leavingOut));
    return piece.set;
  },
  bullet_list: container,
  ordered_list: container,
  list_item: container,
  steps: container,
  step: container,
  definition_list: container,
  definition: container,
  description: container,
  table: container,
  table_grid: (walker, node, set, _within, around) => {
    const selection = selectGrid(walker.sets, node, set);
    selection.cells.forEach(({ cell }, at) => {
      walker.nodes(childrenOf(cell), known(selection.cellSets[at]), around);
    });
    return selection.remains;
  },
  table_row: container,
  table_cell: container,
  table_header: container,
  figure: container,
  picture: reference,
  admonition: container,
  quotation: container,
  example: container,
  footnote: container,
  display_formula: container,
  media: container,
  choice: (walker, node, set, within, around) => {
    walker.add('block', node, set, within, around);
    const branches = branchesOf(walker.sets, node, set);
    return walker.anyOf(
      branches.map((branch) => ({
        node: branch.node,
        set: walker.anyOf(walker.nodes(childrenOf(branch.node), branch.set, around)),
      })),
    );
  },
  branch: container,
  slot: (walker, node, set, within, around) => {
    const piece = walker.add('block', node, set, within, around);
    const { topic, pieces } = around;
    const { library } = walker.source;
    const candidates = candidatesOf(library, node, topic === null ? undefined : library.component(topic));
    piece.set = walker.anyOf(
      candidates.map((candidate) => {
        const placed = walker.placed(candidate, null, false, set, topic);
        walker.take(placed.pieces, pieces);
        return { node, set: placed.remains };
      }),
    );
    return piece.set;
  },
  copied: (walker, node, set, _within, around) => walker.anyOf(walker.nodes(childrenOf(node), set, around)),
  placement: (walker, node, set, within, around) => {
    const section = textAttr(node, 'section');
    return place(walker, node, set, within, around, section, node.attrs?.['withTitle'] === true);
  },
  text: (walker, node, set, within, around) => {
    if (set !== within) walker.add('words', node, set, within, around);
    return node.text?.trim() === '' ? walker.sets.none : set;
  },
  line_break: mark,
  image: reference,
  variable: reference,
  inline_placement: (walker, node, set, within, around) => place(walker, node, set, within, around, null, false),
  cross_reference: reference,
  external_link: reference,
  index_marker: mark,
  formula: mark,
  footnote_reference: reference,
};

function place(
  walker: SetWalker,
  node: ContentNode,
  set: VariantSet,
  within: VariantSet,
  around: Around,
  section: string | null,
  withTitle: boolean,
): VariantSet {
  walker.add('placement', node, set, within, around);
  const key = textAttr(node, 'component') ?? '';
  const { library } = walker.source;
  const component =
    textAttr(node, 'mode') === 'held' ? library.revision(key, numberAttr(node, 'revision', 0)) : library.component(key);
  // A marker stands for what is not there.
  if (!component || !contentBody(component)) return set;
  const placed = walker.placed(component, section, withTitle, set, around.topic);
  walker.take(placed.pieces, around.pieces);
  return placed.remains;
}
