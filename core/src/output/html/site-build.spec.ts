import fc from 'fast-check';
import { anyChange, anyLibrary, anyProfile, anyRelabelling, profiles } from '../../spec-arbitraries.js';
import {
  entry,
  p,
  place,
  publicationOf,
  recipeOf,
  section,
  see,
  snippet,
  sourceOf,
  topic,
} from '../../spec-support.js';
import type { Source } from '../../assemble/assemble.js';
import { labelledDesign } from '../../number/design.js';
import type { Component } from '../../library/component.js';
import { buildSite, updateSite, type SiteBuild } from './site-build.js';

const book = publicationOf([
  entry('e1', 't1', { entries: [entry('e2', 't2', { when: 'not level is expert' })] }),
  entry('e3', 't3'),
  entry('e4', 't1'),
]);
/** What the files of a site read after its steps. */
function filesOf(...steps: readonly SiteBuild[]): readonly string[] {
  const texts = new Map(steps.flatMap(({ files }) => files.map(({ path, text }) => [path, text])));
  return (steps.at(-1)?.paths ?? []).map((path) => `${path}\n${texts.get(path) ?? ''}`);
}
const problemsOf = ({ numbered }: SiteBuild): readonly string[] =>
  numbered.problems.map((each) => JSON.stringify(each)).sort();
/** The same components as if they were read anew: nothing is remembered of their bodies. */
const readAnew = (components: readonly Component[]): Source =>
  sourceOf(JSON.parse(JSON.stringify(components)) as readonly Component[]);

describe('A site', () => {
  it('is the same whatever was built before it', () => {
    fc.assert(
      fc.property(anyLibrary, (components) => {
        const shared = sourceOf(components);
        for (const profile of [...profiles, ...profiles]) {
          const recipe = recipeOf(book, { profile, design: labelledDesign });
          expect(filesOf(buildSite(shared, recipe))).toEqual(filesOf(buildSite(readAnew(components), recipe)));
        }
      }),
      { numRuns: 60 },
    );
  });

  it('comes out the same when it is brought up to date as when it is built anew', () => {
    fc.assert(
      fc.property(fc.oneof(anyChange, anyRelabelling), anyProfile, ({ before, after, key }, profile) => {
        const recipe = recipeOf(book, { profile, design: labelledDesign });
        const source = sourceOf(before);
        const now = { ...sourceOf(after), publications: source.publications };
        const first = buildSite(source, recipe);
        const anew = buildSite(readAnew(after), recipe);
        for (const updated of [updateSite(first, now, recipe), updateSite(first, now, recipe, [key])]) {
          expect(filesOf(first, updated)).toEqual(filesOf(anew));
          expect(problemsOf(updated)).toEqual(problemsOf(anew));
          expect(filesOf(first, updated, updateSite(updated, source, recipe))).toEqual(filesOf(first));
        }
      }),
      { numRuns: 200 },
    );
  });

  it('is only made again where a change shows', () => {
    const shared = (text: string, revision: number): Component => ({ ...snippet('s', p(text)), revision });
    const rest = [topic('t1', place('s')), topic('t2', p('x')), topic('t3', place('s'))];
    const recipe = recipeOf(book);
    const source = sourceOf([...rest, shared('old', 1)]);
    const first = buildSite(source, recipe);
    expect(first.files.map(({ path }) => path)).toEqual(first.paths);
    const now = { ...source, library: sourceOf([...rest, shared('new', 2)]).library };
    expect(updateSite(first, now, recipe).files.map(({ path }) => path)).toEqual(['t1.html', 't3.html', 't1-2.html']);
    expect(updateSite(first, source, recipe).files).toEqual([]);
  });

  it('is made anew where a title or a number changed that other pages show', () => {
    const about = (heading: string, revision: number): Component => ({
      ...topic('t3', section('x', heading, p('y'))),
      revision,
    });
    const rest = [topic('t1', p('see ', see('t3', 'x', 'title'))), topic('t2', p('x'))];
    const source = sourceOf([...rest, about('Before', 1)]);
    const recipe = recipeOf(book);
    const now = { ...source, library: sourceOf([...rest, about('After', 2)]).library };
    const updated = updateSite(buildSite(source, recipe), now, recipe);
    expect(updated.files.map(({ path }) => path)).toEqual(updated.paths);
    expect(updated.files.find(({ path }) => path === 't1.html')?.text).toContain('>After</a>');
  });
});
