import {
  checkBody,
  entriesOfVersion,
  entriesWithKey,
  flattenEntries,
  freeKey,
  keyFromTitle,
  makeNode,
  makeText,
  recipeOfVersion,
  referencesOf,
  referencesOfPublication,
  routes,
  schemaVersion,
  valuesOfVersion,
  valuesWithKey,
  type ImportNote,
  type OutlineEntry,
  type Publication,
  type PublicationRow,
  type StoredPublication,
  type StoredVariant,
  type VariableValues,
  type VariantRecipe,
} from '@allomorph/core';
import type { Router } from 'express';
import { oneRow, type Database, type Queryable } from '../db/database.js';
import { announce } from '../events/events.js';
import { actorOf, serve } from '../http/context.js';
import { HttpProblem } from '../http/problem.js';
import type { Person } from '../people/person.js';
import type { Analyses } from '../threads/analyses.js';
import { audit, type Actor } from '../audit/audit.js';
import { keysNow } from '../library/former-keys.js';
import { lockLibrary, refuseDeleted, takenKeys, writeReferences } from '../library/components.js';

interface Row {
  key: string;
  title: string;
  revision: number;
  variable_values: VariableValues;
  entries: readonly OutlineEntry[];
  outline_of: string | null;
  schema_version: number;
}

const columns = 'p.key, p.title, p.revision, p.variable_values, p.entries, p.outline_of, p.schema_version';

function stored(row: Row): StoredPublication {
  const { key, title, revision, outline_of: of, schema_version: version } = row;
  const values = valuesOfVersion(row.variable_values, version);
  const entries = entriesOfVersion(row.entries, version);
  return { key, title, revision, values, entries, ...(of === null ? {} : { outlineOf: of }) };
}

/**
 * A stored publication as the engine takes it.
 * @param over the publication that it is another outline over: it gives the title, and values that it does not give itself
 */
export function enginePublication(
  { key, title, values, entries }: StoredPublication,
  over?: StoredPublication,
): Publication {
  const shown = makeNode('phrase', null, [makeText(over?.title ?? title)]);
  return { key, title: shown, values: { ...over?.values, ...values }, entries };
}

export async function readPublication(
  db: Queryable,
  workspace: string,
  key: string,
): Promise<StoredPublication | undefined> {
  const row = await oneRow<Row>(
    db,
    `select ${columns} from publications p where workspace = $1 and key = $2 and deleted_at is null`,
    [workspace, key],
  );
  return row && stored(row);
}

/** All publications of a workspace, by key. */
export async function readPublications(db: Queryable, workspace: string): Promise<readonly StoredPublication[]> {
  const { rows } = await db.query<Row>(
    `select ${columns} from publications p where workspace = $1 and deleted_at is null order by key`,
    [workspace],
  );
  return rows.map(stored);
}

async function requirePublication(db: Queryable, workspace: string, key: string): Promise<StoredPublication> {
  const publication = await readPublication(db, workspace, key);
  if (!publication) throw new HttpProblem(404, `There is no publication “${key}”.`);
  return publication;
}

/** Adds a publication with its references. Its key must be free. */
export async function insertPublication(
  db: Queryable,
  actor: Actor,
  publication: Omit<StoredPublication, 'revision'>,
  notes: readonly ImportNote[] = [],
): Promise<void> {
  await db.query(
    `insert into publications (workspace, key, title, revision, variable_values, entries, changed_by, import_notes, outline_of, schema_version)
     values ($1, $2, $3, 1, $4, $5, $6, $7, $8, $9)`,
    [
      actor.workspace,
      publication.key,
      publication.title,
      JSON.stringify(publication.values),
      JSON.stringify(publication.entries),
      actor.person,
      JSON.stringify(notes),
      publication.outlineOf ?? null,
      schemaVersion,
    ],
  );
  const references = referencesOfPublication(enginePublication({ ...publication, revision: 1 }));
  await writeReferences(db, actor.workspace, 'publication', publication.key, references);
  await audit(db, actor, 'create publication', publication.key);
}

