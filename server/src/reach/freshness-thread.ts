import { LRUCache } from 'lru-cache';
import {
  collectionOf,
  formatsOf,
  recordedRevisions,
  staleness,
  type BuildRecord,
  type BuiltFormat,
  type Component,
  type NamedCause,
  type Source,
  type VariantFreshness,
} from '@allomorph/core';
import { hashOf, readRecipes } from '../builds/build-variant.js';
import { formatsOfBuild } from '../builds/formats-of-build.js';
import { oneRow, type Queryable } from '../db/database.js';
import { readRevisions, type RevisionName } from '../library/components.js';
import { threadDatabase, threadMemory as memory } from '../threads/thread-memory.js';
import type { ThreadWork } from '../threads/work-pool.js';
import { titlesOfPublications, variantsByPublication } from './workspace-variants.js';

/** What a thread is asked: which deliverables of a workspace are stale. */
export interface FreshnessOrder {
  readonly url: string;
  readonly workspace: string;
  readonly buildDate: string;
}

interface LastBuild {
  variant: string;
  id: string;
  ended_at: Date;
}

// What stays in the thread from one question to the next: records never change, bodies at a revision neither.
/** What was answered for a publication, and what it was answered from. */
interface Answered {
  readonly told: string;
  readonly state: string;
  /** Everything that its content refers to, however far. */
  readonly references: readonly string[];
  readonly answers: readonly VariantFreshness[];
}
const answered = new LRUCache<string, Answered>({ max: 500 });
const records = new LRUCache<string, BuildRecord>({
  // The record of a thousand pages took half a megabyte.
  maxSize: 300_000,
  sizeCalculation: ({ pages }) => Math.max(1, pages.length),
});

/** Answers from one state of the database. */
export const run: ThreadWork<FreshnessOrder, never, readonly VariantFreshness[]> = async (order) => {
  return threadDatabase(order.url).snapshot((client) => freshness(client, order));
};

async function freshness(db: Queryable, order: FreshnessOrder): Promise<readonly VariantFreshness[]> {
  const { workspace } = order;
  const { rows } = await db.query<LastBuild>(
    `select distinct on (variant) variant, id, ended_at from builds
      where workspace = $1 and state = 'done' and record is not null order by variant, queued_at desc`,
    [workspace],
  );
  const builds = new Map(rows.map((row) => [row.variant, row]));
  const titles = await titlesOfPublications(db, workspace);
  const answers: VariantFreshness[] = [];
  const vocabulary = await stateOfVocabulary(db, workspace);
  for (const variants of await variantsByPublication(db, workspace)) {
    const publication = variants[0]?.publication ?? '';
    const told = JSON.stringify([order.buildDate, vocabulary, variants, variants.map(({ id }) => builds.get(id)?.id)]);
    const before = answered.get(`${workspace} ${publication}`);
    if (before?.told === told && before.state === (await stateOfContent(db, workspace, before.references))) {
      answers.push(...before.answers);
      continue;
    }
    const own: VariantFreshness[] = [];
    const { source, recipes, components, references } = await readRecipes(
      db,
      workspace,
      variants,
      order.buildDate,
      [],
      memory.known(workspace),
    );
    memory.keepLibrary(workspace, publication, source.library);
    const built = await readRecords(
      db,
      variants.flatMap(({ id }) => builds.get(id)?.id ?? []),
    );
    const made = await readFormats(db, [...built.keys()]);
    const withBuilt = await withRevisionsOf([...built.values()], db, workspace, source);
    const names = new Map(components.map(({ key, title }) => [key, title]));
    variants.forEach((variant, at) => {
      const build = builds.get(variant.id);
      const record = build && built.get(build.id);
      const tools = { memory: memory.engine(workspace), formats: formatsOf(variant.formats), digest: hashOf };
      const recipe = recipes[at];
      const { causes, formats } =
        record && recipe ? staleness(record, withBuilt, recipe, tools) : { causes: [], formats: [] };
      own.push({
        variant: variant.id,
        title: variant.title,
        publication: variant.publication,
        publicationTitle: titles.get(variant.publication) ?? variant.publication,
        build: build?.id ?? null,
        builtAt: build?.ended_at.toISOString() ?? null,
        state: !record ? 'no deliverable' : causes.length > 0 ? 'stale' : 'fresh',
        causes: causes.map((cause): NamedCause => {
          const title = 'component' in cause ? (names.get(cause.component) ?? cause.component) : '';
          return { ...cause, title };
        }),
        formats: (build && made.get(build.id)) ?? [],
        staleFormats: formats,
      });
    });
    answers.push(...own);
    const state = await stateOfContent(db, workspace, references);
    answered.set(`${workspace} ${publication}`, { told, state, references, answers: own });
  }
  return answers;
}

