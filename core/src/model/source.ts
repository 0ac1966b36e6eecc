import type { Axis } from './axis.js';
import type { Library } from './component.js';
import type { Publication } from './publication.js';

/** What assembly needs besides the recipe. */
export interface Source {
  readonly library: Library;
  readonly axes: readonly Axis[];
  /** Publications that stand in the outline of another one, by key. */
  readonly publications: ReadonlyMap<string, Publication>;
}
