import {
  checkBody,
  conditionsOf,
  componentFrom,
  contentBody,
  flattenEntries,
  isBuiltInVariable,
  stampTarget,
  referencesOf,
  undefinedIn,
  type VariableBody,
} from '@allomorph/core';
import { publications, variants } from './publications.js';
import { components } from './components.js';
import { revised } from './snippets.js';
import { axes, people, profiles, stamps } from './vocabulary.js';

describe('The demo library', () => {
  it('uses each key once', () => {
    const keys = [...components, ...publications].map((each) => each.key);
    expect(new Set(keys).size).toBe(keys.length);
  });

  it('has good bodies, in every component and every value', () => {
    for (const { key, body, kind } of [...components, ...revised]) {
      const bodies =
        kind === 'variable'
          ? [(body as VariableBody).default, ...(body as VariableBody).rules.map((rule) => rule.value)]
          : [contentBody(componentFrom({ key, body, kind, title: key, revision: 1 }))];
      for (const each of bodies) if (each) expect(checkBody(each)).withContext(key).toEqual([]);
    }
  });

  it('refers only to what is there', () => {
    const known = new Set([
      ...components.map((each) => each.key),
      'picture-station',
      'picture-bracket',
      'picture-display',
      'picture-network',
      'picture-siting',
      'picture-gauge',
    ]);
    for (const { key, body } of components) {
      for (const { target } of referencesOf(body))
        expect(
          known.has(target) || isBuiltInVariable(target) || stamps.some(({ key: own }) => stampTarget(own) === target),
        )
          .withContext(`${key} → ${target}`)
          .toBeTrue();
    }
    for (const { entries } of publications) {
      for (const { entry } of flattenEntries(entries)) {
        const shown = entry.topic ?? entry.link;
        if (shown !== undefined) expect(known.has(shown)).withContext(shown).toBeTrue();
        if (entry.publication !== undefined)
          expect(publications.some((each) => each.key === entry.publication)).toBeTrue();
      }
    }
  });

  it('names defined values only, but for one honest misspelling', () => {
    const undefinedKeys = components.flatMap(({ key, body }) =>
      conditionsOf(body).flatMap(({ when }) =>
        undefinedIn(when, { axes, stamps }).map((each) => `${key}: ${each.value}`),
      ),
    );
    expect(undefinedKeys).toEqual(['checklist: austraila']);
  });

  it('has variants of publications and profiles that are there', () => {
    for (const { publication, recipe } of variants) {
      expect(publications.some((each) => each.key === publication)).toBeTrue();
      expect(profiles.some((each) => each.key === recipe.profile))
        .withContext(recipe.profile)
        .toBeTrue();
    }
  });

  it('is as large as a team’s first library', () => {
    const count = (kind: string): number => components.filter((each) => each.kind === kind).length;
    expect(count('topic')).toBeGreaterThanOrEqual(90);
    expect(count('snippet')).toBeGreaterThanOrEqual(60);
    expect(count('variable')).toBeGreaterThanOrEqual(50);
    expect([profiles.length, variants.length]).toEqual([8, 16]);
    expect([...new Set(variants.map(({ recipe }) => recipe.language))].sort()).toEqual(['de', 'en']);
  });

  it('has a person for each way of working', () => {
    expect(people.map((person) => person.role).sort()).toEqual(['keeper', 'reviewer', 'writer']);
  });
});
