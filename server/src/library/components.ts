import { isDeepStrictEqual } from 'node:util';
import {
  bodyOfVersion,
  childrenOf,
  componentFrom,
  conditionsOf,
  contentBody,
  freeKey,
  keyFromTitle,
  referencesOf,
  schemaVersion,
  textAttr,
  textOf,
  type Component,
  type ComponentBody,
  type ComponentKind,
  type ComponentLabels,
  type ContentNode,
  type NewComponent,
  type Reference,
  type Use,
} from '@allomorph/core';
import { oneRow, type Queryable } from '../db/database.js';
import { announce } from '../events/events.js';
import { HttpProblem } from '../http/problem.js';
import { withKnownFiles } from '../images/known-files.js';
import { acceptBody } from './accept-body.js';
import { keysNow, withKeysOfNow } from './former-keys.js';
import { audit, type Actor } from '../audit/audit.js';
import { placementTargets, refuseCycle, refuseDepth } from './placement-rules.js';

interface HeadRow {
  key: string;
  kind: ComponentKind;
  title: string;
  revision: number;
  collection: string | null;
  /** Null where there are none. */
  tags: Readonly<Record<string, readonly string[]>> | null;
}

const labelColumns = `c.collection, nullif(c.tags, '{}') as tags`;
const headColumns = `c.key, c.kind, c.title, c.revision, ${labelColumns}`;

interface StoredBody {
  body: ComponentBody;
  version: number;
}

const bodyColumns = 'r.body, r.schema_version as version';

/**
 * A body out of the database, as it would be written today.
 * @throws HttpProblem 500 for one that a later version of the program wrote
 */
function readBody({ body, version }: StoredBody): ComponentBody {
  try {
    return bodyOfVersion(body, version);
  } catch (error) {
    throw error instanceof RangeError ? new HttpProblem(500, error.message) : error;
  }
}

function toComponent({
  key,
  kind,
  title,
  revision,
  body,
  collection,
  tags,
}: HeadRow & { body: ComponentBody }): Component {
  const labels = collection !== null || tags ? { labels: { collection, tags: tags ?? {} } } : {};
  return componentFrom({ key, kind, title, revision, body, ...labels });
}

/**
 * Finds a component that was read before, at one of its revisions: what is known is not read again, and what
 * did not change stays the same object.
 */
export type KnownComponent = (key: string, revision: number) => Component | undefined;
const nothingKnown: KnownComponent = () => undefined;

/** Components of a workspace at their newest revision, by key; unknown and deleted keys are left out. */
export async function readComponents(
  db: Queryable,
  workspace: string,
  keys: readonly string[],
  known: KnownComponent = nothingKnown,
): Promise<readonly Component[]> {
  const { rows } = await db.query<HeadRow>(
    `select ${headColumns} from components c
      where c.workspace = $1 and c.key = any($2) and c.deleted_at is null order by c.key`,
    [workspace, keys],
  );
  return withBodies(db, workspace, rows, known);
}

/** The snippets of some collections. */
export async function readCollections(
  db: Queryable,
  workspace: string,
  collections: readonly string[],
  known: KnownComponent = nothingKnown,
): Promise<readonly Component[]> {
  if (collections.length === 0) return [];
  const { rows } = await db.query<HeadRow>(
    `select ${headColumns} from components c
      where c.workspace = $1 and c.collection = any($2) and c.kind = 'snippet' and c.deleted_at is null`,
    [workspace, collections],
  );
  return withBodies(db, workspace, rows, known);
}

async function withBodies(
  db: Queryable,
  workspace: string,
  heads: readonly HeadRow[],
  known: KnownComponent,
): Promise<readonly Component[]> {
  const found = heads.map(({ key, revision }) => known(key, revision));
  const missing = heads.filter((_, at) => !found[at]);
  const bodies = new Map<string, ComponentBody>();
  if (missing.length > 0) {
    const { rows } = await db.query<StoredBody & { key: string }>(
      `select r.key, ${bodyColumns} from unnest($2::text[], $3::integer[]) as wanted (key, revision)
         join revisions r on r.workspace = $1 and r.key = wanted.key and r.revision = wanted.revision`,
      [workspace, missing.map(({ key }) => key), missing.map(({ revision }) => revision)],
    );
    for (const row of rows) bodies.set(row.key, readBody(row));
  }
  return heads.flatMap((head, at) => {
    const before = found[at];
    const body = before?.body ?? bodies.get(head.key);
    if (!body) return [];
    const now = toComponent({ ...head, body });
    // Labels change without a revision.
    return [before && JSON.stringify(before.labels) === JSON.stringify(now.labels) ? before : now];
  });
}

/** Names a component at one of its revisions. */
export interface RevisionName {
  readonly key: string;
  readonly revision: number;
}

