import fc from 'fast-check';
import { anyGround, anyLibrary, profiles, sourceFor, type Ground } from '../../../tests/support/any-library.js';
import { axes, fragment, list, only, p, phrase, topicBody, words } from '../../../tests/support/library-parts.js';
import { numberedOf } from '../../../tests/support/build.js';
import { readNumbered } from '../../../tests/support/read-numbered.js';
import { componentFrom, type Component } from '../model/component.js';
import { makeNode, type ContentNode } from '../model/node.js';
import type { Profile } from '../model/profile.js';
import type { Publication } from '../model/publication.js';
import type { Source } from '../model/source.js';
import { axisWithout, profileWithout, type GivenUp } from '../variation/give-up.js';
import { checkBody } from './body.js';
import { bodyWithoutValue, entriesWithoutValue, valuesWithoutValue } from './give-up-value.js';

const retired: GivenUp = { axis: 'os', value: 'linux', into: null };
const merged: GivenUp = { axis: 'os', value: 'linux', into: 'mac' };

/** What a deliverable reads, but for spaces and signs that separate what went, marks on them, and for the empty lines that keep cells and branches. */
function read(source: Source, ground: Ground, profile: Profile): readonly string[] {
  const lines = readNumbered(numberedOf(source, { ...ground.recipe, profile })).flatMap((page) => page.lines);
  return lines.map((each) => each.replace(/[\s,;()“”]|%20|‹[^›]*›/gu, '')).filter((each) => each !== 'paragraph:');
}

function without(publication: Publication, givenUp: GivenUp): Publication {
  const title = bodyWithoutValue(publication.title, givenUp).result as ContentNode;
  const values = valuesWithoutValue(publication.values, givenUp).result;
  return { ...publication, title, values, entries: entriesWithoutValue(publication.entries, givenUp).result };
}

/** A library and its outlines as they are when a value was given up. */
function givenUpIn(
  ground: Ground,
  components: readonly Component[],
  givenUp: GivenUp,
): { source: Source; ground: Ground } {
  const { recipe, publications } = ground;
  const changed: Ground = {
    publications: new Map([...publications].map(([key, each]) => [key, without(each, givenUp)])),
    recipe: {
      ...recipe,
      publication: without(recipe.publication, givenUp),
      values: valuesWithoutValue(recipe.values, givenUp).result,
    },
  };
  const bodies = components.map((each) =>
    componentFrom({ ...each, body: bodyWithoutValue(each.body, givenUp).result }),
  );
  const source = sourceFor(changed, bodies);
  return { ground: changed, source: { ...source, axes: axes.map((axis) => axisWithout(axis, givenUp)) } };
}

