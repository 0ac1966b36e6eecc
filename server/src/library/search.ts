import type { ComponentKind, ComponentList, ComponentRow } from '@allomorph/core';
import { oneRow, type Queryable } from '../db/database.js';

interface Filter {
  readonly find: string;
  readonly kind?: ComponentKind | undefined;
  /** Only snippets of this collection. */
  readonly collection?: string | undefined;
  readonly usage: 'any' | 'unused' | 'once' | 'often';
  readonly offset: number;
  readonly limit: number;
}

/** Lists components by text, kind and use, titles that match first. */
export async function listComponents(db: Queryable, workspace: string, filter: Filter): Promise<ComponentList> {
  const usage = { any: 'true', unused: 'uses = 0', once: 'uses = 1', often: 'uses > 1' }[filter.usage];
  const pattern = `%${filter.find.trim().replace(/[\\%_]/g, '\\$&')}%`;
  const matching = `
    select c.key, c.kind, c.title, c.revision, left(c.text, 220) as excerpt, c.conditions, c.changed_at,
           p.name as changed_by, (coalesce(u.uses, 0) + coalesce(s.uses, 0))::integer as uses
      from components c
      left join people p on p.id = c.changed_by
      left join (select target, count(*) as uses from component_references where workspace = $1 group by target) u
        on u.target = c.key
      left join (select target, count(*) as uses from component_references where workspace = $1 and kind = 'slot' group by target) s
        on c.kind = 'snippet' and s.target = '@collection/' || c.collection
     where c.workspace = $1 and c.deleted_at is null
       and ($2 = '%%' or c.title ilike $2 or c.key ilike $2 or c.text ilike $2)
       and ($3::text is null or c.kind = $3)
       and ($4::text is null or c.collection = $4)`;
  const values = [workspace, pattern, filter.kind ?? null, filter.collection ?? null];
  const total = await oneRow<{ total: string }>(
    db,
    `select count(*) as total from (${matching}) m where ${usage}`,
    values,
  );
  const { rows } = await db.query<ComponentRow & { changed_at: Date; changed_by: string | null }>(
    `select * from (${matching}) m where ${usage}
      order by (title ilike $2 or key ilike $2) desc, lower(title), key offset $5 limit $6`,
    [...values, filter.offset, filter.limit],
  );
  return {
    total: Number(total?.total ?? 0),
    items: rows.map((row) => ({
      key: row.key,
      kind: row.kind,
      title: row.title,
      revision: row.revision,
      uses: row.uses,
      conditions: row.conditions,
      excerpt: row.excerpt,
      changedBy: row.changed_by ?? '',
      changedAt: row.changed_at.toISOString(),
    })),
  };
}