/**
 * Components at chosen revisions; what does not exist is left out.
 * @param withDeleted whether those in the bin are read as well
 */
export async function readRevisions(
  db: Queryable,
  workspace: string,
  wanted: readonly RevisionName[],
  withDeleted = false,
): Promise<readonly Component[]> {
  if (wanted.length === 0) return [];
  const { rows } = await db.query<HeadRow & StoredBody>(
    `select c.key, c.kind, r.title, r.revision, ${bodyColumns}, ${labelColumns}
       from unnest($2::text[], $3::integer[]) as wanted (key, revision)
       join revisions r on r.workspace = $1 and r.key = wanted.key and r.revision = wanted.revision
       join components c on c.workspace = $1 and c.key = r.key and (c.deleted_at is null or $4)`,
    [workspace, wanted.map(({ key }) => key), wanted.map(({ revision }) => revision), withDeleted],
  );
  return rows.map((row) => toComponent({ ...row, body: readBody(row) }));
}

/** One component, at its newest or at a chosen revision. */
export async function readComponent(
  db: Queryable,
  workspace: string,
  key: string,
  revision?: number,
): Promise<Component | undefined> {
  const found =
    revision === undefined
      ? await readComponents(db, workspace, [key])
      : await readRevisions(db, workspace, [{ key, revision }]);
  return found[0];
}

/** The component, or 404. */
export async function requireComponent(db: Queryable, workspace: string, key: string): Promise<Component> {
  const component = await readComponent(db, workspace, key);
  if (component) return component;
  const now = (await keysNow(db, workspace, [key])).get(key);
  if (now === undefined) throw new HttpProblem(404, `There is no component “${key}”.`);
  throw new HttpProblem(404, `The key “${key}” is “${now}” now.`, { now });
}

/** The keys of a workspace that are in use, deleted components included: keys are never given twice. */
export async function takenKeys(db: Queryable, workspace: string): Promise<ReadonlySet<string>> {
  const { rows } = await db.query<{ key: string }>(
    `select key from components where workspace = $1 union select key from publications where workspace = $1
     union select former from former_keys where workspace = $1`,
    [workspace],
  );
  return new Set(rows.map((row) => row.key));
}

/** A body as it is stored; what it was written with and is called otherwise now, or is not what it says, is put right. */
async function stored(
  db: Queryable,
  workspace: string,
  kind: ComponentKind,
  body: ComponentBody,
): Promise<ComponentBody> {
  return withKeysOfNow(db, workspace, await withKnownFiles(db, workspace, acceptBody(kind, body)));
}

/**
 * Adds a component with its references, inside a transaction.
 * @throws HttpProblem where the key is taken or the body is not valid for its kind
 */
export async function createComponent(db: Queryable, actor: Actor, wanted: NewComponent): Promise<Component> {
  await lockLibrary(db, actor.workspace);
  const taken = await takenKeys(db, actor.workspace);
  if (wanted.key !== undefined && taken.has(wanted.key)) {
    throw new HttpProblem(409, `The key “${wanted.key}” is already used.`);
  }
  const key = wanted.key ?? freeKey(keyFromTitle(wanted.title), (each) => taken.has(each));
  const component = componentFrom({
    key,
    kind: wanted.kind,
    title: wanted.title,
    revision: 1,
    body: await stored(db, actor.workspace, wanted.kind, wanted.body),
    ...(wanted.labels ? { labels: wanted.labels } : {}),
  });
  await refuseDeleted(db, actor.workspace, key, referencesOf(component.body));
  await insertComponents(db, actor, [component]);
  await refuseCycle(db, actor.workspace, key, placementTargets(component));
  await refuseDepth(db, actor.workspace, key);
  await audit(db, actor, 'create', key, { kind: wanted.kind });
  await announce(db, actor.workspace, { type: 'component', key, revision: 1, by: actor.person ?? '' });
  return component;
}

/** Adds components whose keys are free and whose bodies are good, with their references. */
export async function insertComponents(db: Queryable, actor: Actor, components: readonly Component[]): Promise<void> {
  for (const component of components) {
    await db.query(
      `insert into components (workspace, key, kind, title, revision, text, conditions, changed_by, collection, tags)
       values ($1, $2, $3, $4, $5, $6, $7, $8, $9, $10)`,
      [
        actor.workspace,
        component.key,
        component.kind,
        component.title,
        component.revision,
        searchText(component),
        conditionTexts(component),
        actor.person,
        component.labels?.collection ?? null,
        JSON.stringify(component.labels?.tags ?? {}),
      ],
    );
    await insertRevision(db, actor, component);
    await writeReferences(db, actor.workspace, 'component', component.key, referencesOf(component.body));
  }
}

/**
 * Saves a new revision and moves the head, with the references, in one transaction.
 * @throws HttpProblem 409 where somebody saved since, 422 where the body is refused
 */
