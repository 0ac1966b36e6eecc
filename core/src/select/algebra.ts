import type { OpenState } from '../variation/open-lens.js';

/**
 * What selection counts with: with truth values it chooses the content of one variant, with sets of
 * variants it tells for all variants at once what is in. The rules of selection are written over this, once.
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

const certainty = ['out', 'open', 'in'] as const satisfies readonly OpenState[];
const less = (a: OpenState, b: OpenState): OpenState => (certainty.indexOf(a) < certainty.indexOf(b) ? a : b);
const otherwise = { in: 'out', out: 'in', open: 'open' } as const satisfies Record<OpenState, OpenState>;

/** Counts with the three answers of a lens that leaves axes open. */
export function threeAnswers(holds: (when: string | null) => OpenState): Algebra<OpenState> {
  return {
    all: 'in',
    none: 'out',
    and: less,
    or: (a, b) => (less(a, b) === a ? b : a),
    minus: (a, b) => less(a, otherwise[b]),
    holds,
  };
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