/** What everything that is not content looks like: a change of any of it may alter any deliverable. */
async function stateOfVocabulary(db: Queryable, workspace: string): Promise<string> {
  const row = await oneRow<{ state: string }>(
    db,
    `select jsonb_build_array(
       (select jsonb_agg(jsonb_build_array(key, title, axis_values, position) order by key)
          from axes where workspace = $1 and deleted_at is null),
       (select jsonb_agg(jsonb_build_array(key, revision, title, axes) order by key)
          from profiles where workspace = $1 and deleted_at is null),
       (select jsonb_agg(jsonb_build_array(key, title, derives_from, standing) order by key)
          from stamps where workspace = $1 and deleted_at is null),
       (select jsonb_agg(jsonb_build_array(key, title, derives_from, settings) order by key)
          from designs where workspace = $1 and deleted_at is null),
       (select jsonb_agg(jsonb_build_array(key, faces) order by key) from fonts where workspace = $1 and deleted_at is null),
       (select jsonb_agg(jsonb_build_array(key, title, revision) order by key)
          from publications where workspace = $1 and deleted_at is null))::text as state`,
    [workspace],
  );
  return row?.state ?? '';
}

/** At which revision everything is that some references lead to, and how it is labelled; what is missing is not there. */
async function stateOfContent(db: Queryable, workspace: string, references: readonly string[]): Promise<string> {
  const collections = references.flatMap((target) => collectionOf(target) ?? []);
  const row = await oneRow<{ state: string }>(
    db,
    `select md5(string_agg(concat_ws(' ', key, revision, collection, tags::text), ',' order by key)) as state
       from components
      where workspace = $1 and deleted_at is null and (key = any($2) or collection = any($3))`,
    [workspace, references, collections],
  );
  return row?.state ?? '';
}

/** What builds made, format by format. */
async function readFormats(
  db: Queryable,
  builds: readonly string[],
): Promise<ReadonlyMap<string, readonly BuiltFormat[]>> {
  const { rows } = await db.query<{ build: string; formats: readonly BuiltFormat[] }>(
    `select f.build, ${formatsOfBuild} as formats from build_formats f where f.build = any($1) group by f.build`,
    [builds],
  );
  return new Map(rows.map(({ build, formats }) => [build, formats]));
}

/** The records of builds, a few at a time: each may be large. */
async function readRecords(db: Queryable, builds: readonly string[]): Promise<ReadonlyMap<string, BuildRecord>> {
  const found = new Map<string, BuildRecord>();
  const unknown: string[] = [];
  for (const id of builds) {
    const record = records.get(id);
    if (record) found.set(id, record);
    else unknown.push(id);
  }
  const atOnce = 20;
  for (let from = 0; from < unknown.length; from += atOnce) {
    const { rows } = await db.query<{ id: string; record: BuildRecord }>(
      'select id, record from builds where id = any($1)',
      [unknown.slice(from, from + atOnce)],
    );
    for (const { id, record } of rows) {
      records.set(id, record);
      found.set(id, record);
    }
  }
  return found;
}

/** The source with the revisions that were built, of the components that changed since. */
async function withRevisionsOf(
  records: readonly BuildRecord[],
  db: Queryable,
  workspace: string,
  source: Source,
): Promise<Source> {
  const { library } = source;
  const built = new Map<string, RevisionName>();
  for (const record of records) {
    for (const { key, revision } of recordedRevisions(record)) {
      const head = library.component(key);
      if (head && head.revision !== revision) built.set(`${key}@${revision}`, { key, revision });
    }
  }
  const older = await readRevisions(db, workspace, [...built.values()]);
  const byName = new Map(older.map((each) => [`${each.key}@${each.revision}`, each]));
  const revision = (key: string, number: number): Component | undefined =>
    byName.get(`${key}@${number}`) ?? library.revision(key, number);
  return { ...source, library: { ...library, revision } };
}