export async function saveComponent(
  db: Queryable,
  actor: Actor,
  key: string,
  change: { readonly base: number; readonly title: string; readonly body: ComponentBody },
): Promise<Component> {
  await lockLibrary(db, actor.workspace);
  const current = await requireComponent(db, actor.workspace, key);
  if (current.revision !== change.base) {
    const by = await oneRow<{ name: string | null }>(
      db,
      'select p.name from components c left join people p on p.id = c.changed_by where c.workspace = $1 and c.key = $2',
      [actor.workspace, key],
    );
    throw new HttpProblem(409, `${by?.name ?? 'Somebody'} saved “${current.title}” while you were writing.`, {
      current,
    });
  }
  const body = await stored(db, actor.workspace, current.kind, change.body);
  const saved = componentFrom({ ...current, title: change.title, revision: current.revision + 1, body });
  const [before, after] = [referencesOf(current.body), referencesOf(body)];
  // What leads nowhere new closes no circle, nests no deeper and refers to nothing that went.
  const led = new Set(before.map(({ kind, target }) => `${kind} ${target}`));
  const leadsOn = after.some(({ kind, target }) => !led.has(`${kind} ${target}`));
  if (leadsOn) {
    await refuseDeleted(db, actor.workspace, key, after);
    await refuseCycle(db, actor.workspace, key, placementTargets(saved));
  }
  await insertRevision(db, actor, saved);
  await db.query(
    `update components set title = $3, revision = $4, text = $5, conditions = $6, changed_by = $7, changed_at = now()
      where workspace = $1 and key = $2`,
    [actor.workspace, key, saved.title, saved.revision, searchText(saved), conditionTexts(saved), actor.person],
  );
  if (!isDeepStrictEqual(before, after)) await writeReferences(db, actor.workspace, 'component', key, after);
  if (leadsOn) await refuseDepth(db, actor.workspace, key);
  await audit(db, actor, 'save', key, { revision: saved.revision });
  await announce(db, actor.workspace, { type: 'component', key, revision: saved.revision, by: actor.person ?? '' });
  return saved;
}

/**
 * Sets what slots find a component by.
 * @throws HttpProblem 404
 */
export async function labelComponent(
  db: Queryable,
  actor: Actor,
  key: string,
  { collection, tags }: ComponentLabels,
): Promise<Component> {
  await db.query('update components set collection = $3, tags = $4 where workspace = $1 and key = $2', [
    actor.workspace,
    key,
    collection,
    JSON.stringify(tags),
  ]);
  const component = await requireComponent(db, actor.workspace, key);
  await audit(db, actor, 'label', key, { collection, tags });
  await announce(db, actor.workspace, {
    type: 'component',
    key,
    revision: component.revision,
    by: actor.person ?? '',
  });
  return component;
}

/**
 * Archives a component, or takes it out of the archive: it stays where it is used, and is offered nowhere any more.
 * @throws HttpProblem 404
 */
export async function archiveComponent(db: Queryable, actor: Actor, key: string, on: boolean): Promise<void> {
  const { revision } = await requireComponent(db, actor.workspace, key);
  await db.query(
    `update components set archived_at = case when $3 then coalesce(archived_at, now()) end, archived_by = case when $3 then $4::uuid end
      where workspace = $1 and key = $2`,
    [actor.workspace, key, on, actor.person],
  );
  await audit(db, actor, on ? 'archive' : 'take out of the archive', key);
  await announce(db, actor.workspace, { type: 'component', key, revision, by: actor.person ?? '' });
}

export async function isArchived(db: Queryable, workspace: string, key: string): Promise<boolean> {
  const row = await oneRow<{ archived: boolean }>(
    db,
    'select archived_at is not null as archived from components where workspace = $1 and key = $2',
    [workspace, key],
  );
  return row?.archived ?? false;
}

/**
 * Takes a component out of the library; it can be brought back.
 * @throws HttpProblem 409 that names the users, where there are any
 */
export async function deleteComponent(db: Queryable, actor: Actor, key: string): Promise<void> {
  await lockLibrary(db, actor.workspace);
  const component = await requireComponent(db, actor.workspace, key);
  const { rows } = await db.query<{ source_kind: string; source: string; title: string }>(
    `select distinct f.source_kind, f.source, coalesce(c.title, p.title, d.title, f.source) as title
       from component_references f
       left join components c on f.source_kind = 'component' and c.workspace = f.workspace and c.key = f.source
       left join publications p on f.source_kind = 'publication' and p.workspace = f.workspace and p.key = f.source
       left join designs d on f.source_kind = 'design' and d.workspace = f.workspace and d.key = f.source
      where f.workspace = $1 and f.target = $2 and not (f.source_kind = 'component' and f.source = $2)
      order by title`,
    [actor.workspace, key],
  );
  if (rows.length > 0) {
    const names = rows
      .slice(0, 5)
      .map((row) => `“${row.title}”`)
      .join(', ');
    const more = rows.length > 5 ? ` and ${rows.length - 5} more` : '';
    throw new HttpProblem(409, `“${component.title}” is used in ${names}${more}. Take it out there first.`, {
      users: rows,
    });
  }
  await db.query('update components set deleted_at = now(), deleted_by = $3 where workspace = $1 and key = $2', [
    actor.workspace,
    key,
    actor.person,
  ]);
  await writeReferences(db, actor.workspace, 'component', key, []);
  await audit(db, actor, 'delete', key);
}

