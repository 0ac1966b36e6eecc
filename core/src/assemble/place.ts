import type { Component } from '../model/component.js';
import type { ContentNode } from '../model/node.js';
import type { VariableValues } from '../model/publication.js';
import type { Question, Piece } from './memo.js';
import type { Inline } from './memory.js';

/** Values of variables in force at a place, and what variables read under them. */
export class ValuesInForce {
  /** What variables read here, by the question for them; null: only the format knows. */
  readonly read = new Map<Question, Piece<Inline | null>>();

  /** @param records from the nearest to the farthest: entries, then the variant, then publications */
  constructor(readonly records: readonly VariableValues[]) {}

  /** The value that an entry, the variant or a publication gives a variable. */
  own(key: string): ContentNode | undefined {
    for (const record of this.records) if (Object.hasOwn(record, key)) return record[key];
    return undefined;
  }
}

/** What an entry, or a publication that stands in an outline, adds to the values in force around it. */
export interface AddedValues {
  readonly around: AddedValues | null;
  /** Which go before those around it: an entry's own. */
  readonly nearer?: VariableValues;
  /** Which come after them: those of a publication that stands in another one. */
  readonly farther?: VariableValues;
}

/** The values in force all over an outline. */
export class OutlineValues {
  private readonly found = new Map<AddedValues, ValuesInForce>();

  /** @param root those in force around the outline */
  constructor(readonly root: ValuesInForce) {}

  /** The values in force where some are added, the same object each time. */
  at(added: AddedValues | null): ValuesInForce {
    if (!added) return this.root;
    let values = this.found.get(added);
    if (!values) {
      const { around, nearer, farther } = added;
      values = new ValuesInForce([
        ...(nearer ? [nearer] : []),
        ...this.at(around).records,
        ...(farther ? [farther] : []),
      ]);
      this.found.set(added, values);
    }
    return values;
  }
}

/** What stands around a place, innermost first. */
export interface Chain {
  readonly key: string;
  readonly outer: Chain | null;
}

/** The place that is being assembled: what a piece may ask of its surroundings. */
export interface Place {
  readonly values: ValuesInForce;
  /** The component whose text stands here; null in the outline. */
  readonly component: Component | null;
  /** The components that are placed around the place. */
  readonly around: Chain | null;
  /** The variables that are being worked out. */
  readonly evaluating: Chain | null;
  /** The topic of the page. */
  readonly topic: string | null;
  readonly entry: string | null;
}

/** Whether a chain has a link. */
export function isIn(chain: Chain | null, key: string): boolean {
  for (let link = chain; link; link = link.outer) if (link.key === key) return true;
  return false;
}

/** The way from a link of a chain down to its end, as it is told; the empty text where there is no such link. */
export function wayFrom(chain: Chain | null, key: string): string {
  let found = chain;
  while (found && found.key !== key) found = found.outer;
  if (!found) return '';
  const keys: string[] = [];
  for (let link = chain; link && link !== found.outer; link = link.outer) keys.unshift(link.key);
  return keys.join(' › ');
}