/** Saves a publication against the revision that was changed. */
export async function savePublication(
  db: Queryable,
  actor: Actor,
  key: string,
  change: Omit<StoredPublication, 'key' | 'revision'> & { readonly base: number },
): Promise<StoredPublication> {
  refuseBadEntries(change.entries);
  refuseBadValues(change.values);
  // In turn with deletions, so that nothing is deleted that this outline is about to hold.
  await lockLibrary(db, actor.workspace);
  const current = await oneRow<Row>(
    db,
    `select ${columns} from publications p where workspace = $1 and key = $2 and deleted_at is null for no key update`,
    [actor.workspace, key],
  );
  if (!current) throw new HttpProblem(404, `There is no publication “${key}”.`);
  if (current.revision !== change.base) {
    throw new HttpProblem(409, `Somebody changed “${current.title}” meanwhile.`, { current: stored(current) });
  }
  const saved = await withPublicationKeysOfNow(db, actor.workspace, {
    ...stored(current),
    title: change.title,
    revision: current.revision + 1,
    values: change.values,
    entries: change.entries,
  });
  await db.query(
    `update publications set title = $3, revision = $4, variable_values = $5, entries = $6, changed_by = $7, changed_at = now(),
            schema_version = $8
      where workspace = $1 and key = $2`,
    [
      actor.workspace,
      key,
      saved.title,
      saved.revision,
      JSON.stringify(saved.values),
      JSON.stringify(saved.entries),
      actor.person,
      schemaVersion,
    ],
  );
  const references = referencesOfPublication(enginePublication(saved));
  await refuseDeleted(db, actor.workspace, key, references);
  await refuseMissingPublications(db, actor.workspace, saved);
  await writeReferences(db, actor.workspace, 'publication', key, references);
  await audit(db, actor, 'save publication', key, { revision: saved.revision });
  await announce(db, actor.workspace, { type: 'publication', key, revision: saved.revision, by: actor.person ?? '' });
  return saved;
}

/** A publication that was written before some components got other keys, as it would be written now. */
async function withPublicationKeysOfNow(
  db: Queryable,
  workspace: string,
  publication: StoredPublication,
): Promise<StoredPublication> {
  const named = referencesOfPublication(enginePublication(publication)).map(({ target }) => target);
  let { values, entries } = publication;
  for (const [former, key] of await keysNow(db, workspace, named)) {
    values = valuesWithKey(values, former, key);
    entries = entriesWithKey(entries, former, key);
  }
  return { ...publication, values, entries };
}

/** Values of variables likewise. */
async function valuesWithKeysOfNow(db: Queryable, workspace: string, values: VariableValues): Promise<VariableValues> {
  const named = Object.entries(values).flatMap(([key, value]) => [
    key,
    ...referencesOf(value).map((each) => each.target),
  ]);
  const now = await keysNow(db, workspace, named);
  return [...now].reduce((changed, [former, key]) => valuesWithKey(changed, former, key), values);
}

/** Refuses writers to change outlines where keepers keep that to themselves. */
async function refuseOutline(db: Queryable, { role, workspace }: Person): Promise<void> {
  if (role === 'keeper') return;
  const row = await oneRow<{ allowed: boolean }>(
    db,
    'select writers_outline as allowed from workspaces where id = $1',
    [workspace],
  );
  if (!row?.allowed) throw new HttpProblem(403, 'Keepers keep outlines to themselves. Ask one of them.');
}

