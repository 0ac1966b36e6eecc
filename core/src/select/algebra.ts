import type { DiagramNode, Diagrams } from '../variation/decision-diagram.js';

/**
 * What selection counts with: with truth values it chooses the content of one variant, with sets of
 * variants it tells for all variants at once what is in, with diagrams it tells what a partly chosen lens
 * leaves open. The rules of selection are written over this, once.
 */
export interface Algebra<S> {
  readonly all: S;
  readonly none: S;
  and(a: S, b: S): S;
  or(a: S, b: S): S;
  /** What is in `a` and not in `b`. */
  minus(a: S, b: S): S;
  /** Where a condition holds; null: everywhere. */
  holds(when: string | null): S;
}

/** Counts with truth values. */
export function truth(holds: (when: string | null) => boolean): Algebra<boolean> {
  return {
    all: true,
    none: false,
    and: (a, b) => a && b,
    or: (a, b) => a || b,
    minus: (a, b) => a && !b,
    holds,
  };
}

/** Counts with decision diagrams. */
export function diagramAlgebra(diagrams: Diagrams, of: (when: string) => DiagramNode): Algebra<DiagramNode> {
  return {
    all: diagrams.always,
    none: diagrams.never,
    and: (a, b) => diagrams.and(a, b),
    or: (a, b) => diagrams.or(a, b),
    minus: (a, b) => diagrams.and(a, diagrams.not(b)),
    holds: (when) => (when ? of(when) : diagrams.always),
  };
}
