import type { PagedDocument, PagedInline } from '@allomorph/core';

/** What references of a document read: headings and captions, with their numbers and titles as text. */
export interface Target {
  readonly kind: 'heading' | 'caption';
  readonly number: string;
  /** Empty where it cannot be repeated as text. */
  readonly title: string;
}

/** The words of a line without marks. */
export function wordsOf(nodes: readonly PagedInline[]): string {
  return nodes
    .map((node) => {
      if (typeof node === 'string') return node;
      if (node.i === 'missing') return node.text;
      if (node.i === 'formula') return node.source;
      return 'c' in node && node.i !== 'footnote' ? wordsOf(node.c) : '';
    })
    .join('');
}

/** All that carries a number or a title, by the place that leads to it. */
export function targetsOf({ pages }: PagedDocument): ReadonlyMap<string, Target> {
  const targets = new Map<string, Target>();
  const titled = (title: readonly PagedInline[]): string => (title.some(showsMore) ? '' : wordsOf(title));
  const visit = (value: unknown): void => {
    if (typeof value !== 'object' || value === null) return;
    if (Array.isArray(value)) {
      value.forEach(visit);
      return;
    }
    // What core has written: blocks, and what stands in them.

    const block = value as {
      b?: string;
      at?: string;
      number?: string;
      title?: readonly PagedInline[];
      caption?: unknown;
    };
    const { b, at, number = '', title = [] } = block;
    if (at !== undefined && b === 'heading') targets.set(at, { kind: 'heading', number, title: titled(title) });
    if (at !== undefined && isCaption(block.caption))
      targets.set(at, { kind: 'caption', number: block.caption.number, title: titled(block.caption.title) });
    Object.values(value).forEach(visit);
  };
  visit(pages);
  return targets;
}

function isCaption(value: unknown): value is { readonly number: string; readonly title: readonly PagedInline[] } {
  return typeof value === 'object' && value !== null && 'number' in value && 'title' in value;
}

/** Whether something stands in a line that its words do not tell. */
function showsMore(node: PagedInline): boolean {
  if (typeof node === 'string') return false;
  if (
    node.i === 'footnote' ||
    node.i === 'again' ||
    node.i === 'image' ||
    node.i === 'break' ||
    node.i === 'page' ||
    node.i === 'formula'
  )
    return true;
  if (node.i === 'stamped' && node.word !== '') return true;
  return 'c' in node && node.c.some(showsMore);
}
