import { idsAfter, type Component, type ContentNode } from '@allomorph/core';
import type { Node } from 'prosemirror-model';
import { NodeSelection, type Command, type Transaction } from 'prosemirror-state';
import { insertBlock, insertInline, type Structure } from './commands';
import { figureOf } from './figure-of';
import { contentOf } from './node-json';
import { nodeType } from './schema-types';
import { named } from './undo-names';

/** What the insert menu is opened for. */
export type InsertMode = 'all' | 'refer' | 'variable';

/** What the menu was asked to insert. */
export type Insertion =
  | { readonly kind: 'structure'; readonly structure: Structure }
  | { readonly kind: 'place'; readonly component: Component }
  | { readonly kind: 'variable'; readonly key: string }
  /** A cross-reference to a component, or to a block in it; null: to this component. */
  | { readonly kind: 'refer'; readonly component: string | null; readonly target: string | null }
  /** A cross-reference to a block of this page that has no id yet. */
  | { readonly kind: 'refer-here'; readonly position: number };

/**
 * Inserts what was chosen.
 * @param inLine whether only what stands in a line can stand here
 */
export function insertionCommand(insertion: Insertion, inLine: boolean): Command {
  switch (insertion.kind) {
    case 'structure':
      return named(`Insert: ${insertion.structure.title}`, insertion.structure.command);
    case 'variable':
      return insertInline(nodeType('variable').create({ key: insertion.key }));
    case 'refer':
      return refer(insertion.component, insertion.target);
    case 'refer-here':
      return referToBlock(insertion.position);
    case 'place':
      return place(insertion.component, inLine);
  }
}

function place(component: Component, inLine: boolean): Command {
  const attrs = { component: component.key };
  if (component.kind === 'link') return insertInline(nodeType('external_link').create(attrs));
  if (component.kind === 'image')
    return inLine ? insertInline(nodeType('image').create(attrs)) : insertBlock(() => figureOf(component.key));
  if ((component.body as ContentNode).type === 'phrase')
    return insertInline(nodeType('inline_placement').create(attrs));
  return inLine ? () => false : insertBlock(() => nodeType('placement').create(attrs));
}

/** A cross-reference; one that is selected leads there from now on, and reads as before. */
function refer(component: string | null, target: string | null): Command {
  return (state, dispatch, view) => {
    const { selection, tr } = state;
    const to = { component, target };
    if (!(selection instanceof NodeSelection) || selection.node.type.name !== 'cross_reference')
      return insertInline(nodeType('cross_reference').create({ ...to, form: 'number-title' }))(state, dispatch, view);
    const { node, from } = selection;
    tr.setNodeMarkup(from, null, { ...node.attrs, ...to }, node.marks);
    dispatch?.(tr.setSelection(NodeSelection.create(tr.doc, from)));
    return true;
  };
}

/** Gives a block of this page an id, and refers to it. */
function referToBlock(position: number): Command {
  return (state, dispatch, view) => {
    const id = idsAfter(contentOf(state.doc))();
    const named = (tr: Transaction): void =>
      dispatch?.(tr.setNodeAttribute(tr.mapping.map(position), 'id', id).scrollIntoView());
    return refer(null, id)(state, dispatch && named, view);
  };
}

/** A block of the page that a cross-reference can lead to. */
export interface PlaceOnPage {
  readonly position: number;
  readonly id: string | null;
  readonly kind: string;
  readonly title: string;
}

const longestTitle = 90;

/** The sections, figures, tables and examples with a title, and the steps, of a page. */
export function placesOnPage(doc: Node): readonly PlaceOnPage[] {
  const places: PlaceOnPage[] = [];
  doc.descendants((node, position) => {
    const kind = node.type.name;
    const named =
      kind === 'step'
        ? node.firstChild
        : ['section', 'figure', 'table', 'example'].includes(kind)
          ? node.children.find(({ type }) => type.name === 'title' || type.name === 'caption')
          : null;
    const title = named?.textContent.trim() ?? '';
    const id = node.attrs['id'] as string | null;
    if (title !== '') places.push({ position, id, kind, title: title.slice(0, longestTitle) });
    return !node.isTextblock;
  });
  return places;
}
