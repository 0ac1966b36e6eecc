import { conditionOn, limitsOf } from '@allomorph/core';
import type { NodeType } from 'prosemirror-model';
import { liftListItem } from 'prosemirror-schema-list';
import { Selection, type Command } from 'prosemirror-state';
import { depthOf, limited } from './places';

/** Lifts an item out of its list; where it is none any more, its condition and that of the list are on what it held. */
export function liftItem(type: NodeType): Command {
  return (state, dispatch) => {
    const { $from } = state.selection;
    const depth = depthOf($from, type.name);
    const isNested = depth > 2 && $from.node(depth - 2).type === type;
    const isLimited = (at: number): boolean => conditionOn($from.node(at)) !== null;
    if (depth < 0 || isNested || !(isLimited(depth) || isLimited(depth - 1)))
      return liftListItem(type)(state, dispatch);
    const item = $from.node(depth);
    const { tr } = state;
    const within = item.children.map((child) =>
      limited(limited(child, limitsOf(item)), limitsOf($from.node(depth - 1))),
    );
    tr.replaceWith($from.start(depth), $from.end(depth), within);
    tr.setSelection(Selection.fromJSON(tr.doc, state.selection.toJSON() as object));
    return liftListItem(type)(state.apply(tr), (lifted) => {
      for (const step of lifted.steps) tr.step(step);
      dispatch?.(tr.setSelection(Selection.fromJSON(tr.doc, lifted.selection.toJSON() as object)).scrollIntoView());
    });
  };
}
