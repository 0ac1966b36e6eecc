import { collectionOf, type ComponentKind, type ReferenceKind, type Use } from '@allomorph/core';
import type { Queryable } from '../db/database.js';

interface UseRow {
  source_kind: 'component' | 'publication';
  source: string;
  target: string;
  kind: ReferenceKind;
  place: string | null;
  held: number | null;
  title: string;
  component_kind: ComponentKind | null;
  depth: number;
}

/**
 * Every place that refers to a component, direct ones first, then those through others: what places the
 * component's users, and so on up to the publications. Cross-references are uses themselves but carry
 * nothing further. Slots use the snippets of their collection.
 */
export async function whereUsed(db: Queryable, workspace: string, key: string): Promise<readonly Use[]> {
  const { rows } = await db.query<UseRow>(
    `with recursive named (source) as (
       select $2::text union select '@collection/' || collection from components
        where workspace = $1 and key = $2 and collection is not null
     ), above (source, depth) as (
       select source, 0 from named
       union
       select f.source, a.depth + 1 from above a
         join component_references f on f.workspace = $1 and f.target = a.source and f.source_kind = 'component'
          and f.kind <> 'cross-reference'
        where a.depth < 50
     ), nearest as (select source, min(depth) as depth from above group by source)
     select f.source_kind, f.source, f.target, f.kind, f.place, f.held, n.depth,
            coalesce(c.title, p.title, f.source) as title, c.kind as component_kind
       from nearest n
       join component_references f on f.workspace = $1 and f.target = n.source
        and (n.depth = 0 or f.kind <> 'cross-reference')
       left join components c on f.source_kind = 'component' and c.workspace = $1 and c.key = f.source
       left join publications p on f.source_kind = 'publication' and p.workspace = $1 and p.key = f.source
      order by n.depth, f.source_kind, title, f.source, f.position`,
    [workspace, key],
  );
  const through = new Map<string, Use['through']>([[key, []]]);
  for (const row of rows) if (collectionOf(row.target) !== null) through.set(row.target, []);
  return rows.map((row) => {
    const way = through.get(row.target) ?? [];
    if (row.source_kind === 'component' && !through.has(row.source))
      through.set(row.source, [...way, { key: row.source, title: row.title }]);
    return {
      sourceKind: row.source_kind,
      source: row.source,
      title: row.title,
      componentKind: row.component_kind,
      kind: row.kind,
      place: row.place,
      held: row.held,
      through: way,
    };
  });
}
