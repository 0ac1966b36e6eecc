import { ownTextOf, ownWordsOf, type Component, type ContentNode } from '@allomorph/core';
import { NodeSelection, type Command } from 'prosemirror-state';
import type { SelectedNode } from './page-selection';

type Change = Readonly<Record<string, unknown>>;

/** Changes attributes of a node that is selected, and stays selected. */
export function alter({ node, position }: SelectedNode, change: Change): Command {
  return (state, dispatch) => {
    if (!state.doc.nodeAt(position)?.eq(node)) return false;
    const tr = state.tr.setNodeMarkup(position, null, { ...node.attrs, ...change }, node.marks);
    dispatch?.(tr.setSelection(NodeSelection.create(tr.doc, position)));
    return true;
  };
}

/** Changes attributes of the block around the cursor, which stays where it is. */
export function alterAround({ node, position }: SelectedNode, change: Change): Command {
  return (state, dispatch) => {
    if (state.doc.nodeAt(position)?.type !== node.type) return false;
    const { tr } = state;
    for (const [name, value] of Object.entries(change)) tr.setNodeAttribute(position, name, value);
    dispatch?.(tr);
    return true;
  };
}

/** Writes the source of a formula, whatever was written of it a moment ago. */
export function writeFormula({ node, position }: SelectedNode, source: string): Command {
  return (state, dispatch) => {
    const now = state.doc.nodeAt(position);
    if (now?.type !== node.type) return false;
    const tr = state.tr.setNodeMarkup(position, null, { ...now.attrs, source }, now.marks);
    dispatch?.(tr.setSelection(NodeSelection.create(tr.doc, position)));
    return true;
  };
}

/** Copies what a placement shows into the page, in its place. */
export function turnIntoOwnText({ node, position }: SelectedNode, source: Component): Command {
  return (state, dispatch) => {
    if (!state.doc.nodeAt(position)?.eq(node)) return false;
    const placement = node.toJSON() as ContentNode;
    const content = node.isInline ? ownWordsOf(placement, source) : ownTextOf(placement, source);
    const own = content.map((each) => state.schema.nodeFromJSON(each));
    dispatch?.(state.tr.replaceWith(position, position + node.nodeSize, own).scrollIntoView());
    return true;
  };
}

/** Puts another body in place of all that stands on the page. */
export function putBody(body: ContentNode): Command {
  return (state, dispatch) => {
    const { content } = state.schema.nodeFromJSON(body);
    dispatch?.(state.tr.replaceWith(0, state.doc.content.size, content));
    return true;
  };
}

/** Takes over the ids that saving gave to new blocks, without moving the cursor. */
export function takeIds(saved: ContentNode): Command {
  return (state, dispatch) => {
    const stored = state.schema.nodeFromJSON(saved);
    const { tr } = state;
    if (stored.content.size !== state.doc.content.size) return false;
    state.doc.descendants((node, position) => {
      const id: unknown = stored.nodeAt(position)?.attrs['id'];
      if ('id' in node.attrs && typeof id === 'string' && node.attrs['id'] !== id)
        tr.setNodeAttribute(position, 'id', id);
    });
    if (tr.docChanged) dispatch?.(tr.setMeta('addToHistory', false));
    return true;
  };
}
