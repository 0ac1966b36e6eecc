import { contentSchema, ownTextOf, ownWordsOf, type Component, type ContentNode } from '@allomorph/core';
import { Fragment, Slice, type Node } from 'prosemirror-model';
import { NodeSelection, type Command, type Transaction } from 'prosemirror-state';
import { dropPoint } from 'prosemirror-transform';
import { insertBlock, insertInline } from './commands';
import { figureOf } from './figure-of';
import { nodeType } from './schema-types';
import { named } from './undo-names';

/** One way in which a component can be put onto a page. */
export interface PlacingWay {
  readonly name: 'live' | 'held' | 'copied' | 'refer' | 'figure' | 'inline';
  readonly title: string;
  readonly purpose: string;
  readonly node: Node;
  /** What stands in its place in the end, where that is something else. */
  readonly becomes?: readonly Node[];
}

/**
 * The ways in which a component can be put onto a page, the usual one first.
 * @param inLine whether the page is a phrase, which holds no blocks
 */
export function placingWays(component: Component, inLine: boolean): readonly PlacingWay[] {
  const attrs = { component: component.key };
  const refer: PlacingWay = {
    name: 'refer',
    title: 'Refer to it',
    purpose: 'A cross-reference that leads there',
    node: nodeType('cross_reference').create({ ...attrs, target: null, form: 'number-title' }),
  };
  if (component.kind === 'variable') {
    const node = nodeType('variable').create({ key: component.key });
    return [{ name: 'live', title: 'Put in the variable', purpose: 'Reads what it says in each variant', node }];
  }
  if (component.kind === 'link') {
    const node = nodeType('external_link').create(attrs);
    return [{ name: 'live', title: 'Put in the link', purpose: 'Leads to the address that it has', node }];
  }
  if (component.kind === 'image') {
    const figure = { title: 'As a figure', purpose: 'On its own, with a caption', node: figureOf(component.key) };
    const inline = { title: 'In the sentence', purpose: 'As tall as the text', node: nodeType('image').create(attrs) };
    return [...(inLine ? [] : [{ name: 'figure', ...figure } as const]), { name: 'inline', ...inline }];
  }
  const isPhrase = component.body.type === 'phrase';
  if (inLine && !isPhrase) return component.kind === 'topic' ? [refer] : [];
  const type = nodeType(isPhrase ? 'inline_placement' : 'placement');
  const live = type.create({ ...attrs, mode: 'live' });
  const held = type.create({ ...attrs, mode: 'held', revision: component.revision });
  const written = live.toJSON() as ContentNode;
  const copied = isPhrase ? ownWordsOf(written, component) : ownTextOf(written, component);
  const becomes = copied.map((node) => contentSchema.nodeFromJSON(node));
  return [
    { name: 'live', title: 'Place it live', purpose: 'Follows its newest revision', node: live },
    {
      name: 'held',
      title: `Hold it at revision ${component.revision}`,
      purpose: 'Stays as it is now, until it is brought up to date',
      node: held,
    },
    ...(becomes.length > 0
      ? [
          {
            name: 'copied',
            title: 'Copy it as own text',
            purpose: 'To be changed here; it remembers where it came from',
            node: live,
            becomes,
          } as const,
        ]
      : []),
    ...(component.kind === 'topic' ? [refer] : []),
  ];
}

/**
 * Puts a component onto the page.
 * @param at where it was dropped; null: at the cursor
 */
export function placingCommand({ title, node, becomes }: PlacingWay, at: number | null): Command {
  const put: Command = (state, dispatch, view) => {
    const finish = (tr: Transaction): void => {
      if (becomes) becomeOwn(tr, node, becomes);
      dispatch?.(tr.scrollIntoView());
    };
    if (at === null) {
      const command = node.isInline ? insertInline(node) : insertBlock(() => node);
      return command(state, dispatch && finish, view);
    }
    const place = dropPoint(state.doc, at, new Slice(Fragment.from(node), 0, 0));
    if (place === null) return false;
    const tr = state.tr.insert(place, node);
    if (tr.doc.nodeAt(place)?.type !== node.type) return false;
    if (dispatch) finish(tr.setSelection(NodeSelection.create(tr.doc, place)));
    return true;
  };
  return named(title, put);
}

/** Own text in the place of a placement that was just put in. */
function becomeOwn(tr: Transaction, placement: Node, becomes: readonly Node[]): void {
  const around = [tr.selection.from, tr.selection.from - placement.nodeSize];
  const at = around.find((position) => position >= 0 && tr.doc.nodeAt(position)?.type === placement.type);
  if (at !== undefined) tr.replaceWith(at, at + placement.nodeSize, becomes);
}
