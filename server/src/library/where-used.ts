import type { ComponentKind, ReferenceKind, Use, Uses } from '@allomorph/core';
import type { Queryable } from '../db/database.js';

interface ReferenceRow {
  source_kind: 'component' | 'publication';
  source: string;
  target: string;
  kind: ReferenceKind;
  place: string | null;
  held: number | null;
}

/** How many uses of each sort are told one by one. */
const most = 300;

/**
 * The places that refer to a component, direct ones first, then those through others, nearest first: what
 * places the component's users, and so on up to the publications. Cross-references are uses themselves but
 * carry nothing further. Slots use the snippets of their collection. All are counted, the first are told.
 */
export async function whereUsed(db: Queryable, workspace: string, key: string): Promise<Uses> {
  const { rows: named } = await db.query<{ name: string }>(
    `select $2::text as name union select '@collection/' || collection from components
      where workspace = $1 and key = $2 and collection is not null`,
    [workspace, key],
  );
  /** The component that a component was come upon through; null for what is asked about. */
  const below = new Map<string, string | null>(named.map(({ name }) => [name, null]));
  const direct: ReferenceRow[] = [];
  const further: ReferenceRow[] = [];
  let directTotal = 0;
  let furtherTotal = 0;
  let open: readonly string[] = [...below.keys()];
  for (let level = 0; open.length > 0; level += 1) {
    const list = level === 0 ? direct : further;
    if (list.length < most) list.push(...(await readUses(db, workspace, open, level === 0, most - list.length)));
    const users = await readUsers(db, workspace, open, level === 0);
    for (const { uses } of users) {
      if (level === 0) directTotal += uses;
      else furtherTotal += uses;
    }
    const next = users.filter(({ carries, source }) => carries && !below.has(source));
    for (const { source, target } of next) below.set(source, target);
    open = next.map(({ source }) => source);
  }
  const titles = await readTitles(
    db,
    workspace,
    [...direct, ...further].flatMap(({ source, target }) => [source, ...wayTo(target, below)]),
  );
  const toUse = ({ source, target, ...row }: ReferenceRow): Use => ({
    sourceKind: row.source_kind,
    source,
    title: titles.get(source)?.title ?? source,
    componentKind: titles.get(source)?.kind ?? null,
    kind: row.kind,
    place: row.place,
    held: row.held,
    through: wayTo(target, below).map((key) => ({ key, title: titles.get(key)?.title ?? key })),
  });
  return {
    direct: direct.map(toUse).sort(inOrder),
    directTotal,
    further: further.map(toUse).sort(inOrder),
    furtherTotal,
  };
}

/** The components on the way from what is asked about, which is not among them, up to a target. */
function wayTo(target: string, below: ReadonlyMap<string, string | null>): readonly string[] {
  const next = below.get(target) ?? null;
  return next === null ? [] : [...wayTo(next, below), target];
}

/** The nearest first, components before publications, by title. */
function inOrder(a: Use, b: Use): number {
  return (
    a.through.length - b.through.length || compareText(a.sourceKind, b.sourceKind) || compareText(a.title, b.title)
  );
}

function compareText(a: string, b: string): number {
  return a < b ? -1 : a > b ? 1 : 0;
}

/** The first references that lead to one of some targets. */
async function readUses(
  db: Queryable,
  workspace: string,
  targets: readonly string[],
  withCrossReferences: boolean,
  count: number,
): Promise<readonly ReferenceRow[]> {
  const { rows } = await db.query<ReferenceRow>(
    `select source_kind, source, target, kind, place, held from component_references
      where workspace = $1 and target = any($2) and ($3 or kind <> 'cross-reference')
      order by source_kind, source, position limit $4`,
    [workspace, targets, withCrossReferences, count],
  );
  return rows;
}

/** A component or publication that refers to one of some targets. */
interface User {
  readonly source: string;
  readonly target: string;
  readonly uses: number;
  /** Whether it is a component that holds the target as a part. */
  readonly carries: boolean;
}

async function readUsers(
  db: Queryable,
  workspace: string,
  targets: readonly string[],
  withCrossReferences: boolean,
): Promise<readonly User[]> {
  const { rows } = await db.query<User>(
    `select source, min(target) as target, count(*)::integer as uses,
            bool_or(source_kind = 'component' and kind <> 'cross-reference') as carries
       from component_references
      where workspace = $1 and target = any($2) and ($3 or kind <> 'cross-reference')
      group by source_kind, source`,
    [workspace, targets, withCrossReferences],
  );
  return rows;
}

interface Titled {
  readonly title: string;
  readonly kind: ComponentKind | null;
}

/** The titles of components and publications, by key: no key is given to two of them. */
async function readTitles(
  db: Queryable,
  workspace: string,
  keys: readonly string[],
): Promise<ReadonlyMap<string, Titled>> {
  const { rows } = await db.query<Titled & { key: string }>(
    `select key, title, kind from components where workspace = $1 and key = any($2)
      union all select key, title, null from publications where workspace = $1 and key = any($2)`,
    [workspace, [...new Set(keys)]],
  );
  return new Map(rows.map((row) => [row.key, row]));
}
