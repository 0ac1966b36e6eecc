import type { ImageFile } from '../model/component.js';
import { textAttr, type AnyNode } from '../model/node.js';
import { chosenImage } from '../variation/chosen.js';
import type { Assembly } from './assembly.js';
import type { Place } from './place.js';

/** The file of an image that a picture shows: the first version whose condition holds, with its alternative text. */
export function chosenFile(
  assembly: Assembly,
  node: AnyNode,
  place: Place,
): { readonly alt: string; readonly file: ImageFile } | null {
  const image = assembly.component(node, ['image'], place, 'missing-image');
  if (!image) return null;
  const file = chosenImage(image.body, (when) => assembly.reading.holds(when));
  return { alt: textAttr(node, 'alt') ?? image.body.alt, file };
}
