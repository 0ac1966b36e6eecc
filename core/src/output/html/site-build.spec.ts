import fc from 'fast-check';
import { anyChange, anyLibrary, anyProfile, anyRelabelling, profiles } from '../../../../tests/support/any-library.js';
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
} from '../../../../tests/support/library-parts.js';
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
      fc.property(fc.oneof(anyChange, anyRelabelling), anyProfile, ({ before, after }, profile) => {
        const recipe = recipeOf(book, { profile, design: labelledDesign });
        const source = sourceOf(before);
        const now = { ...sourceOf(after), publications: source.publications };
        const first = buildSite(source, recipe);
        const anew = buildSite(readAnew(after), recipe);
        const updated = updateSite(first, now, recipe);
        expect(filesOf(first, updated)).toEqual(filesOf(anew));
        expect(problemsOf(updated)).toEqual(problemsOf(anew));
        expect(filesOf(first, updated, updateSite(updated, source, recipe))).toEqual(filesOf(first));
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

  it('looks again at references that led nowhere, whatever changed', () => {
    const leads = topic('t1', p('see ', see('t9', 'b1'), ' and ', see('t3', 'b7')));
    const rest = [leads, topic('t2', p('x'))];
    const plain = topic('t3', { ...p('y'), attrs: { id: 'b6' } });
    const recipe = recipeOf(book);
    const codes = ({ numbered }: SiteBuild) => numbered.problems.map(({ code, message }) => `${code} ${message}`);
    const source = sourceOf([...rest, plain]);
    const first = buildSite(source, recipe);
    expect(codes(first)).toEqual([
      'missing-target A reference leads to the block “b1” of “t9”, which does not exist.',
      'missing-target A reference leads to the block “b7” of “t3”, which does not exist.',
    ]);
    // A topic comes that no entry shows: no page changes, what is said of the reference does.
    const elsewhere = topic('t9', { ...p('z'), attrs: { id: 'b1' } });
    const now = { ...source, library: sourceOf([...rest, plain, elsewhere]).library };
    const second = updateSite(first, now, recipe);
    expect(second.files).toEqual([]);
    expect(codes(second)[0]).toBe(
      'left-out-reference A reference leads to the block “b1” of “t9”, which this variant leaves out.',
    );
    // The block comes to a page that is shown: the reference leads to it.
    const longer = { ...topic('t3', { ...p('y'), attrs: { id: 'b7' } }), revision: 2 };
    const third = updateSite(second, { ...now, library: sourceOf([...rest, longer, elsewhere]).library }, recipe);
    expect(codes(third).length).toBe(1);
    expect(third.files.find(({ path }) => path === 't1.html')?.text).toContain('href="t3.html#b7"');
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
