import fc from 'fast-check';
import { anyGround, anyLibrary, sourceFor, type Ground } from '../../../tests/support/any-library.js';
import { phrase, variable } from '../../../tests/support/library-parts.js';
import { numberedOf } from '../../../tests/support/build.js';
import { readNumbered } from '../../../tests/support/read-numbered.js';
import { componentFrom, type Component } from '../model/component.js';
import type { Publication } from '../model/publication.js';
import { referencesOf, referencesOfPublication } from '../model/references.js';
import { bodyWithKey, entriesWithKey, valuesWithKey } from './change-key.js';

const keys = ['t1', 't2', 's1', 'v1', 'v2', 'img', 'link'];

/** Snippets stand in slots by their keys: a key that sorts as the old one changes nothing of that. */
const after = (key: string): string => `${key}x`;

function renamed(publication: Publication, key: string): Publication {
  const { title, values, entries } = publication;
  return {
    ...publication,
    title: bodyWithKey(title, key, after(key)),
    values: valuesWithKey(values, key, after(key)),
    entries: entriesWithKey(entries, key, after(key)),
  };
}

describe('A component that gets another key', () => {
  it('leaves every deliverable reading as it did', () => {
    const runs = Number(process.env['ORACLE_RUNS'] ?? 150);
    fc.assert(
      fc.property(anyLibrary, anyGround, fc.constantFrom(...keys), (components, ground, key) => {
        const { recipe, publications } = ground;
        const changed: Ground = {
          publications: new Map([...publications].map(([each, inner]) => [each, renamed(inner, key)])),
          recipe: {
            ...recipe,
            publication: renamed(recipe.publication, key),
            values: valuesWithKey(recipe.values, key, after(key)),
          },
        };
        const moved = components.map((each): Component =>
          componentFrom({
            ...each,
            key: each.key === key ? after(key) : each.key,
            title: each.title,
            body: bodyWithKey(each.body, key, after(key)),
          }),
        );
        const read = (source: ReturnType<typeof sourceFor>, { recipe: wanted }: Ground): unknown =>
          readNumbered(numberedOf(source, wanted)).map(({ lines }) => lines);
        expect(read(sourceFor(changed, moved), changed)).toEqual(read(sourceFor(ground, components), ground));
      }),
      { numRuns: runs },
    );
  });

  it('is referred to wherever it was, and nothing else is referred to otherwise', () => {
    fc.assert(
      fc.property(anyLibrary, anyGround, fc.constantFrom(...keys), (components, { recipe: { publication } }, key) => {
        const wanted = (list: ReturnType<typeof referencesOf>): ReturnType<typeof referencesOf> =>
          list.map((each) => ({ ...each, target: each.target === key ? after(key) : each.target }));
        for (const { body } of components) {
          const changed = bodyWithKey(body, key, after(key));
          expect(referencesOf(changed)).toEqual(wanted(referencesOf(body)));
          if (!JSON.stringify(body).includes(`"${key}"`) && !JSON.stringify(body).includes(`{+${key}}`))
            expect(changed).toBe(body);
        }
        expect(referencesOfPublication(renamed(publication, key))).toEqual(
          wanted(referencesOfPublication(publication)),
        );
      }),
    );
  });

  it('keeps the values that were given to it, and those that use it', () => {
    const values = { v1: phrase('own'), v2: phrase('with ', variable('v1')) };
    expect(valuesWithKey(values, 'v1', 'model')).toEqual({
      model: phrase('own'),
      v2: phrase('with ', variable('model')),
    });
  });
});