function refuseBadEntries(entries: readonly OutlineEntry[]): void {
  const seen = new Set<string>();
  for (const { entry } of flattenEntries(entries)) {
    if (seen.has(entry.id)) throw new HttpProblem(422, `Two entries have the id “${entry.id}”.`);
    seen.add(entry.id);
    const { topic, publication, link, title } = entry;
    const shown = [topic, publication, link].filter((each) => each !== undefined);
    if (shown.length === 0 && !title?.trim()) {
      throw new HttpProblem(422, 'An entry needs a topic, a publication, a link or a heading.');
    }
    if (link !== undefined && shown.length > 1) {
      throw new HttpProblem(422, `The entry “${entry.id}” is a link and something else: it can be one of them.`);
    }
    refuseBadValues(entry.values ?? {});
  }
}

/** Refuses an outline that holds a publication which is in the bin. */
async function refuseMissingPublications(
  db: Queryable,
  workspace: string,
  { entries }: StoredPublication,
): Promise<void> {
  const held = flattenEntries(entries).flatMap(({ entry }) => entry.publication ?? []);
  const deleted = await oneRow<{ title: string }>(
    db,
    'select title from publications where workspace = $1 and key = any($2) and deleted_at is not null limit 1',
    [workspace, held],
  );
  if (deleted)
    throw new HttpProblem(409, `“${deleted.title}” is in the bin. Bring it back first, or take it out here.`);
}

function refuseBadValues(values: VariableValues): void {
  for (const [key, value] of Object.entries(values)) {
    const fault = value.type === 'phrase' ? checkBody(value)[0] : { message: 'a value is a phrase' };
    if (fault) throw new HttpProblem(422, `The value of “${key}” is not valid: ${fault.message}`);
  }
}

export async function readVariants(
  db: Queryable,
  workspace: string,
  publication?: string,
): Promise<readonly StoredVariant[]> {
  const { rows } = await db.query<{
    id: string;
    publication: string;
    title: string;
    recipe: VariantRecipe;
    revision: number;
    version: number;
  }>(
    `select v.id, v.publication, v.title, v.recipe, v.revision, v.schema_version as version from variants v
       join publications p on p.workspace = v.workspace and p.key = v.publication and p.deleted_at is null
      where v.workspace = $1 and v.deleted_at is null and ($2::text is null or v.publication = $2)
      order by v.publication, v.title`,
    [workspace, publication ?? null],
  );
  return rows.map(({ recipe, version, ...row }) => ({ ...recipeOfVersion(recipe, version), ...row }));
}

/** Adds a variant. */
export async function insertVariant(
  db: Queryable,
  actor: Actor,
  publication: string,
  recipe: VariantRecipe,
): Promise<string> {
  refuseBadValues(recipe.values);
  const row = await oneRow<{ id: string }>(
    db,
    'insert into variants (workspace, publication, title, recipe, schema_version) values ($1, $2, $3, $4, $5) returning id',
    [actor.workspace, publication, recipe.title, JSON.stringify(recipe), schemaVersion],
  );
  await audit(db, actor, 'create variant', `${publication} / ${recipe.title}`);
  return row?.id ?? '';
}

/**
 * Saves a recipe against the revision that was changed.
 * @throws HttpProblem 404; 409 with what there is now where somebody changed it
 */
export async function saveVariant(
  db: Queryable,
  actor: Actor,
  id: string,
  { base, ...wanted }: VariantRecipe & { readonly base: number },
): Promise<StoredVariant> {
  refuseBadValues(wanted.values);
  const recipe = { ...wanted, values: await valuesWithKeysOfNow(db, actor.workspace, wanted.values) };
  await db.query('select from variants where workspace = $1 and id = $2 for no key update', [actor.workspace, id]);
  const current = (await readVariants(db, actor.workspace)).find((variant) => variant.id === id);
  if (!current) throw new HttpProblem(404, 'There is no such variant.');
  if (current.revision !== base)
    throw new HttpProblem(409, `Somebody changed “${current.title}” meanwhile.`, { current });
  await db.query(
    'update variants set title = $3, recipe = $4, schema_version = $5, revision = revision + 1 where workspace = $1 and id = $2',
    [actor.workspace, id, recipe.title, JSON.stringify(recipe), schemaVersion],
  );
  await audit(db, actor, 'save variant', `${current.publication} / ${recipe.title}`);
  return { ...recipe, id, publication: current.publication, revision: base + 1 };
}

