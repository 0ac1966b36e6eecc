import { DOMSerializer, type DOMOutputSpec, type Node } from 'prosemirror-model';
import type { NodeView } from 'prosemirror-view';

/**
 * A recording on the page: its head above its transcript, which is written like any content.
 * @param headOf draws what it is and where it is found
 * @param redraws told how to draw it again when the library changes
 */
export function mediaView(first: Node, headOf: (node: Node) => HTMLElement, redraws: Set<() => void>): NodeView {
  let node = first;
  let head = headOf(node);
  const { dom, contentDOM } = DOMSerializer.renderSpec(document, mediaSpec(node, head));
  if (!(dom instanceof HTMLElement)) throw new Error('A recording has no element.');
  const draw = (): void => {
    const drawn = headOf(node);
    head.replaceWith(drawn);
    head = drawn;
  };
  redraws.add(draw);
  return {
    dom,
    ...(contentDOM ? { contentDOM } : {}),
    update: (next) => {
      // Its own attributes stand on its element, which is made anew with them.
      if (next.type !== node.type || !next.hasMarkup(node.type, node.attrs, node.marks)) return false;
      node = next;
      return true;
    },
    ignoreMutation: (mutation) => head.contains(mutation.target),
    destroy: () => redraws.delete(draw),
  };
}

/** The element of a recording by the schema, with a head above the transcript. */
export function mediaSpec(node: Node, head: HTMLElement): DOMOutputSpec {
  const spec: unknown = node.type.spec.toDOM?.(node);
  const [tag, attrs] = Array.isArray(spec) ? (spec as [string, Record<string, string>]) : ['figure', {}];
  return [tag, attrs, head, ['div', { class: 'transcript' }, 0]];
}
