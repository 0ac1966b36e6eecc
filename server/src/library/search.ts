import { leavesIn, parseCondition, stampTarget, type ComponentKind, type ComponentList } from '@allomorph/core';
import { likePattern, oneRow, type Queryable } from '../db/database.js';
import { askedWords, leastBeginning, searchQueries, type AskedWord } from './find-words.js';
import { readsThrough, shownRows, type FoundRow } from './found-rows.js';
import { languagesOf } from './languages.js';

interface Filter {
  readonly find: string;
  readonly kind?: ComponentKind | undefined;
  /** Only what is in this collection or below it. */
  readonly collection?: string | undefined;
  readonly archived: 'no' | 'only' | 'too';
  /** Only what bears this stamp. */
  readonly stamp?: string | undefined;
  /** Only what bears this tag: “tag=value”. */
  readonly tag?: string | undefined;
  /** Only what has content limited to this value: “axis=value”. */
  readonly value?: string | undefined;
  /** Only what this person changed last. */
  readonly by?: string | undefined;
  /** Only what was changed in the last days. */
  readonly days?: number | undefined;
  readonly usage: 'any' | 'unused' | 'once' | 'often';
  readonly offset: number;
  readonly limit: number;
}

/** What so many components say themselves is not looked for behind placements and variables besides. */
const mostFollowed = 1500;
/** A passage is looked for in so much of a text. */
const readForPassage = 40_000;

/** How often a component is used: by its key, and by the slots of its collection. */
const usesOf = `
  (select count(*) from component_references f where f.workspace = c.workspace and f.target = c.key)
  + (select count(*) from component_references f where c.kind = 'snippet' and c.collection is not null
       and f.workspace = c.workspace and f.target = '@collection/' || c.collection and f.kind = 'slot')`;

const usageIs: Readonly<Record<Exclude<Filter['usage'], 'any'>, string>> = {
  unused: '= 0',
  once: '= 1',
  often: '> 1',
};

/** The values of a query, each put in once and named by its number. */
class Values {
  readonly list: unknown[] = [];

  add(value: unknown): string {
    this.list.push(value);
    return `$${this.list.length}`;
  }
}

/**
 * Lists components by words and labels. Every word must be in a component or in what it places and uses; what has them in its title
 * comes first, what only reads so through others last. Words that are nowhere are taken for the nearest ones.
 */
export async function listComponents(db: Queryable, workspace: string, filter: Filter): Promise<ComponentList> {
  const asked =
    filter.find.trim() === '' ? [] : await askedWords(db, workspace, filter.find, await languagesOf(db, workspace));
  const mended = asked.filter(({ near, isNowhere }) => near.length > 0 || isNowhere);
  const looked = asked.filter(({ isNowhere }) => !isNowhere);
  const values = new Values();
  const place = values.add(workspace);
  const conditions = await conditionsOfFilter(db, workspace, filter, values, place);
  const found = foundIn(filter, looked, values, place);
  // A question of signs only is looked for as it is; one of words that are nowhere finds nothing.
  const isLost = asked.length > 0 && looked.length === 0;
  if (isLost) conditions.push('false');
  const scope = `${found.with} select c.key, c.title, ${found.score} as score from components c ${found.join}
                  where ${[`c.workspace = ${place}`, 'c.deleted_at is null', ...conditions].join(' and ')}`;
  const counting = [...values.list];
  const { rows } = await db.query<FoundRow & { total: number }>(
    `select c.key, c.kind, c.title, c.revision, left(c.text, ${looked.length > 0 ? readForPassage : 2000}) as text, c.conditions,
            c.changed_at, c.archived_at is not null as archived, p.name as changed_by, (${usesOf})::integer as uses, page.total
       from (select found.key, found.score, count(*) over ()::integer as total
               from (${scope}) found
              order by found.score desc, lower(found.title), found.key
             offset ${values.add(filter.offset)} limit ${values.add(filter.limit)}) page
       join components c on c.workspace = ${place} and c.key = page.key
       left join people p on p.id = c.changed_by
      order by page.score desc, lower(c.title), c.key`,
    values.list,
  );
  const counted =
    rows[0] ??
    // Behind the last page nothing tells how many there are.
    (filter.offset === 0
      ? undefined
      : await oneRow<{ total: number }>(db, `select count(*)::integer as total from (${scope}) found`, counting));
  return {
    total: counted?.total ?? 0,
    items: await shownRows(db, workspace, rows, looked),
    mended: mended.map(({ word, near }) => ({ word, as: near })),
  };
}

