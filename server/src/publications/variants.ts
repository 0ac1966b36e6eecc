import {
  recipeOfVersion,
  schemaVersion,
  valuesOfVersion,
  type StoredVariant,
  type VariantRecipe,
} from '@allomorph/core';
import { audit, type Actor } from '../audit/audit.js';
import { oneRow, type Queryable } from '../db/database.js';
import { HttpProblem } from '../http/problem.js';
import { readPublication } from './publications.js';
import { refuseBadValues, valuesWithKeysOfNow } from './variable-values.js';

const noVariant = (): HttpProblem => new HttpProblem(404, 'There is no such variant.');

/** The variants of a workspace, or of one of its publications, by publication and title. */
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
  if (!current) throw noVariant();
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
 * Puts a variant into the bin, with its builds.
 * @throws HttpProblem 404
 */
export async function deleteVariant(db: Queryable, actor: Actor, id: string): Promise<void> {
  const row = await oneRow<{ title: string }>(
    db,
    `update variants set deleted_at = now(), deleted_by = $3
      where workspace = $1 and id = $2 and deleted_at is null returning title`,
    [actor.workspace, id, actor.person],
  );
  if (!row) throw noVariant();
  await audit(db, actor, 'delete variant', row.title);
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
