import { limitsOf } from '@allomorph/core';
import { Fragment, type Node, type ResolvedPos } from 'prosemirror-model';
import { TextSelection, type Command, type EditorState } from 'prosemirror-state';
import { nodeType } from './schema-types';
import { depthOf, isEmptyParagraph, limited } from './places';

/** Sections as wholes: begun, moved up and down, deeper and higher, and dissolved, always with everything in them. */

const parents = ['topic', 'fragment', 'section'] as const;

/** The depth of the section around a position; -1: none. */
function sectionDepth($pos: ResolvedPos): number {
  return depthOf($pos, 'section');
}

function emptySection(): Node {
  return nodeType('section').create(null, [nodeType('title').create(), nodeType('paragraph').create()]);
}

/** A new section behind the one at the cursor, on the same level; outside of sections, what follows comes under it. */
export const siblingSection: Command = (state, dispatch) => {
  const { $from } = state.selection;
  const depth = sectionDepth($from);
  if (depth < 0) return sectionHere(state, dispatch);
  if (!dispatch) return true;
  const place = $from.after(depth);
  const tr = state.tr.insert(place, emptySection());
  dispatch(tr.setSelection(TextSelection.create(tr.doc, place + 2)).scrollIntoView());
  return true;
};

/** Begins a section at the cursor, inside the one around it; what follows, up to the next section, comes under it. */
export function sectionHere(state: EditorState, dispatch?: Parameters<Command>[1]): boolean {
  const { $from } = state.selection;
  for (let depth = $from.depth; depth > 0; depth -= 1) {
    const parent = $from.node(depth - 1);
    if (!parents.some((name) => name === parent.type.name)) continue;
    if (!dispatch) return true;
    const index = $from.index(depth - 1);
    const block = $from.node(depth);
    // The title of what is around stays first.
    const isEmpty = isEmptyParagraph(block);
    const from = isEmpty ? $from.before(depth) : $from.after(depth);
    const below: Node[] = [];
    let to = $from.after(depth);
    for (let next = index + 1; next < parent.childCount && parent.child(next).type.name !== 'section'; next += 1) {
      below.push(parent.child(next));
      to += parent.child(next).nodeSize;
    }
    const section = nodeType('section').create(null, [
      nodeType('title').create(),
      ...(below.length > 0 ? below : [nodeType('paragraph').create()]),
    ]);
    const tr = state.tr.replaceWith(from, to, section);
    dispatch(tr.setSelection(TextSelection.create(tr.doc, from + 2)).scrollIntoView());
    return true;
  }
  return false;
}

/** A section and where it stands. */
interface Section {
  readonly node: Node;
  readonly from: number;
  readonly to: number;
  /** The cursor within it. */
  readonly offset: number;
  readonly depth: number;
}

function sectionAt({ selection: { $from } }: EditorState): Section | null {
  const depth = sectionDepth($from);
  if (depth < 0) return null;
  return {
    node: $from.node(depth),
    from: $from.before(depth),
    to: $from.after(depth),
    offset: $from.pos - $from.before(depth),
    depth,
  };
}

/** Makes the section at the cursor one of the level below: it goes to the end of the section before it. */
export const demoteSection: Command = (state, dispatch) => {
  const section = sectionAt(state);
  if (!section) return false;
  const before = state.doc.resolve(section.from).nodeBefore;
  if (before?.type.name !== 'section') return false;
  if (!dispatch) return true;
  const tr = state.tr.delete(section.from, section.to);
  const place = section.from - 1;
  tr.insert(place, section.node);
  dispatch(tr.setSelection(TextSelection.create(tr.doc, place + section.offset)).scrollIntoView());
  return true;
};

/** Makes the section at the cursor one of the level above: the sections that followed it on its level come under it. */
export const promoteSection: Command = (state, dispatch) => {
  const section = sectionAt(state);
  if (!section) return false;
  const { $from } = state.selection;
  const above = section.depth - 1;
  const parent = $from.node(above);
  if (parent.type.name !== 'section') return false;
  if (!dispatch) return true;
  const followers: Node[] = [];
  for (let index = $from.index(above) + 1; index < parent.childCount; index += 1) followers.push(parent.child(index));
  const end = $from.end(above);
  const behind = $from.after(above);
  const { tr } = state;
  tr.delete(section.from, end);
  const place = tr.mapping.map(behind);
  tr.insert(place, section.node.copy(section.node.content.append(Fragment.from(followers))));
  dispatch(tr.setSelection(TextSelection.create(tr.doc, place + section.offset)).scrollIntoView());
  return true;
};

/**
 * Takes a section apart: its title becomes a paragraph, where it says something, and its content stays where it stood, in the
 * section before it where there is one.
 */
export function dissolveSection(position: number): Command {
  return (state, dispatch) => {
    const section = state.doc.nodeAt(position);
    if (section?.type.name !== 'section') return false;
    const $at = state.doc.resolve(position);
    const title = section.child(0);
    const heading = title.content.size > 0 ? [nodeType('paragraph').create(null, title.content)] : [];
    const own = limitsOf(section);
    const all = [...heading, ...section.children.slice(1)].map((child) => limited(child, own));
    const before = $at.nodeBefore;
    const isOnly = $at.parent.childCount === ($at.parent.type.name === 'fragment' ? 1 : 2);
    if (all.length === 0 && isOnly) all.push(nodeType('paragraph').create());
    if (!dispatch) return true;
    const { tr } = state;
    let place = position;
    if (before?.type.name === 'section') {
      tr.delete(position, position + section.nodeSize);
      place = position - 1;
      tr.insert(place, all);
    } else tr.replaceWith(position, position + section.nodeSize, all);
    const selection = TextSelection.near(tr.doc.resolve(place + (all.length > 0 ? 1 : 0)), all.length > 0 ? 1 : -1);
    dispatch(tr.setSelection(selection).scrollIntoView());
    return true;
  };
}
