import fc from 'fast-check';
import { anyEdit, anyGround, anyLibrary, sourceFor, type Ground } from '../../../tests/support/any-library.js';
import { build, type Built } from '../../../tests/support/build.js';
import { Memory } from '../assemble/memory.js';
import type { Component } from '../model/component.js';
import type { Source } from '../model/source.js';
import { web } from '../output/web/web.js';
import { staleness } from './freshness.js';
import { reachOf } from './reach.js';
import type { BuildRecord } from './record.js';

/** The same components as if they were read anew: nothing is shared with earlier ones. */
const readAnew = (components: readonly Component[]): readonly Component[] =>
  JSON.parse(JSON.stringify(components)) as readonly Component[];
const bytes = ({ files }: Built): readonly string[] => files.map(({ path, text }) => `${path}\n${text}`);
const problems = ({ numbered }: Built): readonly string[] =>
  numbered.problems.map((problem) => JSON.stringify(problem)).sort();

/** One variant through a history: what was built last, and the record of it. */
interface Variant {
  readonly ground: Ground;
  bytes: readonly string[];
  record: BuildRecord;
}

describe('A history of edits', () => {
  it('is built from memory as it is built from the ground up, and freshness tells every difference', () => {
    let [stale, fresh, shared] = [0, 0, 0];
    fc.assert(
      fc.property(
        anyLibrary,
        fc.array(anyGround, { minLength: 2, maxLength: 3 }),
        fc.array(fc.tuple(anyEdit, fc.nat({ max: 9 })), { minLength: 1, maxLength: 30 }),
        (library, grounds, steps) => {
          const memory = new Memory();
          let state: { components: readonly Component[]; held: readonly Component[] } = {
            components: library,
            held: [],
          };
          const sourceOf = (ground: Ground): Source =>
            sourceFor(ground, readAnew(state.components), readAnew(state.held));
          const variants = grounds.map((ground): Variant => {
            const built = build(sourceOf(ground), ground.recipe, memory);
            return { ground, bytes: bytes(built), record: built.record() };
          });
          for (const [edit, chance] of steps) {
            state = edit(state.components, state.held);
            if (chance === 0) memory.drop();
            for (const variant of variants) {
              const { recipe } = variant.ground;
              const source = sourceOf(variant.ground);
              const anew = build(source, recipe);
              const { causes } = staleness(variant.record, source, recipe, { memory, formats: [web] });
              const isSame = bytes(anew).join('\0') === variant.bytes.join('\0');
              expect(causes.length === 0)
                .withContext(JSON.stringify(causes))
                .toBe(isSame);
              if (isSame) fresh += 1;
              else stale += 1;
              // Some variants are not built at every step.
              if (chance > 6) continue;
              const built = build(source, recipe, memory);
              expect(bytes(built)).toEqual(bytes(anew));
              expect(problems(built)).toEqual(problems(anew));
              const record = built.record();
              expect(record).toEqual(anew.record());
              variant.bytes = bytes(built);
              variant.record = record;
              shared += 1;
            }
          }
        },
      ),
      { numRuns: Number(process.env['HISTORY_RUNS'] ?? 60) },
    );
    expect(Math.min(stale, fresh, shared)).toBeGreaterThan(40);
  });

  it('has the reach that building every variant before and after an edit shows', () => {
    let reached = 0;
    fc.assert(
      fc.property(
        anyLibrary,
        fc.array(anyGround, { minLength: 3, maxLength: 4 }),
        anyEdit,
        (library, grounds, edit) => {
          const after = edit(library, []);
          const changed = after.components.find((each) => !library.includes(each));
          // Labels, and what goes, are not what reach is asked for before a save.
          if (!changed || changed.revision < 2) return;
          const publications = grounds[0]?.publications ?? new Map();
          const one = grounds.map((ground) => ({ ...ground, publications }));
          const [was, is] = [library, after.components].map((components) =>
            sourceFor({ ...(one[0] as Ground), publications }, components, after.held),
          ) as [Source, Source];
          const recipes = one.map(({ recipe }) => recipe);
          const groups = reachOf(was, is, changed, after.components, recipes);
          const inGroups = groups.flatMap(({ variants }) => variants).sort();
          const altered = recipes.flatMap((recipe, at) => {
            const [old, fresh] = [build(was, recipe), build(is, recipe)];
            return bytes(old).join('\0') === bytes(fresh).join('\0') ? [] : [at];
          });
          expect(inGroups).toEqual(altered);
          reached += inGroups.length;
        },
      ),
      { numRuns: 150 },
    );
    expect(reached).toBeGreaterThan(15);
  });
});
