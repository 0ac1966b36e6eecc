import type { Node } from 'prosemirror-model';
import { nodeType } from './schema-types';

/** A figure that shows an image, with a caption to be written. */
export function figureOf(image: string): Node {
  return nodeType('figure').create(null, [
    nodeType('picture').create({ component: image }),
    nodeType('caption').create(),
  ]);
}