/** How components are found by words: what they are joined with, and how well each fits. */
function foundIn(
  { find }: Filter,
  looked: readonly AskedWord[],
  values: Values,
  place: string,
): { readonly with: string; readonly join: string; readonly score: string } {
  if (looked.length === 0) {
    if (find.trim() === '') return { with: '', join: '', score: '0' };
    const pattern = values.add(likePattern(find));
    return {
      with: '',
      join: `join lateral (select 1 where c.folded like lower(${pattern})) hit on true`,
      score: `(lower(c.title) like lower(${pattern}))::integer`,
    };
  }
  const fits = (column: string, query: string): string => `c.${column} @@ ${values.add(query)}::tsquery`;
  const hits = looked.map((asked, at) => {
    const [inTitle, inKey, anywhere] = (['A', 'B', ''] as const).map((weight) => searchQueries(asked, weight).any);
    // Beginnings that are too short for texts are looked for in titles besides.
    const short = asked.word.length < leastBeginning ? ` or ${fits('title_words', `${inTitle} | ${inKey}`)}` : '';
    return `select ${at} as at, c.key, true as itself from components c
             where c.workspace = ${place} and c.deleted_at is null and (${fits('words', anywhere ?? '')}${short})`;
  });
  // Titles and keys are few words, which are quickly looked at for all that was found.
  const titleScores = looked.map((asked) => {
    const [title, key] = [searchQueries(asked, 'A'), searchQueries(asked, 'B')];
    return `case when ${fits('title_words', title.exact)} then 52 when ${fits('title_words', title.any)} then 32
              when ${fits('title_words', key.any)} then 12 else 0 end`;
  });
  return {
    with: `with recursive hit as materialized (${hits.join(' union all ')}),
      telling as materialized (select at from hit group by at having count(*) <= ${mostFollowed}),
      reading (at, key, itself) as (
        select at, key, itself from hit
        union
        select r.at, f.source, false
          from reading r join telling on telling.at = r.at
               -- Looked up one by one: the planner takes a recursion for much larger than it is, and would read all references.
               cross join lateral (
                 select source from component_references
                  where workspace = ${place} and target = r.key and source_kind = 'component' and kind in ${readsThrough}
                 offset 0) f),
      fits as materialized (
        select key, sum(case when itself then 8 else 1 end) as score
          from (select at, key, bool_or(itself) as itself from reading group by at, key) each_word
         group by key having count(*) = ${looked.length})`,
    join: 'join fits on fits.key = c.key',
    score: `(fits.score + ${titleScores.join(' + ')}
      + case when lower(c.title) like lower(${values.add(likePattern(find))}) then 30 else 0 end)`,
  };
}

async function conditionsOfFilter(
  db: Queryable,
  workspace: string,
  filter: Filter,
  values: Values,
  place: string,
): Promise<string[]> {
  const conditions: string[] = [];
  if (filter.kind !== undefined) conditions.push(`c.kind = ${values.add(filter.kind)}`);
  if (filter.collection !== undefined) {
    const way = values.add(filter.collection);
    conditions.push(`(c.collection = ${way} or starts_with(c.collection, ${way} || '/'))`);
  }
  if (filter.archived !== 'too') conditions.push(`c.archived_at is ${filter.archived === 'no' ? '' : 'not '}null`);
  if (filter.by !== undefined) conditions.push(`c.changed_by = ${values.add(filter.by)}`);
  if (filter.days !== undefined)
    conditions.push(`c.changed_at > now() - make_interval(days => ${values.add(filter.days)})`);
  if (filter.tag !== undefined)
    conditions.push(`exists (select from jsonb_each(c.tags) t, jsonb_array_elements_text(t.value) v
       where t.key || '=' || v = ${values.add(filter.tag)})`);
  if (filter.stamp !== undefined)
    conditions.push(`exists (select from component_references f where f.workspace = ${place}
       and f.source_kind = 'component' and f.source = c.key and f.target = ${values.add(stampTarget(filter.stamp))})`);
  if (filter.value !== undefined)
    conditions.push(`c.conditions && ${values.add(await conditionsNaming(db, workspace, filter.value))}::text[]`);
  if (filter.usage !== 'any') conditions.push(`${usesOf} ${usageIs[filter.usage]}`);
  return conditions;
}

/** The conditions of a library that name a value, as they are written. */
async function conditionsNaming(db: Queryable, workspace: string, value: string): Promise<readonly string[]> {
  const { rows } = await db.query<{ when: string }>(
    'select distinct unnest(conditions) as when from components where workspace = $1 and deleted_at is null',
    [workspace],
  );
  return rows
    .map((row) => row.when)
    .filter((when) => {
      const parsed = parseCondition(when);
      return (
        parsed.ok &&
        leavesIn(parsed.condition).some((leaf) => leaf.values.some((each) => `${leaf.axis}=${each}` === value))
      );
    });
}
