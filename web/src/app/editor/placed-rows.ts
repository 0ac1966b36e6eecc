import type { Node } from 'prosemirror-model';

/** What kinds of things a page takes from elsewhere. */
export const placedKinds = {
  placed: 'placed content',
  variable: 'variables',
  picture: 'pictures',
  link: 'links',
  reference: 'references',
  slot: 'slots',
  copy: 'copies',
} as const;
export type PlacedKind = keyof typeof placedKinds;

const kindOf: Readonly<Partial<Record<string, PlacedKind>>> = {
  placement: 'placed',
  inline_placement: 'placed',
  variable: 'variable',
  picture: 'picture',
  image: 'picture',
  external_link: 'link',
  cross_reference: 'reference',
  slot: 'slot',
  copied: 'copy',
};

/** One thing on a page that comes from elsewhere, or leads there. */
export interface PlacedRow {
  readonly position: number;
  readonly node: Node;
  readonly kind: PlacedKind;
  /** The component that it is, or leads to; null: to this page, or to whatever is in a collection. */
  readonly component: string | null;
  /** The revision that it stays at; null: it follows. */
  readonly held: number | null;
}

/** Everything that a page places, refers to and uses, in its order. */
export function placedRows(doc: Node): readonly PlacedRow[] {
  const rows: PlacedRow[] = [];
  doc.descendants((node, position) => {
    const kind = kindOf[node.type.name];
    if (!kind) return true;
    const named: unknown = node.attrs['key'] ?? node.attrs['component'];
    const isHeld = node.attrs['mode'] === 'held' || kind === 'copy';
    const revision: unknown = node.attrs['revision'];
    rows.push({
      position,
      node,
      kind,
      component: typeof named === 'string' && named !== '' && kind !== 'slot' ? named : null,
      held: isHeld && typeof revision === 'number' ? revision : null,
    });
    return true;
  });
  return rows;
}
