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
import { links, revised, snippets } from './snippets.js';
import { topics } from './topics.js';
import { variables } from './variables.js';
import { axes, people, profiles, stamps } from './vocabulary.js';

const components = [...variables, ...snippets, ...links, ...topics];

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
        if (entry.topic !== undefined) expect(known.has(entry.topic)).withContext(entry.topic).toBeTrue();
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

  it('has a person for each way of working', () => {
    expect(people.map((person) => person.role).sort()).toEqual(['keeper', 'reviewer', 'writer']);
  });
});