/**
 * Puts a publication into the bin, with its variants and their builds.
 * @throws HttpProblem 404; 409 that names a publication that holds it
 */
async function deletePublication(db: Queryable, actor: Actor, key: string): Promise<void> {
  await lockLibrary(db, actor.workspace);
  const { title } = await requirePublication(db, actor.workspace, key);
  const holder = await oneRow<{ title: string }>(
    db,
    `select title from publications
      where workspace = $1 and key <> $2 and deleted_at is null
        and jsonb_path_exists(entries, '$.**.publication ? (@ == $key)', jsonb_build_object('key', $2::text))
      order by title limit 1`,
    [actor.workspace, key],
  );
  if (holder) throw new HttpProblem(409, `“${title}” stands in “${holder.title}”. Take it out there first.`);
  const outline = await oneRow<{ title: string }>(
    db,
    'select title from publications where workspace = $1 and outline_of = $2 and deleted_at is null order by title limit 1',
    [actor.workspace, key],
  );
  if (outline) throw new HttpProblem(409, `“${outline.title}” is another outline over “${title}”. Delete that first.`);
  await db.query('update publications set deleted_at = now(), deleted_by = $3 where workspace = $1 and key = $2', [
    actor.workspace,
    key,
    actor.person,
  ]);
  await writeReferences(db, actor.workspace, 'publication', key, []);
  await audit(db, actor, 'delete publication', key);
}

/** Brings a publication back out of the bin, with its variants. */
export async function restorePublication(db: Queryable, actor: Actor, key: string): Promise<void> {
  await lockLibrary(db, actor.workspace);
  const row = await oneRow<Row>(
    db,
    `update publications p set deleted_at = null, deleted_by = null
      where workspace = $1 and key = $2 and deleted_at is not null returning ${columns}`,
    [actor.workspace, key],
  );
  if (!row) throw new HttpProblem(404, 'This is not in the bin any more.');
  const publication = await withPublicationKeysOfNow(db, actor.workspace, stored(row));
  const { outlineOf } = publication;
  if (outlineOf !== undefined && !(await readPublication(db, actor.workspace, outlineOf)))
    throw new HttpProblem(409, `The publication of “${publication.title}” is in the bin. Bring that back first.`);
  await db.query(
    'update publications set variable_values = $3, entries = $4, schema_version = $5 where workspace = $1 and key = $2',
    [actor.workspace, key, JSON.stringify(publication.values), JSON.stringify(publication.entries), schemaVersion],
  );
  await writeReferences(
    db,
    actor.workspace,
    'publication',
    key,
    referencesOfPublication(enginePublication(publication)),
  );
  await audit(db, actor, 'restore', key);
}

/**
 * Brings a variant back out of the bin, with its builds.
 * @throws HttpProblem 409 where its publication is in the bin, or another variant took its title
 */
export async function restoreVariant(db: Queryable, actor: Actor, id: string): Promise<void> {
  const row = await oneRow<{ title: string; publication: string; recipe: VariantRecipe; version: number }>(
    db,
    `update variants set deleted_at = null, deleted_by = null
      where workspace = $1 and id::text = $2 and deleted_at is not null
      returning title, publication, recipe, schema_version as version`,
    [actor.workspace, id],
  );
  if (!row) throw new HttpProblem(404, 'This is not in the bin any more.');
  if (!(await readPublication(db, actor.workspace, row.publication)))
    throw new HttpProblem(409, `The publication of “${row.title}” is in the bin. Bring that back first.`);
  const values = await valuesWithKeysOfNow(db, actor.workspace, valuesOfVersion(row.recipe.values, row.version));
  await db.query('update variants set recipe = $3, schema_version = $4 where workspace = $1 and id::text = $2', [
    actor.workspace,
    id,
    JSON.stringify({ ...row.recipe, values }),
    schemaVersion,
  ]);
  await audit(db, actor, 'restore variant', `${row.publication} / ${row.title}`);
}

