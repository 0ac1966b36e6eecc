import { known } from '../model/known.js';
import { columnsOf, conditionsOn } from '../content/body.js';
import { kinds, kindSpec, type AssembledKind, type KindSpec, type NodeKind } from '../model/kinds.js';
import type { AnyNode, AssembledNode, ContentMark, ContentNode, TreeNode } from '../model/node.js';
import type { Notes } from '../number/notes.js';
import { conditionOn } from '../variation/stamps.js';
import { formulaFault } from './check-formula.js';
import type { Memo, Question } from './memo.js';

/** Something inside may differ between variants: a condition, a placement, a variable, a choice, ... */
export const varies = 1;
/** Something inside counts, can be referred to by its number, or refers: a section, a figure, a reference, ... */
export const notable = 2;
/** Something inside reads by what it leads to or by its page: a reference, a footnote, a chapter's title, ... */
export const linked = 4;
/** It holds something that carries a label: a section, a figure, ... */
export const labelled = 8;

/**
 * A node made ready for the engine: what it asks of a node again and again stands in fields, in one
 * layout for all nodes. It is content like any other; its members are those of the content schema and these.
 */
export interface PreparedNode extends TreeNode<NodeKind | AssembledKind> {
  readonly content: readonly PreparedNode[] | undefined;
  /** Names the node in its component; nodes that were written without an id are named by their position. */
  readonly id: string | null;
  readonly when: string | null;
  /** What it holds, itself included: the sum of `varies`, `notable`, `linked` and `labelled`. */
  readonly traits: number;
  /** How many nodes it is, with all inside. */
  readonly weight: number;
  /** Whether it may differ between variants where its own condition holds. */
  readonly variesInside: boolean;
  /** What it becomes, by what is read on the way; nodes of bodies only. */
  memo: Memo<Becomes> | undefined;
  /** The questions for the conditions on it, once they were asked. */
  asks: readonly Question[] | undefined;
  /** What a format wrote for it. */
  made: Written | undefined;
  /** What numbering found in it, as it stands on a page of a component. */
  notes: { readonly component: string; readonly notes: Notes } | undefined;
}

/** Markup that reads the same wherever a block stands in the same surroundings. */
export interface Written {
  /** The words and the form of page that it was written with. */
  readonly words: unknown;
  readonly form: unknown;
  /** What it shows by its place: the level and letters of its headings, its name on the page, and the numbers in it. */
  readonly level: number;
  readonly cases: string;
  readonly id: string;
  readonly numbers: string;
  readonly markup: string;
}

/** What a block becomes: itself, another node, what stands for it, or nothing. */
export type Becomes = PreparedNode | readonly PreparedNode[] | null;

/**
 * Makes a body ready. Ids are unique in it afterwards: a later block that repeats an id gets a name of its own.
 */
export function prepareBody(body: ContentNode): PreparedNode {
  const used = new Set<string>();
  let position = 0;
  const visit = (node: ContentNode): PreparedNode => {
    position += 1;
    let { attrs } = node;
    if (ownBits(node.type) & hasId) {
      const written = attrs?.['id'];
      let id = typeof written === 'string' && written !== '' ? written : `n${position}`;
      while (used.has(id)) id = `${id}.${position}`;
      used.add(id);
      if (id !== written) attrs = { ...attrs, id };
    }
    const { content } = node;
    let children: PreparedNode[] | undefined;
    if (content) {
      children = new Array<PreparedNode>(content.length);
      for (let at = 0; at < content.length; at += 1) children[at] = visit(known(content[at]));
    }
    return layOut(node.type, attrs, children, node.text, node.marks, ownTraits(node));
  };
  return visit(body);
}

/** A prepared node as it reads with other content; the node itself where that is the same. */
export function derive(node: PreparedNode, content: readonly PreparedNode[]): PreparedNode {
  if (content === node.content) return node;
  return layOut(node.type, node.attrs, content, node.text, node.marks, ownTraits(node));
}

/** A prepared inline node with other marks. */
export function deriveMarked(node: PreparedNode, marks: readonly ContentMark[]): PreparedNode {
  return layOut(node.type, node.attrs, node.content, node.text, marks, ownTraits({ ...node, marks }));
}

/** A prepared text node that reads otherwise. */
export function deriveText(node: PreparedNode, text: string): PreparedNode {
  return layOut(node.type, node.attrs, node.content, text, node.marks, node.traits & ~labelled);
}

/** A node of the engine's own making. */
export function makePrepared(
  type: NodeKind | AssembledKind,
  attrs?: Readonly<Record<string, unknown>>,
  content?: readonly PreparedNode[],
): PreparedNode {
  return layOut(type, attrs, content, undefined, undefined, ownTraits({ type, attrs }));
}

/** A text of the engine's own making. */
export function preparedText(text: string, marks?: readonly ContentMark[]): PreparedNode {
  return layOut('text', undefined, undefined, text, marks, marks ? ownTraits({ type: 'text', text, marks }) : 0);
}

