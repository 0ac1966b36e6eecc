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

  /** The values inside something that gives some of its own. */
  within(own: VariableValues | undefined): ValuesInForce {
    return own && Object.keys(own).length > 0 ? new ValuesInForce([own, ...this.records]) : this;
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
