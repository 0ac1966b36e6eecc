import type { Problem, ProblemPlace } from '../model/problem.js';

/** A problem as a piece of content has it: one in a value stands where the value is used. */
export interface Finding extends Omit<Problem, 'place'> {
  /** Null: where it is used. */
  readonly place: ProblemPlace | null;
  /** The variables from the one that is used down to the one that the message is about. */
  readonly trail?: readonly string[];
}

/** A finding with the place where it is used. */
export function findingAt(finding: Finding, place: ProblemPlace): Finding {
  return finding.place === null ? { ...finding, place } : finding;
}

/** A finding as a problem. */
export function problemOf({ severity, code, message, place, trail }: Finding): Problem {
  const named = trail ? `The variable ${trail.join(' › ')} ${message}` : message;
  return { severity, code, message: named, place: place ?? { component: null, block: null, entry: null } };
}