describe('A value that is retired', () => {
  it('changes nothing for those who did not have it', () => {
    const others = profiles.filter(({ axes: { os } }) => os?.in?.includes('mac'));
    fc.assert(
      fc.property(anyLibrary, anyGround, fc.constantFrom(...others), (components, ground, profile) => {
        const before = read(sourceFor(ground, components), ground, profile);
        const after = givenUpIn(ground, components, retired);
        expect(read(after.source, after.ground, profile)).toEqual(before);
      }),
      { numRuns: 200 },
    );
  });

  it('is named nowhere any more, and leaves bodies that may be saved', () => {
    fc.assert(
      fc.property(anyLibrary, fc.constantFrom(retired, merged), (components, givenUp) => {
        for (const { body } of components) {
          const { result, onlyForIt } = bodyWithoutValue(body, givenUp);
          if (!onlyForIt) expect(JSON.stringify(result)).not.toMatch(/os is [^"]*linux/);
          if (result.type === 'topic' || result.type === 'fragment')
            expect(checkBody(result as ContentNode)).toEqual([]);
          if (!onlyForIt) expect(bodyWithoutValue(result, givenUp).result).toBe(result);
        }
      }),
    );
  });

  it('takes along what was only for it, and says what that read', () => {
    const body = topicBody(
      'Care',
      only('os is linux', p('For Linux only.')),
      only('os is linux, mac', p('For both, ', words('os is linux', 'and Linux'), ' too.')),
      list(
        only('os is linux', makeNode('list_item', null, [p('First')])),
        only('os is linux', makeNode('list_item', null, [p('Last')])),
      ),
    );
    const { result, lost, conditions } = bodyWithoutValue(body, retired);
    expect(result).toEqual(topicBody('Care', only('os is mac', p('For both, ', 'too.'))));
    expect(lost.map(({ text }) => text)).toEqual(['For Linux only.', 'and Linux', 'First Last']);
    expect(conditions).toBe(5);
  });

  it('leaves a topic alone that is only for it', () => {
    const body = { ...topicBody('Care', p('x')), attrs: { when: 'os is linux' } };
    expect(bodyWithoutValue(body, retired)).toEqual(jasmine.objectContaining({ result: body, onlyForIt: true }));
  });

  it('ends a choice where nothing was left to choose', () => {
    const branch = (when: string | null, text: string): ContentNode => makeNode('branch', { when }, [p(text)]);
    const body = fragment(makeNode('choice', null, [branch('not os is linux', 'a'), branch('os is linux', 'b')]));
    expect(bodyWithoutValue(body, retired).result).toEqual(
      fragment(makeNode('choice', null, [{ ...branch(null, 'a'), attrs: { when: null } }])),
    );
  });

  it('takes a variable’s case and a picture’s file along', () => {
    const file = (digest: string) => ({ digest, mediaType: 'image/png', width: 1, height: 1 });
    const variable = bodyWithoutValue(
      {
        type: 'variable',
        default: null,
        rules: [
          { when: 'os is linux', language: null, value: phrase('L') },
          { when: 'not os is linux', language: 'de', value: phrase('M') },
        ],
      },
      retired,
    );
    expect(variable.result).toEqual({
      type: 'variable',
      default: null,
      rules: [{ when: null, language: 'de', value: phrase('M') }],
    });
    const image = bodyWithoutValue(
      {
        type: 'image',
        alt: '',
        file: file('a'),
        versions: [
          { when: 'os is linux', file: file('b') },
          { when: 'os is mac', file: file('c') },
          { when: 'not os is linux', file: file('d') },
        ],
      },
      retired,
    );
    expect(image.result).toEqual({
      type: 'image',
      alt: '',
      file: file('d'),
      versions: [{ when: 'os is mac', file: file('c') }],
    });
    // Nothing goes that is not told.
    expect(image.lost.map(({ text }) => text)).toEqual(['one of its files', 'its file for all other cases']);
  });
});

describe('A value that is merged', () => {
  it('changes nothing where both were in, or both out', () => {
    const alike: readonly Profile[] = [
      { axes: {} },
      { axes: { level: { default: 'in', out: ['expert'] } } },
      { axes: { os: { default: 'out' } } },
    ];
    fc.assert(
      fc.property(anyLibrary, anyGround, fc.constantFrom(...alike), (components, ground, profile) => {
        const stamped = sourceFor(ground, components);
        const before = read(stamped, ground, profile);
        const after = givenUpIn(ground, components, merged);
        const stamps = stamped.stamps.map((stamp) =>
          stamp.when === 'os is linux' ? { ...stamp, when: 'os is mac' } : stamp,
        );
        const rewritten = {
          axes: Object.fromEntries(
            Object.keys(profile.axes).map((key) => {
              const axis = axes.find((each) => each.key === key)!;
              return [
                key,
                key === 'os'
                  ? profileWithout(profile, axis, axisWithout(axis, merged), merged).axes[key]!
                  : profile.axes[key]!,
              ];
            }),
          ),
        };
        expect(read({ ...after.source, stamps }, after.ground, rewritten)).toEqual(before);
      }),
      { numRuns: 200 },
    );
  });
});
