import type { StepMap } from 'prosemirror-transform';

export interface Range {
  readonly from: number;
  readonly to: number;
}

/**
 * What steps changed, as it stands after the last of them; from behind to, where they changed no place.
 * @param size the size of the content that they made
 */
export function changedRange(maps: readonly StepMap[], size: number): Range {
  let [from, to] = [size, 0];
  maps.forEach((map, at) => {
    map.forEach((_, __, start, end) => {
      let [low, high] = [start, end];
      for (const later of maps.slice(at + 1)) [low, high] = [later.map(low, -1), later.map(high, 1)];
      from = Math.min(from, low);
      to = Math.max(to, high);
    });
  });
  return { from, to };
}