function layOut(
  type: NodeKind | AssembledKind,
  attrs: Readonly<Record<string, unknown>> | undefined,
  content: readonly PreparedNode[] | undefined,
  text: string | undefined,
  marks: readonly ContentMark[] | undefined,
  own: number,
): PreparedNode {
  const id = attrs?.['id'];
  let traits = own;
  let inside = own;
  let weight = 1;
  if (content) {
    for (const child of content) {
      inside |= child.traits;
      weight += child.weight;
    }
    traits = inside;
  }
  // Most nodes have neither: this is asked for each node of all bodies.
  const condition = attrs && (attrs['when'] || attrs['stamp']) ? conditionOn({ attrs }) : null;
  if (condition !== null) traits |= varies;
  // What is asked of nearly every node in each build comes first, so that it lies together in memory.
  return {
    traits,
    when: condition,
    variesInside: (inside & varies) !== 0,
    memo: undefined,
    asks: undefined,
    type,
    attrs,
    content,
    text,
    marks,
    id: typeof id === 'string' ? id : null,
    weight,
    made: undefined,
    notes: undefined,
  };
}

/** The traits of a node by what it is itself, without its own condition. */
function ownTraits({ type, attrs, marks, text, content }: TreeNode<NodeKind | AssembledKind>): number {
  let traits = 0;
  if (marks) {
    for (const mark of marks) {
      if (mark.type === 'condition' || mark.type === 'stamp') traits |= varies;
      else if (mark.type === 'link' && String(mark.attrs?.['href']).includes('{')) traits |= varies;
      else if (mark.type === 'defined_term') traits |= notable;
    }
  }
  if (text !== undefined) return traits;
  traits |= ownBits(type) & ~hasId;
  // The built-in variables depend on the place; a chapter's title is filled in by the format.
  if (type === 'variable' && String(attrs?.['key']).startsWith('@')) traits |= notable | linked;
  // It is left with its title only, which is reported.
  if (type === 'section' && (content?.length ?? 0) < 2) traits |= varies;
  // It stands as it was written, which is reported.
  if (formulaFault({ type, attrs }) !== null) traits |= varies;
  if (type === 'table_grid') {
    const isLimited = columnsOf({ attrs }).some((column) => column.when);
    // Rows without cells go, whatever their conditions.
    if (isLimited || content?.some((row) => !row.content?.length)) traits |= varies;
  }
  return traits;
}

/** Set for kinds that carry an id. */
const hasId = 16;

/** What a kind says of itself, in bits. */
const bits: ReadonlyMap<string, number> = new Map(
  [
    ...Object.entries<KindSpec>(kinds),
    ...(['placed', 'missing'] as const).map((kind) => [kind, kindSpec(kind)] as const),
  ].map(([kind, spec]) => [
    kind,
    (spec.standsFor ? varies : 0) |
      (spec.landmark ? notable | labelled : 0) |
      (spec.linked ? notable | linked : 0) |
      (spec.shows ? notable : 0) |
      ('id' in spec.attributes ? hasId : 0),
  ]),
);

function ownBits(kind: string): number {
  const own = bits.get(kind);
  if (own === undefined) throw new Error(`There is no kind of content “${kind}”.`);
  return own;
}

/** The conditions on a node itself, and on the marks on it. */
export function conditionsOnSelf({ when, marks }: PreparedNode): readonly string[] {
  const found = when === null ? [] : [when];
  for (const mark of marks ?? []) {
    const limit = conditionOn(mark);
    if (limit !== null) found.push(limit);
  }
  return found;
}

/** The children of a prepared node; an empty list for leaves. */
export function partsOf(node: PreparedNode): readonly PreparedNode[] {
  return node.content ?? nothing;
}

const nothing: readonly PreparedNode[] = [];

/** What stands where blocks cannot be shown. */
export function missingBlock(): readonly PreparedNode[] {
  return [makePrepared('paragraph', undefined, [makePrepared('missing')])];
}

/** How many nodes some are, with all inside. */
export function weightOf(nodes: readonly PreparedNode[]): number {
  let weight = 0;
  for (const node of nodes) weight += node.weight;
  return weight;
}

/** The text of prepared content. */
export function plainText(node: PreparedNode): string {
  return node.text ?? partsOf(node).map(plainText).join('');
}

/** What was assembled of prepared content, as those after the engine take it. */
export function assembled(nodes: readonly PreparedNode[]): readonly AssembledNode[] {
  // What only stands for something else has been replaced; the compiler cannot see that.
  // eslint-disable-next-line @typescript-eslint/no-unsafe-type-assertion
  return nodes as readonly AssembledNode[];
}

/** A node of assembled content as the prepared one that it is where the engine has made it. */
export function asPrepared(node: AnyNode): PreparedNode | null {
  return isPrepared(node) ? node : null;
}

const isPrepared = (node: AnyNode): node is PreparedNode => 'traits' in node;

/** Whether there is anything of note in content, so far as it is known without looking inside. */
export function isNotable(node: AssembledNode): boolean {
  const prepared = asPrepared(node);
  return prepared === null || (prepared.traits & notable) !== 0;
}

/** The texts of all conditions in a body, repeats included, each with the id of its nearest block. */
export function conditionsIn(body: PreparedNode): readonly { readonly when: string; readonly place: string | null }[] {
  const found: { when: string; place: string | null }[] = [];
  const visit = (node: PreparedNode, place: string | null): void => {
    if ((node.traits & varies) === 0) return;
    const here = node.id ?? place;
    for (const when of conditionsOn(node)) found.push({ when, place: here });
    for (const child of partsOf(node)) visit(child, here);
  };
  visit(body, null);
  return found;
}
