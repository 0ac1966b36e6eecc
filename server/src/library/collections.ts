import {
  collectionTarget,
  contentBody,
  mapNodes,
  textAttr,
  type KnownCollection,
  type RenameCollection,
} from '@allomorph/core';
import { audit, type Actor } from '../audit/audit.js';
import type { Database, Queryable } from '../db/database.js';
import { announce } from '../events/events.js';
import { HttpProblem } from '../http/problem.js';
import { lockLibrary, readComponents, saveComponent } from './components.js';
import { followInSearches } from './saved-searches.js';

/** The collections that have components, and how many each has itself; what is archived does not count. */
export async function knownCollections(db: Queryable, workspace: string): Promise<readonly KnownCollection[]> {
  const { rows } = await db.query<KnownCollection>(
    `select collection as name, (count(*) filter (where archived_at is null))::integer as count from components
      where workspace = $1 and collection is not null and deleted_at is null group by collection order by collection`,
    [workspace],
  );
  return rows;
}

const mostSlots = 500;

/**
 * Gives a collection another name or place, with all that is in it and below; slots that take from it follow, each component
 * with such slots in a new revision, and so do searches that people keep. It is undone by the way back.
 * @throws HttpProblem 404 where there is none, 409 where the new name is taken, 422 where it would stand in itself
 */
export function renameCollection(
  db: Database,
  actor: Actor,
  { from, to }: RenameCollection,
): Promise<{ readonly moved: number }> {
  return db.transaction(async (client) => {
    await lockLibrary(client, actor.workspace);
    if (to.startsWith(`${from}/`)) throw new HttpProblem(422, `“${from}” cannot stand in itself.`);
    const names = (await knownCollections(client, actor.workspace)).map(({ name }) => name);
    const isIn = (name: string, way: string): boolean => name === way || name.startsWith(`${way}/`);
    const moving = names.filter((name) => isIn(name, from));
    if (moving.length === 0) throw new HttpProblem(404, `There is no collection “${from}”.`);
    if (from === to) return { moved: 0 };
    const taken = names.find((name) => isIn(name, to) && !isIn(name, from));
    if (taken !== undefined)
      throw new HttpProblem(409, `There is a collection “${to}” already: move the components into it instead.`);
    const renamed = new Map(moving.map((name) => [name, to + name.slice(from.length)]));
    await followInSlots(client, actor, renamed);
    await followInSearches(client, actor.workspace, 'collection', (way) =>
      isIn(way, from) ? to + way.slice(from.length) : null,
    );
    const { rows } = await client.query<{ key: string; revision: number }>(
      `update components set collection = $3 || substr(collection, length($2) + 1)
        where workspace = $1 and (collection = $2 or starts_with(collection, $2 || '/')) returning key, revision`,
      [actor.workspace, from, to],
    );
    await audit(client, actor, 'rename collection', to, { from });
    for (const { key, revision } of rows)
      await announce(client, actor.workspace, { type: 'component', key, revision, by: actor.person ?? '' });
    return { moved: rows.length };
  });
}

/** Slots that take from collections take from them under their new names. */
async function followInSlots(client: Queryable, actor: Actor, renamed: ReadonlyMap<string, string>): Promise<void> {
  const { rows } = await client.query<{ source: string }>(
    `select distinct source from component_references
      where workspace = $1 and source_kind = 'component' and kind = 'slot' and target = any($2) limit ${mostSlots + 1}`,
    [actor.workspace, [...renamed.keys()].map(collectionTarget)],
  );
  if (rows.length > mostSlots)
    throw new HttpProblem(422, `More than ${mostSlots} components have slots that take from this collection.`);
  const sources = rows.map(({ source }) => source);
  for (const component of await readComponents(client, actor.workspace, sources)) {
    const body = contentBody(component);
    if (!body) continue;
    const { key, revision: base, title } = component;
    const followed = mapNodes(body, (node) => {
      const to = node.type === 'slot' ? renamed.get(textAttr(node, 'collection') ?? '') : undefined;
      return to === undefined ? node : { ...node, attrs: { ...node.attrs, collection: to } };
    });
    await saveComponent(client, actor, key, { base, title, body: followed });
  }
}
