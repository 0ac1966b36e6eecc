import { collectionOf, referencesOf, type Component, type ComponentBody, type Reference } from '@allomorph/core';
import type { Queryable } from '../db/database.js';
import { readCollections, readComponent, readComponents, type KnownComponent } from './components.js';

/** Everything that some references lead to, as far as it goes. */
export interface Closure {
  readonly components: readonly Component[];
  /** Older revisions that held placements stay at. */
  readonly held: readonly Component[];
  /** What was looked for, whether it is there or not: keys, and the names of collections. */
  readonly references: readonly string[];
}

/**
 * Reads the components that references lead to, and those that these lead to, and so on. Held revisions
 * are read with what they refer to.
 * @param known what was read before
 */
export async function readClosure(
  db: Queryable,
  workspace: string,
  references: readonly Reference[],
  known?: KnownComponent,
): Promise<Closure> {
  const components = new Map<string, Component>();
  const held = new Map<string, Component>();
  const asked = new Set<string>();
  const newlyAsked = (references: readonly Reference[]): readonly Reference[] =>
    references.filter((each) => {
      const name = `${each.target}@${each.held ?? 'newest'}`;
      if (asked.has(name)) return false;
      asked.add(name);
      return true;
    });
  let open = newlyAsked(references);
  while (open.length > 0) {
    const keys = open.map((each) => each.target).filter((key) => !components.has(key));
    const next: Reference[] = [];
    const collections = keys.flatMap((key) => collectionOf(key) ?? []);
    const found = [
      ...(await readComponents(db, workspace, [...new Set(keys)], known)),
      ...(await readCollections(db, workspace, collections, known)),
    ];
    for (const component of found) {
      components.set(component.key, component);
      next.push(...referencesIn(component.body));
    }
    for (const { target, held: revision } of open) {
      const newest = components.get(target);
      if (revision === null || !newest || newest.revision === revision) continue;
      const older = known?.(target, revision) ?? (await readComponent(db, workspace, target, revision));
      if (!older) continue;
      held.set(`${target}@${revision}`, older);
      next.push(...referencesIn(older.body));
    }
    open = newlyAsked(next);
  }
  const looked = [...new Set([...asked].map((name) => name.slice(0, name.lastIndexOf('@'))))];
  return { components: [...components.values()], held: [...held.values()], references: looked };
}

const references = new WeakMap<ComponentBody, readonly Reference[]>();

/** The references in a body, found once: components that are known keep theirs. */
function referencesIn(body: ComponentBody): readonly Reference[] {
  let found = references.get(body);
  if (!found) references.set(body, (found = referencesOf(body)));
  return found;
}
