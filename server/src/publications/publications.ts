import {
  entriesOfVersion,
  entriesWithKey,
  flattenEntries,
  makeNode,
  makeText,
  referencesOfPublication,
  schemaVersion,
  valuesOfVersion,
  valuesWithKey,
  type ImportNote,
  type OutlineEntry,
  type Publication,
  type PublicationRow,
  type StoredPublication,
  type VariableValues,
} from '@allomorph/core';
import { audit, type Actor } from '../audit/audit.js';
import { oneRow, type Queryable } from '../db/database.js';
import { announce } from '../events/events.js';
import { HttpProblem } from '../http/problem.js';
import { lockLibrary, refuseDeleted, writeReferences } from '../library/components.js';
import { keysNow } from '../library/former-keys.js';
import { refuseBadValues } from './variable-values.js';

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

const noPublication = (key: string): HttpProblem => new HttpProblem(404, `There is no publication “${key}”.`);

/** All publications of a workspace as they are listed, by title. */
export async function listPublications(db: Queryable, workspace: string): Promise<readonly PublicationRow[]> {
  const { rows } = await db.query<Row & { variants: number }>(
    `select ${columns}, (select count(*)::integer from variants v where v.workspace = p.workspace and v.publication = p.key and v.deleted_at is null) as variants
       from publications p where p.workspace = $1 and p.deleted_at is null order by p.title, p.key`,
    [workspace],
  );
  return rows.map((row) => ({
    key: row.key,
    title: row.title,
    revision: row.revision,
    entries: flattenEntries(row.entries).length,
    variants: row.variants,
    outlineOf: row.outline_of,
  }));
}

/**
 * What was to be told about the import that a publication came from.
 * @throws HttpProblem 404
 */
export async function readImportNotes(db: Queryable, workspace: string, key: string): Promise<readonly ImportNote[]> {
  const row = await oneRow<{ notes: readonly ImportNote[] }>(
    db,
    'select import_notes as notes from publications where workspace = $1 and key = $2 and deleted_at is null',
    [workspace, key],
  );
  if (!row) throw noPublication(key);
  return row.notes;
}

/** @throws HttpProblem 404 */
export async function requirePublication(db: Queryable, workspace: string, key: string): Promise<StoredPublication> {
  const publication = await readPublication(db, workspace, key);
  if (!publication) throw noPublication(key);
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
  if (!current) throw noPublication(key);
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

/**
 * Puts a publication into the bin, with its variants and their builds.
 * @throws HttpProblem 404; 409 that names a publication that holds it
 */
export async function deletePublication(db: Queryable, actor: Actor, key: string): Promise<void> {
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
