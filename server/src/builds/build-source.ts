import { deflateRawSync, inflateRawSync } from 'node:zlib';
import {
  componentFrom,
  entriesOfVersion,
  libraryOf,
  recipeOfVersion,
  schemaVersion,
  type Axis,
  type Component,
  type ComponentLabels,
  type Publication,
  type Recipe,
  type Source,
  type Stamp,
} from '@allomorph/core';
import type { Queryable } from '../db/database.js';
import { readRevisions } from '../library/components.js';
import { keysNow } from '../library/former-keys.js';

/** What a build was made of: everything but the bodies of components, which stand in their revisions for good. */
interface KeptSource {
  readonly version: typeof keptVersion;
  /** The version of the content schema of the values in it; missing in builds that were made before this was kept. */
  readonly schema?: number;
  readonly recipe: Recipe;
  readonly axes: readonly Axis[];
  /** Missing in builds that were made when there were none. */
  readonly stamps?: readonly Stamp[];
  readonly publications: readonly (readonly [string, Publication])[];
  /** Labels change without a revision. */
  readonly components: readonly (readonly [key: string, revision: number, labels: ComponentLabels | null])[];
  readonly held: readonly (readonly [key: string, revision: number])[];
}

const keptVersion = 1;

/** What it takes to build, as it was read. */
export interface ReadSource {
  readonly source: Source;
  readonly recipe: Recipe;
  readonly components: readonly Component[];
  /** Older revisions that held placements stay at. */
  readonly held: readonly Component[];
}

/** What a build is made of, to be kept with it. */
export function keepSource({ source, recipe, components, held }: ReadSource): Buffer {
  const kept: KeptSource = {
    version: keptVersion,
    schema: schemaVersion,
    recipe,
    axes: source.axes,
    stamps: source.stamps,
    publications: [...source.publications],
    components: components.map(({ key, revision, labels }) => [key, revision, labels ?? null]),
    held: held.map(({ key, revision }) => [key, revision]),
  };
  return deflateRawSync(JSON.stringify(kept));
}

/**
 * What a build was made of, from what was kept of it and the revisions of then.
 * @throws Error where that cannot be had any more
 */
export async function readKeptSource(db: Queryable, workspace: string, packed: Buffer): Promise<ReadSource> {
  // What this module wrote.
  // eslint-disable-next-line @typescript-eslint/no-unsafe-type-assertion
  const kept = JSON.parse(inflateRawSync(packed).toString()) as KeptSource;
  if (kept.version !== keptVersion) throw new Error('This build is of an older version of the application.');
  const labels = new Map(kept.components.map(([key, , each]) => [key, each]));
  const read = async (names: readonly (readonly [string, number, ...unknown[]])[]): Promise<readonly Component[]> => {
    // Keys that were changed since are those of then again: names of pages and references are made of them.
    const keys = names.map(([key]) => key);
    const now = await keysNow(db, workspace, keys);
    const wanted = names.map(([key, revision]) => ({ key: now.get(key) ?? key, revision }));
    const found = new Map(
      (await readRevisions(db, workspace, wanted, true)).map((each) => [`${each.key}@${each.revision}`, each]),
    );
    return names.map(([key, revision]) => {
      const component = found.get(`${now.get(key) ?? key}@${revision}`);
      if (!component) throw new Error(`Revision ${revision} of “${key}”, of which this build was made, is gone.`);
      return component.key === key ? component : componentFrom({ ...component, key });
    });
  };
  const components = (await read(kept.components)).map((component): Component => {
    const then = labels.get(component.key);
    const rest = Object.fromEntries(Object.entries(component).filter(([name]) => name !== 'labels'));
    // A component without its labels of now is one, too.
    // eslint-disable-next-line @typescript-eslint/no-unsafe-type-assertion
    return componentFrom({ ...(rest as unknown as Component), ...(then ? { labels: then } : {}) });
  });
  const held = await read(kept.held);
  const { schema = 1 } = kept;
  const ofToday = (publication: Publication): Publication => ({
    ...recipeOfVersion(publication, schema),
    entries: entriesOfVersion(publication.entries, schema),
  });
  const publications = new Map(kept.publications.map(([key, publication]) => [key, ofToday(publication)]));
  const recipe = { ...recipeOfVersion(kept.recipe, schema), publication: ofToday(kept.recipe.publication) };
  return {
    source: { library: libraryOf(components, held), axes: kept.axes, stamps: kept.stamps ?? [], publications },
    recipe: { ...recipe, design: { ...recipe.design, stamps: recipe.design.stamps ?? {} } },
    components,
    held,
  };
}
