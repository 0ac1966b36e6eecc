import {
  checkBody,
  flattenEntries,
  freeKey,
  keyFromTitle,
  makeNode,
  makeText,
  referencesOfPublication,
  routes,
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
import { serve } from '../http/context.js';
import { HttpProblem } from '../http/problem.js';
import { audit, type Actor } from '../library/audit.js';
import { takenKeys, writeReferences } from '../library/components.js';
import { actorOf } from '../library/routes.js';

interface Row {
  key: string;
  title: string;
  revision: number;
  variable_values: VariableValues;
  entries: readonly OutlineEntry[];
}

const columns = 'p.key, p.title, p.revision, p.variable_values, p.entries';

function stored(row: Row): StoredPublication {
  return { key: row.key, title: row.title, revision: row.revision, values: row.variable_values, entries: row.entries };
}

/** A stored publication as the engine takes it. */
export function enginePublication(publication: StoredPublication): Publication {
  return { ...publication, title: makeNode('phrase', null, [makeText(publication.title)]) };
}

export async function readPublication(
  db: Queryable,
  workspace: string,
  key: string,
): Promise<StoredPublication | undefined> {
  const row = await oneRow<Row>(db, `select ${columns} from publications p where workspace = $1 and key = $2`, [
    workspace,
    key,
  ]);
  return row && stored(row);
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
    `insert into publications (workspace, key, title, revision, variable_values, entries, changed_by, import_notes)
     values ($1, $2, $3, 1, $4, $5, $6, $7)`,
    [
      actor.workspace,
      publication.key,
      publication.title,
      JSON.stringify(publication.values),
      JSON.stringify(publication.entries),
      actor.person,
      JSON.stringify(notes),
    ],
  );
  const references = referencesOfPublication(enginePublication({ ...publication, revision: 1 }));
  await writeReferences(db, actor.workspace, 'publication', publication.key, references);
  await audit(db, actor, 'create publication', publication.key);
}

async function savePublication(
  db: Queryable,
  actor: Actor,
  key: string,
  change: Omit<StoredPublication, 'key' | 'revision'> & { readonly base: number },
): Promise<StoredPublication> {
  const current = await oneRow<Row>(
    db,
    `select ${columns} from publications p where workspace = $1 and key = $2 for update`,
    [actor.workspace, key],
  );
  if (!current) throw new HttpProblem(404, `There is no publication “${key}”.`);
  if (current.revision !== change.base) {
    throw new HttpProblem(409, `Somebody changed “${current.title}” meanwhile.`, { current: stored(current) });
  }
  refuseBadEntries(change.entries);
  refuseBadValues(change.values);
  const saved: StoredPublication = {
    key,
    title: change.title,
    revision: current.revision + 1,
    values: change.values,
    entries: change.entries,
  };
  await db.query(
    `update publications set title = $3, revision = $4, variable_values = $5, entries = $6, changed_by = $7, changed_at = now()
      where workspace = $1 and key = $2`,
    [
      actor.workspace,
      key,
      saved.title,
      saved.revision,
      JSON.stringify(saved.values),
      JSON.stringify(saved.entries),
      actor.person,
    ],
  );
  await writeReferences(db, actor.workspace, 'publication', key, referencesOfPublication(enginePublication(saved)));
  await audit(db, actor, 'save publication', key, { revision: saved.revision });
  await announce(db, actor.workspace, { type: 'publication', key, revision: saved.revision, by: actor.person ?? '' });
  return saved;
}

function refuseBadEntries(entries: readonly OutlineEntry[]): void {
  const seen = new Set<string>();
  for (const { entry } of flattenEntries(entries)) {
    if (seen.has(entry.id)) throw new HttpProblem(422, `Two entries have the id “${entry.id}”.`);
    seen.add(entry.id);
    if (entry.topic === undefined && entry.publication === undefined) {
      throw new HttpProblem(422, 'An entry needs a topic or a publication.');
    }
    refuseBadValues(entry.values ?? {});
  }
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
  const { rows } = await db.query<{ id: string; publication: string; title: string; recipe: VariantRecipe }>(
    `select id, publication, title, recipe from variants
      where workspace = $1 and ($2::text is null or publication = $2) order by publication, title`,
    [workspace, publication ?? null],
  );
  return rows.map((row) => ({ ...row.recipe, id: row.id, publication: row.publication, title: row.title }));
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
    'insert into variants (workspace, publication, title, recipe) values ($1, $2, $3, $4) returning id',
    [actor.workspace, publication, recipe.title, JSON.stringify(recipe)],
  );
  await audit(db, actor, 'create variant', `${publication} / ${recipe.title}`);
  return row?.id ?? '';
}

