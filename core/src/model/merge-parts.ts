import { sameJson } from './same-json.js';

/** What two people made of one thing, put together part by part. */
export interface Merged<Parts> {
  readonly parts: Parts;
  /** The parts that both changed, and not to the same: they stand in `parts` as mine. */
  readonly both: readonly (keyof Parts)[];
}

/**
 * Merges what two made of one version: each part is taken from the side that changed it.
 * @param base what both began with
 */
export function mergeParts<Parts extends object>(base: Parts, mine: Parts, theirs: Parts): Merged<Parts> {
  const parts = { ...mine };
  const both: (keyof Parts)[] = [];
  for (const part of partsOf(base, mine, theirs)) {
    const [was, own, other] = [base[part], mine[part], theirs[part]];
    if (sameJson(own, was)) {
      // What one side does not say any more is gone.
      if (other === undefined) Reflect.deleteProperty(parts, part);
      else parts[part] = other;
    } else if (!sameJson(other, was) && !sameJson(other, own)) both.push(part);
  }
  return { parts, both };
}

/** Whether two say the same, part by part; a part that is undefined is not said. */
export function sameParts<Parts extends object>(a: Parts, b: Parts): boolean {
  return partsOf(a, b).every((part) => sameJson(a[part], b[part]));
}

function partsOf<Parts extends object>(...sides: readonly Parts[]): readonly (keyof Parts)[] {
  // The names of an object's parts are keys of it.
  // eslint-disable-next-line @typescript-eslint/no-unsafe-type-assertion
  return [...new Set(sides.flatMap((side) => Object.keys(side)))] as (keyof Parts)[];
}
