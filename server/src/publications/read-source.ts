import { isDeepStrictEqual } from 'node:util';
import {
  flattenEntries,
  isSameList,
  libraryOf,
  referencesOf,
  referencesOfPublication,
  type Component,
  type Publication,
  type Reference,
  type Source,
  type VariableValues,
} from '@allomorph/core';
import { LRUCache } from 'lru-cache';
import type { Queryable } from '../db/database.js';
import { readClosure } from '../library/closure.js';
import type { KnownComponent } from '../library/components.js';
import { readAxes, readStamps } from '../variation/vocabulary.js';
import { enginePublication, readPublication } from './publications.js';

/** A publication with everything that it takes to build it. */
export interface PublicationSource {
  readonly publication: Publication;
  readonly source: Source;
  readonly components: readonly Component[];
  /** Older revisions that held placements stay at. */
  readonly held: readonly Component[];
  /** All that was looked for on the way, whether it is there or not. */
  readonly references: readonly string[];
}

/**
 * Reads a publication and all that it leads to.
 * @param values values of variants, which may refer to further components
 * @param more further references to follow
 * @param known what was read before
 * @returns undefined where there is no such publication
 */
export async function readSource(
  db: Queryable,
  workspace: string,
  key: string,
  values: readonly VariableValues[] = [],
  more: readonly Reference[] = [],
  known?: KnownComponent,
): Promise<PublicationSource | undefined> {
  const publications = asBefore(`${workspace} outline ${key}`, await readPublications(db, workspace, key));
  const publication = publications.get(key);
  if (!publication) return undefined;
  const references: Reference[] = [
    ...more,
    ...[...publications.values()].flatMap((each) => referencesOfPublication(each)),
  ];
  for (const [target, value] of values.flatMap((each) => Object.entries(each))) {
    references.push({ target, kind: 'variable', place: null, targetBlock: null, held: null }, ...referencesOf(value));
  }
  const { components, held, references: looked } = await readClosure(db, workspace, references, known);
  const source = {
    library: libraryAsBefore(`${workspace} ${key}`, components, held),
    axes: asBefore(`${workspace} axes`, await readAxes(db, workspace)),
    stamps: asBefore(`${workspace} stamps`, await readStamps(db, workspace)),
    publications,
  };
  return { publication, source, components, held, references: looked };
}

/** How many vocabularies and outlines are kept as they were read last, and how many libraries. */
const mostRead = 50;
const mostLibraries = 12;
const lastRead = new LRUCache<string, object>({ max: mostRead });
const lastLibraries = new LRUCache<
  string,
  {
    readonly components: readonly Component[];
    readonly held: readonly Component[];
    readonly library: Source['library'];
  }
>({ max: mostLibraries });

/**
 * What was read, as the same object as last time where it reads the same: the engine remembers by objects what follows from
 * a vocabulary or an outline.
 */
function asBefore<Read extends object>(name: string, read: Read): Read {
  const last = lastRead.get(name);
  // The same name is only given to what is of one type.
  // eslint-disable-next-line @typescript-eslint/no-unsafe-type-assertion
  if (last !== undefined && isDeepStrictEqual(last, read)) return last as Read;
  lastRead.set(name, read);
  return read;
}

/** The library of some components, the same as last time where it is of the very same ones. */
function libraryAsBefore(
  name: string,
  components: readonly Component[],
  held: readonly Component[],
): Source['library'] {
  const last = lastLibraries.get(name);
  if (last && isSameList(last.components, components) && isSameList(last.held, held)) return last.library;
  const library = libraryOf(components, held);
  lastLibraries.set(name, { components, held, library });
  return library;
}

/** A publication and those that stand in it, however deep. */
async function readPublications(
  db: Queryable,
  workspace: string,
  key: string,
): Promise<ReadonlyMap<string, Publication>> {
  const found = new Map<string, Publication>();
  const open = [key];
  for (let next = open.pop(); next !== undefined; next = open.pop()) {
    if (found.has(next)) continue;
    const publication = await readPublication(db, workspace, next);
    if (!publication) continue;
    const { outlineOf } = publication;
    const over = outlineOf === undefined ? undefined : await readPublication(db, workspace, outlineOf);
    found.set(next, enginePublication(publication, over));
    for (const { entry } of flattenEntries(publication.entries)) {
      if (entry.publication !== undefined) open.push(entry.publication);
    }
  }
  return found;
}
