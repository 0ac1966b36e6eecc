export const problemCodes = [
  'undefined-value',
  'missing-variable',
  'variable-cycle',
  'missing-component',
  'missing-revision',
  'placement-cycle',
  'too-large',
  'wrong-kind',
  'left-out-reference',
  'missing-target',
  'missing-image',
  'missing-slot-content',
  'missing-index-heading',
  'empty-section',
  'empty-topic',
  'bad-condition',
  'alternatives-together',
  'refused-address',
  'bad-formula',
  'unnamed-target',
  'term-without-definition',
  'not-accessible',
  'not-for-archives',
  'uncovered-characters',
] as const;
export type ProblemCode = (typeof problemCodes)[number];

/** Where a problem stands: a block of a component, or an entry of the publication. */
export interface ProblemPlace {
  readonly component: string | null;
  readonly block: string | null;
  readonly entry: string | null;
}

/** Something about the content that its writers should know, with the place to mend it. */
export interface Problem {
  /** A variant may stop at errors, or at warnings, too. */
  readonly severity: 'error' | 'warning';
  readonly code: ProblemCode;
  /** One sentence. */
  readonly message: string;
  readonly place: ProblemPlace;
}

/** Gathers problems, each distinct one once. */
export class ProblemList {
  private readonly seen = new Map<string, Problem>();

  add(problem: Problem): void {
    const name = nameOf(problem);
    if (!this.seen.has(name)) this.seen.set(name, problem);
  }

  get all(): readonly Problem[] {
    return [...this.seen.values()];
  }
}

function nameOf({ code, message, place }: Problem): string {
  return `${code}|${message}|${place.component}|${place.block}|${place.entry}`;
}
