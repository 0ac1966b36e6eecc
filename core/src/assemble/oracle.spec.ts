import fc from 'fast-check';
import { anyGround, anyLibrary, sourceFor } from '../../../tests/support/any-library.js';
import { build } from '../../../tests/support/build.js';
import { askOracle } from '../../../tests/support/oracle/oracle.js';
import { readNumbered, readTitle } from '../../../tests/support/read-numbered.js';
import type { Problem, ProblemCode } from '../model/problem.js';

/** Problems that the oracle does not look for: they are about what is written, not about what comes of it. */
const unasked: ReadonlySet<string> = new Set<ProblemCode>([
  'undefined-value',
  'bad-condition',
  'missing-index-heading',
  'refused-address',
  'bad-formula',
  'unnamed-target',
  'term-without-definition',
]);

function problemTexts(problems: readonly Problem[]): readonly string[] {
  const known = problems.filter(({ code }) => !unasked.has(code));
  return [...new Set(known.map(({ code, place }) => `${code} ${place.component ?? '-'} ${place.block ?? '-'}`))].sort();
}

describe('The engine beside a naive oracle', () => {
  it('reads as the rules of the product say, with the same numbers, references and problems', () => {
    let pages = 0;
    fc.assert(
      fc.property(anyLibrary, anyGround, (components, ground) => {
        const source = sourceFor(ground, components);
        const { numbered } = build(source, ground.recipe);
        const wanted = askOracle(source, ground.recipe);
        expect(readNumbered(numbered)).toEqual(wanted.pages as never);
        expect(readTitle(numbered)).toBe(wanted.title);
        expect(problemTexts(numbered.problems)).toEqual(wanted.problems);
        pages += wanted.pages.length;
      }),
      { numRuns: Number(process.env['ORACLE_RUNS'] ?? 300) },
    );
    expect(pages).toBeGreaterThan(400);
  });
});
