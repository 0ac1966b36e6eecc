import {
  libraryOf,
  reachOf,
  referencesOf,
  staleCauses,
  type BuildRecord,
  type Component,
  type ComponentBody,
  type NamedCause,
  type ReachReport,
  type Recipe,
  type Source,
  type StoredVariant,
  type VariantFreshness,
} from '@allomorph/core';
import { readRecipes } from '../builds/build-variant.js';
import { Database, type Queryable } from '../db/database.js';
import { acceptBody, readRevisions, requireComponent, type RevisionName } from '../library/components.js';
import { readVariants } from '../publications/publications.js';
import type { ThreadWork } from '../threads/work-thread.js';

/** What a thread is asked: which deliverables are stale, or what a change of a component would alter. */
export interface ReachOrder {
  readonly url: string;
  readonly workspace: string;
  readonly buildDate: string;
  /** The component as it would be; null: tell what is stale. */
  readonly change: { readonly key: string; readonly title: string; readonly body: ComponentBody } | null;
}

export type ReachAnswer = readonly VariantFreshness[] | ReachReport;

interface LastBuild {
  variant: string;
  id: string;
  ended_at: Date;
  record: BuildRecord | null;
}

/** Answers from one state of the database. */
export const run: ThreadWork<ReachOrder, never, ReachAnswer> = async (order) => {
  const db = new Database(order.url);
  try {
    return await db.snapshot((client): Promise<ReachAnswer> => {
      return order.change ? reachOfChange(client, order, order.change) : freshness(client, order);
    });
  } finally {
    await db.close();
  }
};

async function titlesOfPublications(db: Queryable, workspace: string): Promise<ReadonlyMap<string, string>> {
  const { rows } = await db.query<{ key: string; title: string }>(
    'select key, title from publications where workspace = $1',
    [workspace],
  );
  return new Map(rows.map((row) => [row.key, row.title]));
}

/** The variants of a workspace, publication by publication. */
async function variantsByPublication(db: Queryable, workspace: string): Promise<readonly StoredVariant[][]> {
  const groups = new Map<string, StoredVariant[]>();
  for (const variant of await readVariants(db, workspace)) {
    groups.set(variant.publication, [...(groups.get(variant.publication) ?? []), variant]);
  }
  return [...groups.values()];
}

async function freshness(db: Queryable, order: ReachOrder): Promise<readonly VariantFreshness[]> {
  const { workspace } = order;
  const { rows } = await db.query<LastBuild>(
    `select distinct on (variant) variant, id, ended_at, record from builds
      where workspace = $1 and state = 'done' order by variant, queued_at desc`,
    [workspace],
  );
  const builds = new Map(rows.map((row) => [row.variant, row]));
  const titles = await titlesOfPublications(db, workspace);
  const answers: VariantFreshness[] = [];
  for (const variants of await variantsByPublication(db, workspace)) {
    const { source: now, recipes, components } = await readRecipes(db, workspace, variants, order.buildDate);
    const records = variants.flatMap(({ id }) => builds.get(id)?.record ?? []);
    const source = await withRevisionsOf(records, db, workspace, now);
    const names = new Map(components.map(({ key, title }) => [key, title]));
    variants.forEach((variant, at) => {
      const build = builds.get(variant.id);
      const causes = build?.record ? staleCauses(build.record, source, recipes[at] as Recipe) : [];
      answers.push({
        variant: variant.id,
        title: variant.title,
        publication: variant.publication,
        publicationTitle: titles.get(variant.publication) ?? variant.publication,
        build: build?.id ?? null,
        builtAt: build?.ended_at.toISOString() ?? null,
        state: !build?.record ? 'never built' : causes.length > 0 ? 'stale' : 'fresh',
        causes: causes.map((cause): NamedCause => {
          const title = cause.kind === 'component' ? (names.get(cause.component) ?? cause.component) : '';
          return { ...cause, title };
        }),
      });
    });
  }
  return answers;
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
  for (const { components } of records) {
    for (const [key, revision] of Object.entries(components)) {
      const head = library.component(key);
      if (head && revision > 0 && head.revision !== revision) built.set(`${key}@${revision}`, { key, revision });
    }
  }
  const older = await readRevisions(db, workspace, [...built.values()]);
  const byName = new Map(older.map((each) => [`${each.key}@${each.revision}`, each]));
  const revision = (key: string, number: number): Component | undefined =>
    byName.get(`${key}@${number}`) ?? library.revision(key, number);
  return { ...source, library: { ...library, revision } };
}

async function reachOfChange(
  db: Queryable,
  order: ReachOrder,
  change: NonNullable<ReachOrder['change']>,
): Promise<ReachReport> {
  const { workspace } = order;
  const current = await requireComponent(db, workspace, change.key);
  const body = acceptBody(current.kind, change.body);
  const changed: Component = { ...current, title: change.title, body, revision: current.revision + 1 };
  const titles = await titlesOfPublications(db, workspace);
  const byPublication = await variantsByPublication(db, workspace);
  const groups = new Map<string, { variants: StoredVariant[]; topics: ReachReport['groups'][number]['topics'] }>();
  for (const members of byPublication) {
    const { source, recipes, components } = await readRecipes(
      db,
      workspace,
      members,
      order.buildDate,
      referencesOf(body),
    );
    const after: Source = { ...source, library: withChange(source, components, changed) };
    for (const { variants, topics } of reachOf(source, after, changed, components, recipes)) {
      const sign = JSON.stringify(topics);
      const known = groups.get(sign);
      const found = variants.flatMap((at) => members[at] ?? []);
      if (known) known.variants.push(...found);
      else groups.set(sign, { variants: found, topics });
    }
  }
  const variants = byPublication.flat();
  return {
    variants: variants.length,
    groups: [...groups.values()].map((group) => ({
      topics: group.topics,
      variants: group.variants.map(({ id, title, publication }) => ({
        id,
        title,
        publicationTitle: titles.get(publication) ?? publication,
      })),
    })),
  };
}

/** The library with one component as it would be. */
function withChange(source: Source, components: readonly Component[], changed: Component): Source['library'] {
  const library = libraryOf(components.map((each) => (each.key === changed.key ? changed : each)));
  return { ...library, revision: (key, revision) => source.library.revision(key, revision) };
}