/** Publications, their outlines and their variants. */
export function publicationRoutes(router: Router, db: Database, analyses: Analyses): void {
  serve(router, routes.coverage, ({ person, params, signal }) =>
    analyses.coverage(person.workspace, params.key, signal),
  );

  serve(router, routes.referenceReadings, async ({ person, params, query: { from, to, block = null }, signal }) => ({
    readings: await analyses.reference(person.workspace, { variant: params.id, from, to, block }, signal),
  }));

  serve(router, routes.importNotes, async ({ person, params }) => {
    const row = await oneRow<{ notes: readonly ImportNote[] }>(
      db,
      'select import_notes as notes from publications where workspace = $1 and key = $2 and deleted_at is null',
      [person.workspace, params.key],
    );
    if (!row) throw new HttpProblem(404, `There is no publication “${params.key}”.`);
    return row.notes;
  });

  serve(router, routes.publications, async ({ person }) => {
    const { rows } = await db.query<Row & { variants: number }>(
      `select ${columns}, (select count(*)::integer from variants v where v.workspace = p.workspace and v.publication = p.key and v.deleted_at is null) as variants
         from publications p where p.workspace = $1 and p.deleted_at is null order by p.title, p.key`,
      [person.workspace],
    );
    return rows.map((row): PublicationRow => ({
      key: row.key,
      title: row.title,
      revision: row.revision,
      entries: flattenEntries(row.entries).length,
      variants: row.variants,
      outlineOf: row.outline_of,
    }));
  });

  serve(router, routes.createPublication, ({ person, body }) =>
    db.transaction(async (client) => {
      await lockLibrary(client, person.workspace);
      const taken = await takenKeys(client, person.workspace);
      const key = freeKey(keyFromTitle(body.title), (each) => taken.has(each));
      const over =
        body.outlineOf === undefined ? null : await requirePublication(client, person.workspace, body.outlineOf);
      const publication = {
        key,
        title: body.title,
        values: {},
        entries: over?.entries ?? [],
        // One over another outline is over the same publication.
        ...(over ? { outlineOf: over.outlineOf ?? over.key } : {}),
      };
      await insertPublication(client, actorOf(person), publication);
      return { ...publication, revision: 1 };
    }),
  );

  serve(router, routes.publication, ({ person, params }) => requirePublication(db, person.workspace, params.key));

  serve(router, routes.savePublication, ({ person, params, body }) =>
    db.transaction(async (client) => {
      await refuseOutline(client, person);
      return savePublication(client, actorOf(person), params.key, body);
    }),
  );

  serve(router, routes.deletePublication, async ({ person, params }) => {
    await db.transaction(async (client) => {
      await deletePublication(client, actorOf(person), params.key);
    });
  });

  serve(router, routes.variants, ({ person }) => readVariants(db, person.workspace));

  serve(router, routes.createVariant, ({ person, params, body }) =>
    db.transaction(async (client) => {
      await requirePublication(client, person.workspace, params.key);
      const id = await insertVariant(client, actorOf(person), params.key, body);
      return { ...body, id, publication: params.key, revision: 1 };
    }),
  );

  serve(router, routes.saveVariant, ({ person, params, body }) =>
    db.transaction(async (client) => {
      return saveVariant(client, actorOf(person), params.id, body);
    }),
  );

  serve(router, routes.deleteVariant, async ({ person, params }) => {
    await db.transaction(async (client) => {
      const row = await oneRow<{ title: string }>(
        client,
        `update variants set deleted_at = now(), deleted_by = $3
          where workspace = $1 and id = $2 and deleted_at is null returning title`,
        [person.workspace, params.id, person.id],
      );
      if (!row) throw new HttpProblem(404, 'There is no such variant.');
      await audit(client, actorOf(person), 'delete variant', row.title);
    });
  });
}
