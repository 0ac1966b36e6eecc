import type { Library } from './component.js';
import type { Publication } from './publication.js';
import type { Vocabulary } from './stamp.js';

/** What assembly needs besides the recipe. */
export interface Source extends Vocabulary {
  readonly library: Library;
  /** Publications that stand in the outline of another one, by key. */
  readonly publications: ReadonlyMap<string, Publication>;
}
