import { bothConditions, conditionOn, parseCondition, printCondition, simplify, type Condition } from '@allomorph/core';
import { Fragment, type Node, type ResolvedPos } from 'prosemirror-model';
import { NodeSelection, type Command, type EditorState } from 'prosemirror-state';
import { cursorNear, depthOf, limited } from './places';
import { nodeType } from './schema-types';
import { turned } from './turn-into';

/** What is done with choices: made of blocks, their branches added, ordered and taken away, and taken apart again. */

const emptyBranch = (when: string | null = null): Node =>
  nodeType('branch').create({ when }, nodeType('paragraph').create());

/**
 * The blocks at the selection become a choice. Neighbours that share a condition are one branch, which has it; what has none
 * is the other case. Blocks without conditions are one branch, and there is an empty one beside it.
 */
export const makeChoice: Command = (state, dispatch) => {
  const found = turned(state);
  if (!found) return false;
  const { blocks, from, to, parent, index } = found;
  const isEmpty = blocks.every((block) => block.isTextblock && block.content.size === 0);
  const groups: { readonly when: string | null; readonly blocks: Node[] }[] = [];
  for (const block of blocks) {
    const when = (block.attrs['when'] as string | null | undefined) ?? null;
    const last = groups.at(-1);
    const bare = when === null ? block : block.type.create({ ...block.attrs, when: null }, block.content, block.marks);
    if (last?.when === when) last.blocks.push(bare);
    else groups.push({ when, blocks: [bare] });
  }
  const branches = groups.map((group) => nodeType('branch').create({ when: group.when }, group.blocks));
  if (branches.length === 1) branches.push(emptyBranch());
  if (isEmpty) branches.splice(0, branches.length, emptyBranch(), emptyBranch());
  const choice = nodeType('choice').createChecked(null, branches);
  if (!parent.canReplaceWith(index, index + blocks.length, choice.type)) return false;
  const tr = state.tr.replaceWith(from, to, choice);
  dispatch?.(cursorNear(tr, from + 1));
  return true;
};

interface FoundBranch {
  readonly choice: Node;
  /** Where the choice begins. */
  readonly at: number;
  readonly branch: Node;
  readonly index: number;
  /** Where the branch begins. */
  readonly from: number;
}

/** The branch that the selection stands in. */
function branchAt({ selection }: EditorState): FoundBranch | null {
  const { $from } = selection;
  const depth = depthOfBranch($from, selection instanceof NodeSelection ? selection.node : null);
  if (depth === null) return null;
  const index = $from.index(depth);
  const choice = $from.node(depth);
  const branch = choice.maybeChild(index);
  if (!branch) return null;
  return { choice, at: $from.before(depth), branch, index, from: $from.posAtIndex(index, depth) };
}

/** The depth of the nearest choice around a position; null: there is none, or it is selected itself. */
function depthOfBranch($from: ResolvedPos, selected: Node | null): number | null {
  const depth = depthOf($from, 'choice');
  return depth < 0 || selected?.type.name === 'choice' ? null : depth;
}

export function isInChoice(state: EditorState): boolean {
  return branchAt(state) !== null;
}

/** A new branch behind the one at the cursor, but before the other case. */
export const addBranch: Command = (state, dispatch) => {
  const found = branchAt(state);
  if (!found) return false;
  const { branch, from } = found;
  const isOther = branch.attrs['when'] === null && found.index === found.choice.childCount - 1;
  const place = isOther ? from : from + branch.nodeSize;
  dispatch?.(cursorNear(state.tr.insert(place, emptyBranch()), place + 1));
  return true;
};

/** Moves the branch at the cursor among the others. */
export function moveBranch(by: -1 | 1): Command {
  return (state, dispatch) => {
    const found = branchAt(state);
    const other = found?.choice.maybeChild(found.index + by);
    if (!found || !other) return false;
    const { branch, from } = found;
    const [first, second] = by < 0 ? [branch, other] : [other, branch];
    const start = by < 0 ? from - other.nodeSize : from;
    const tr = state.tr.replaceWith(start, start + branch.nodeSize + other.nodeSize, [first, second]);
    const offset = state.selection.from - from;
    dispatch?.(cursorNear(tr, (by < 0 ? start : start + other.nodeSize) + offset));
    return true;
  };
}

/** Takes the branch at the cursor away. One that is left alone is no choice any more: its blocks stand with its condition. */
export const removeBranch: Command = (state, dispatch) => {
  const found = branchAt(state);
  if (!found) return false;
  const { choice, at, index, from, branch } = found;
  const rest = choice.children.filter((_, each) => each !== index);
  const [only] = rest;
  const { tr } = state;
  if (only && rest.length === 1) tr.replaceWith(at, at + choice.nodeSize, freed(choice, only, []));
  else if (rest.length === 0) tr.replaceWith(at, at + choice.nodeSize, nodeType('paragraph').create());
  else tr.delete(from, from + branch.nodeSize);
  dispatch?.(cursorNear(tr, Math.min(rest.length === 1 ? at : from, tr.doc.content.size)));
  return true;
};

/**
 * Takes the choice at the cursor apart: the blocks of each branch stand where no branch before it would be taken. What comes
 * behind a branch for all cases is in nowhere, and would be in anywhere then: such a choice stays.
 */
export const unwrapChoice: Command = (state, dispatch) => {
  const found = branchAt(state);
  if (!found || found.choice.children.slice(0, -1).some(({ attrs }) => !attrs['when'])) return false;
  const { choice, at } = found;
  const before: string[] = [];
  const blocks = choice.children.flatMap((branch) => {
    const stands = freed(choice, branch, before);
    before.push((branch.attrs['when'] as string | null) ?? '');
    return stands;
  });
  const tr = state.tr.replaceWith(at, at + choice.nodeSize, Fragment.from(blocks));
  dispatch?.(cursorNear(tr, at));
  return true;
};

/** The blocks of a branch with its condition, that of the choice, and that none of the branches before it is taken. */
function freed(choice: Node, branch: Node, before: readonly string[]): readonly Node[] {
  const when = bothConditions(conditionOn(choice), bothConditions(conditionOn(branch), noneOf(before)));
  return branch.children.map((block) => limited(block, { when, stamp: null }));
}

/** That none of some conditions holds, as text; null where there are none. */
function noneOf(conditions: readonly string[]): string | null {
  const read = conditions.flatMap((when): readonly Condition[] => {
    const parsed = parseCondition(when);
    return parsed.ok ? [parsed.condition] : [];
  });
  if (read.length === 0) return null;
  const none: Condition = { not: { any: read } };
  const simple = simplify(none);
  return printCondition(simple.kind === 'condition' ? simple.condition : none);
}
