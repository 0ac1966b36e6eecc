import { assembleTopics, type Source } from '../assemble/assemble.js';
import type { AssembledEntry } from '../assemble/assembled.js';
import { comparePassages, type PassageChange } from '../compare/compare.js';
import { unitsOf } from '../compare/units.js';
import type { Component } from '../library/component.js';
import { collectionTarget, referencesOf, type Reference } from '../library/references.js';
import { flattenEntries, type Recipe, type VariableValues } from '../publication/publication.js';
import { Selector } from '../variation/selector.js';
import { textAttr, walk, type ContentNode } from '../content/node.js';
import { contributionOf, digestOfEntry, targetName } from './digest.js';
import { ReferenceGraph, type Edge } from './reference-graph.js';

/** One topic that comes out differently, with the passages that read so; none where only its markup differs. */
export interface AlteredTopic {
  readonly topic: string;
  readonly title: string;
  readonly passages: readonly PassageChange[];
}

/** Variants in which a change alters the same passages in the same way. */
export interface ReachGroup {
  /** Positions in the list of recipes. */
  readonly variants: readonly number[];
  readonly topics: readonly AlteredTopic[];
}

/**
 * Which variants a new body of a component would alter, and how they would read: the passages before and
 * after, equal ones folded into one group.
 * @param before the library as it is
 * @param after the same library with the component as it would be
 * @param component the component as it would be
 * @param components the library's components, to find what shows it
 * @param recipes those of the variants to look at, of whatever publications
 */
export function reachOf(
  before: Source,
  after: Source,
  component: Component,
  components: readonly Component[],
  recipes: readonly Recipe[],
): readonly ReachGroup[] {
  const topics = showing(component.key, components, recipes);
  const earlier = before.library.component(component.key);
  const targets = targetsOf([...components, component]);
  const groups = new Map<string, { variants: number[]; topics: readonly AlteredTopic[] }>();
  recipes.forEach((recipe, position) => {
    const selector = new Selector(before.axes, recipe.profile);
    const contribution = (each: Component): string => contributionOf(each, selector, recipe.language);
    if (earlier && contribution(earlier) === contribution({ ...component, revision: earlier.revision })) return;
    const altered = alteredTopics(before, after, recipe, topics, targets);
    if (altered.length === 0) return;
    const sign = JSON.stringify(altered.map(({ topic, passages }) => [topic, passages]));
    const group = groups.get(sign);
    if (group) group.variants.push(position);
    else groups.set(sign, { variants: [position], topics: altered });
  });
  return [...groups.values()];
}

function alteredTopics(
  before: Source,
  after: Source,
  recipe: Recipe,
  topics: ReadonlySet<string>,
  targets: ReadonlySet<string>,
): readonly AlteredTopic[] {
  const wanted = (_id: string, topic: string): boolean => topics.has(topic);
  const was = new Map(assembleTopics(before, recipe, wanted).map((entry) => [entry.id, entry]));
  const is = new Map(assembleTopics(after, recipe, wanted).map((entry) => [entry.id, entry]));
  const altered: AlteredTopic[] = [];
  for (const id of new Set([...was.keys(), ...is.keys()])) {
    const [old, fresh] = [was.get(id), is.get(id)];
    if (old && fresh && digestOfEntry(old, targets) === digestOfEntry(fresh, targets)) continue;
    const units = (entry: AssembledEntry | undefined) => (entry ? unitsOf(entry) : []);
    const passages = comparePassages(units(old), units(fresh)).filter(({ kind }) => kind !== 'same');
    const shown = (fresh ?? old) as AssembledEntry;
    altered.push({ topic: shown.topic, title: unitsOf(shown)[0]?.text ?? '', passages });
  }
  return altered;
}

/** The blocks that references of these components lead to. */
function targetsOf(components: readonly Component[]): ReadonlySet<string> {
  const targets = new Set<string>();
  for (const { key, body } of components) {
    if (body.type !== 'topic' && body.type !== 'fragment' && body.type !== 'phrase') continue;
    walk(body as ContentNode, (node) => {
      const block = node.type === 'cross_reference' ? textAttr(node, 'target') : null;
      if (block !== null) targets.add(targetName(textAttr(node, 'component') ?? key, block));
    });
  }
  return targets;
}

/**
 * The components that show a component, directly or through others, itself included. Values of variables
 * that variants, publications and entries give lead on like the variables themselves.
 */
function showing(key: string, components: readonly Component[], recipes: readonly Recipe[]): ReadonlySet<string> {
  const edges: Edge[] = [];
  const add = (user: string, references: readonly Reference[]): void => {
    for (const { target, kind, held } of references) {
      if (kind !== 'cross-reference' && held === null) edges.push({ user, used: target });
    }
  };
  const addValues = (values: VariableValues | undefined): void => {
    for (const [variable, value] of Object.entries(values ?? {})) add(variable, referencesOf(value));
  };
  for (const { key: user, body, labels } of components) {
    add(user, referencesOf(body));
    if (labels?.collection) edges.push({ user: collectionTarget(labels.collection), used: user });
  }
  for (const { values, publication } of recipes) {
    addValues(values);
    addValues(publication.values);
    for (const { entry } of flattenEntries(publication.entries)) addValues(entry.values);
  }
  return new Set([key, ...new ReferenceGraph(edges).usersOf(key).map((user) => user.key)]);
}
