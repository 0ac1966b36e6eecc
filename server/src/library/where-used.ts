import type { ComponentKind, ReferenceKind, routes, Use, Uses, Received } from '@allomorph/core';
import { likePattern, oneRow, type Queryable } from '../db/database.js';

interface UseRow {
  source_kind: Use['sourceKind'];
  source: string;
  title: string;
  component_kind: ComponentKind | null;
  target: string;
  kind: ReferenceKind;
  place: string | null;
  held: number | null;
}

/** How many uses of each sort are told at once. */
const atOnce = 100;

type Filter = Received<typeof routes.uses>['query'];
const everything: Filter = { find: '', direct: 0, further: 0, order: 'nearest' };

/**
 * The places that refer to a component, direct ones first, then those through others, nearest first: what
 * places the component's users, and so on up to the publications. Cross-references are uses themselves but
 * carry nothing further. Slots use the snippets of their collection. All that fit are counted, a page of them is told.
 */
export async function whereUsed(
  db: Queryable,
  workspace: string,
  key: string,
  filter: Filter = everything,
): Promise<Uses> {
  const below = await readBelow(db, workspace, key);
  const direct = [...below].filter(([, { level }]) => level === 0).map(([target]) => target);
  const further = [...below].filter(([, { level }]) => level > 0).map(([target]) => target);
  const page = (targets: readonly string[], offset: number): Promise<UsePage> =>
    readPage(db, workspace, { targets, levels: targets.map((each) => below.get(each)?.level ?? 0), offset, filter });
  const [near, far] = [await page(direct, filter.direct), await page(further, filter.further)];
  const titles = await readTitles(db, workspace, [
    ...new Set([...near.rows, ...far.rows].flatMap(({ target }) => wayTo(target, below))),
  ]);
  const toUse = ({ source, target, ...row }: UseRow): Use => ({
    sourceKind: row.source_kind,
    source,
    title: row.title,
    componentKind: row.component_kind,
    kind: row.kind,
    place: row.place,
    held: row.held,
    through: wayTo(target, below).map((each) => ({ key: each, title: titles.get(each) ?? each })),
  });
  return {
    direct: near.rows.map(toUse),
    directTotal: near.total,
    further: far.rows.map(toUse),
    furtherTotal: far.total,
  };
}

/** What carries the component further. */
interface Carrier {
  /** How many components stand between. */
  readonly level: number;
  /** The component that it was come upon through; null for what is asked about. */
  readonly through: string | null;
}

/** The component itself, the collection it belongs to, and all components that hold it as a part, however far. */
async function readBelow(db: Queryable, workspace: string, key: string): Promise<ReadonlyMap<string, Carrier>> {
  const { rows: named } = await db.query<{ name: string }>(
    `select $2::text as name union select '@collection/' || collection from components
      where workspace = $1 and key = $2 and collection is not null`,
    [workspace, key],
  );
  const below = new Map<string, Carrier>(named.map(({ name }) => [name, { level: 0, through: null }]));
  let open: readonly string[] = [...below.keys()];
  for (let level = 1; open.length > 0; level += 1) {
    const { rows } = await db.query<{ source: string; target: string; is_used: boolean }>(
      `select source, min(target) as target,
              exists (select from component_references u
                       where u.workspace = $1 and u.target = f.source and u.kind <> 'cross-reference') as is_used
         from component_references f
        where workspace = $1 and target = any($2) and source_kind = 'component' and kind <> 'cross-reference'
        group by source`,
      [workspace, open],
    );
    // What nothing uses leads no further.
    const next = rows.filter(({ source, is_used: isUsed }) => isUsed && !below.has(source));
    for (const { source, target } of next) below.set(source, { level, through: target });
    open = next.map(({ source }) => source);
  }
  return below;
}

/** The components on the way from what is asked about, which is not among them, up to a target. */
function wayTo(target: string, below: ReadonlyMap<string, Carrier>): readonly string[] {
  const through = below.get(target)?.through ?? null;
  return through === null ? [] : [...wayTo(through, below), target];
}

interface UsePage {
  readonly rows: readonly UseRow[];
  readonly total: number;
}

const orders: Readonly<Record<Filter['order'], string>> = {
  nearest: 'level, source_kind, title, source, position',
  title: 'lower(title), source, position',
  kind: 'kind, level, title, source, position',
};

/** A page of the references that lead to some targets. */
async function readPage(
  db: Queryable,
  workspace: string,
  asked: {
    readonly targets: readonly string[];
    readonly levels: readonly number[];
    readonly offset: number;
    readonly filter: Filter;
  },
): Promise<UsePage> {
  const { targets, levels, offset, filter } = asked;
  if (targets.length === 0) return { rows: [], total: 0 };
  // Titles are looked up for the page only, unless something is found or ordered by them.
  const found = `
    from unnest($2::text[], $3::integer[]) as wanted (key, level)
    join component_references f on f.workspace = $1 and f.target = wanted.key
     and (wanted.level = 0 or f.kind <> 'cross-reference')
    left join components c on f.source_kind = 'component' and c.workspace = $1 and c.key = f.source
    left join publications p on f.source_kind = 'publication' and p.workspace = $1 and p.key = f.source
    left join designs d on f.source_kind = 'design' and d.workspace = $1 and d.key = f.source
   where ($4 = '%%' or coalesce(c.title, p.title, d.title, f.source) ilike $4) and ($5::text is null or f.kind = $5)`;
  const values = [workspace, targets, levels, likePattern(filter.find), filter.kind ?? null];
  const { rows } = await db.query<UseRow & { total: number }>(
    `select *, count(*) over ()::integer as total from (
       select f.source_kind, f.source, f.position, coalesce(c.title, p.title, d.title, f.source) as title,
              c.kind as component_kind, f.target, f.kind, f.place, f.held, wanted.level ${found}
     ) uses order by ${orders[filter.order]} offset $6 limit $7`,
    [...values, offset, atOnce],
  );
  if (rows[0]) return { rows, total: rows[0].total };
  // Behind the last page nothing tells how many there are.
  const counted =
    offset === 0 ? null : await oneRow<{ total: number }>(db, `select count(*)::integer as total ${found}`, values);
  return { rows, total: counted?.total ?? 0 };
}

/** The titles of components, by key. */
async function readTitles(
  db: Queryable,
  workspace: string,
  keys: readonly string[],
): Promise<ReadonlyMap<string, string>> {
  const { rows } = await db.query<{ key: string; title: string }>(
    'select key, title from components where workspace = $1 and key = any($2)',
    [workspace, keys],
  );
  return new Map(rows.map(({ key, title }) => [key, title]));
}