/** Publications, their outlines and their variants. */
export function publicationRoutes(router: Router, db: Database): void {
  serve(router, routes.importNotes, async ({ person, params }) => {
    const row = await oneRow<{ notes: readonly ImportNote[] }>(
      db,
      'select import_notes as notes from publications where workspace = $1 and key = $2',
      [person.workspace, params.key],
    );
    if (!row) throw new HttpProblem(404, `There is no publication “${params.key}”.`);
    return row.notes;
  });

  serve(router, routes.publications, async ({ person }) => {
    const { rows } = await db.query<Row & { variants: number }>(
      `select ${columns}, (select count(*)::integer from variants v where v.workspace = p.workspace and v.publication = p.key) as variants
         from publications p where p.workspace = $1 order by p.title, p.key`,
      [person.workspace],
    );
    return rows.map((row): PublicationRow => ({
      key: row.key,
      title: row.title,
      revision: row.revision,
      entries: flattenEntries(row.entries).length,
      variants: row.variants,
    }));
  });

  serve(router, routes.createPublication, ({ person, body }) =>
    db.transaction(async (client) => {
      const taken = await takenKeys(client, person.workspace);
      const key = freeKey(keyFromTitle(body.title), (each) => taken.has(each));
      const publication = { key, title: body.title, values: {}, entries: [] };
      await insertPublication(client, actorOf(person), publication);
      return { ...publication, revision: 1 };
    }),
  );

  serve(router, routes.publication, ({ person, params }) => requirePublication(db, person.workspace, params.key));

  serve(router, routes.savePublication, ({ person, params, body }) =>
    db.transaction((client) => savePublication(client, actorOf(person), params.key, body)),
  );

  serve(router, routes.deletePublication, async ({ person, params }) => {
    await db.transaction(async (client) => {
      await requirePublication(client, person.workspace, params.key);
      await client.query('delete from publications where workspace = $1 and key = $2', [person.workspace, params.key]);
      await writeReferences(client, person.workspace, 'publication', params.key, []);
      await audit(client, actorOf(person), 'delete publication', params.key);
    });
  });

  serve(router, routes.variants, ({ person }) => readVariants(db, person.workspace));

  serve(router, routes.createVariant, ({ person, params, body }) =>
    db.transaction(async (client) => {
      await requirePublication(client, person.workspace, params.key);
      const id = await insertVariant(client, actorOf(person), params.key, body);
      return { ...body, id, publication: params.key };
    }),
  );

  serve(router, routes.saveVariant, ({ person, params, body }) =>
    db.transaction(async (client) => {
      refuseBadValues(body.values);
      const row = await oneRow<{ publication: string }>(
        client,
        'update variants set title = $3, recipe = $4 where workspace = $1 and id = $2 returning publication',
        [person.workspace, params.id, body.title, JSON.stringify(body)],
      );
      if (!row) throw new HttpProblem(404, 'There is no such variant.');
      await audit(client, actorOf(person), 'save variant', `${row.publication} / ${body.title}`);
      return { ...body, id: params.id, publication: row.publication };
    }),
  );

  serve(router, routes.deleteVariant, async ({ person, params }) => {
    await db.transaction(async (client) => {
      const row = await oneRow<{ title: string }>(
        client,
        'delete from variants where workspace = $1 and id = $2 returning title',
        [person.workspace, params.id],
      );
      if (!row) throw new HttpProblem(404, 'There is no such variant.');
      await audit(client, actorOf(person), 'delete variant', row.title);
    });
  });
}