/** Brings a deleted component back with its references. */
export async function restoreComponent(db: Queryable, actor: Actor, key: string): Promise<Component> {
  await lockLibrary(db, actor.workspace);
  await db.query('update components set deleted_at = null where workspace = $1 and key = $2', [actor.workspace, key]);
  const component = await requireComponent(db, actor.workspace, key);
  await refuseCycle(db, actor.workspace, key, placementTargets(component));
  await writeReferences(db, actor.workspace, 'component', key, referencesOf(component.body));
  await refuseDepth(db, actor.workspace, key);
  await audit(db, actor, 'restore', key);
  // While it lay in the bin, what it refers to may have got other keys.
  const body = await withKeysOfNow(db, actor.workspace, component.body);
  if (body === component.body) return component;
  return saveComponent(db, actor, key, { base: component.revision, title: component.title, body });
}

/**
 * Refuses new references to what was put into the bin meanwhile.
 * @throws HttpProblem 409 that names it
 */
export async function refuseDeleted(
  db: Queryable,
  workspace: string,
  source: string,
  references: readonly Reference[],
): Promise<void> {
  const deleted = await oneRow<{ title: string }>(
    db,
    `select title from components c
      where workspace = $1 and key = any($2) and deleted_at is not null and not exists (
        select from component_references f where f.workspace = $1 and f.source = $3 and f.target = c.key)
      order by title limit 1`,
    [workspace, [...new Set(references.map(({ target }) => target))], source],
  );
  if (deleted)
    throw new HttpProblem(409, `“${deleted.title}” is in the bin. Bring it back first, or take it out here.`);
}

/** Replaces the rows that say what a component, publication or design refers to. */
export async function writeReferences(
  db: Queryable,
  workspace: string,
  sourceKind: Use['sourceKind'],
  source: string,
  references: readonly Reference[],
): Promise<void> {
  await db.query('delete from component_references where workspace = $1 and source_kind = $2 and source = $3', [
    workspace,
    sourceKind,
    source,
  ]);
  if (references.length === 0) return;
  const column = <K extends keyof Reference>(name: K): Reference[K][] => references.map((each) => each[name]);
  await db.query(
    `insert into component_references (workspace, source_kind, source, position, target, kind, place, target_block, held)
     select $1, $2, $3, row_number() over (), t.* from
       unnest($4::text[], $5::text[], $6::text[], $7::text[], $8::integer[]) as t (target, kind, place, target_block, held)`,
    [
      workspace,
      sourceKind,
      source,
      column('target'),
      column('kind'),
      column('place'),
      column('targetBlock'),
      column('held'),
    ],
  );
}

/** Saves take turns in a workspace, so that two of them together cannot close a cycle that neither sees. */
export async function lockLibrary(db: Queryable, workspace: string): Promise<void> {
  await db.query(`select pg_advisory_xact_lock(hashtextextended('library ' || $1, 0))`, [workspace]);
}

async function insertRevision(db: Queryable, actor: Actor, component: Component): Promise<void> {
  await db.query(
    `insert into revisions (workspace, key, revision, title, body, schema_version, saved_by)
     values ($1, $2, $3, $4, $5, $6, $7)`,
    [
      actor.workspace,
      component.key,
      component.revision,
      component.title,
      JSON.stringify(component.body),
      schemaVersion,
      actor.person,
    ],
  );
}

/** What the library is searched by, besides titles. */
function searchText(component: Component): string {
  const leaf = (node: ContentNode): string => {
    const key = textAttr(node, 'key') ?? textAttr(node, 'component');
    return key === null ? '' : `[${key}]`;
  };
  const body = contentBody(component);
  if (body) return textOf(body.type === 'topic' ? { ...body, content: childrenOf(body).slice(1) } : body, leaf);
  if (component.kind === 'variable') {
    const { default: otherwise, rules } = component.body;
    return [...(otherwise ? [otherwise] : []), ...rules.map((rule) => rule.value)]
      .map((value) => textOf(value, leaf))
      .join(' · ');
  }
  if (component.kind === 'link') return component.body.href;
  return component.kind === 'image' ? component.body.alt : '';
}

function conditionTexts(component: Component): readonly string[] {
  return [...new Set(conditionsOf(component.body).map((each) => each.when))];
}
