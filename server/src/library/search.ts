import type { ComponentKind, ComponentList, ComponentRow } from '@allomorph/core';
import { likePattern, oneRow, type Queryable } from '../db/database.js';

interface Filter {
  readonly find: string;
  readonly kind?: ComponentKind | undefined;
  /** Only snippets of this collection. */
  readonly collection?: string | undefined;
  readonly usage: 'any' | 'unused' | 'once' | 'often';
  readonly offset: number;
  readonly limit: number;
}

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

type Row = Omit<ComponentRow, 'changedBy' | 'changedAt'> & { changed_at: Date; changed_by: string | null };

/**
 * Lists components by text, kind and use, titles that match first. Each of title, key and text is looked up in an index of
 * its own; uses are counted for what is told only, unless they are asked for.
 */
export async function listComponents(db: Queryable, workspace: string, filter: Filter): Promise<ComponentList> {
  const found = filter.find.trim() !== '';
  const conditions = [
    'c.workspace = $1 and c.deleted_at is null',
    ...(found
      ? [
          `c.key in (select key from components where workspace = $1 and title ilike $2
             union select key from components where workspace = $1 and key ilike $2
             union select key from components where workspace = $1 and text ilike $2)`,
        ]
      : []),
    '($2::text is not null)',
    '($3::text is null or c.kind = $3)',
    '($4::text is null or c.collection = $4)',
    ...(filter.usage === 'any' ? [] : [`${usesOf} ${usageIs[filter.usage]}`]),
  ].join(' and ');
  const values = [workspace, likePattern(filter.find), filter.kind ?? null, filter.collection ?? null];
  const counted = await oneRow<{ total: number }>(
    db,
    `select count(*)::integer as total from components c where ${conditions}`,
    values,
  );
  const order = found ? '(c.title ilike $2 or c.key ilike $2) desc, lower(c.title), c.key' : 'lower(c.title), c.key';
  const { rows } = await db.query<Row>(
    `select c.key, c.kind, c.title, c.revision, left(c.text, 220) as excerpt, c.conditions, c.changed_at,
            p.name as changed_by, (${usesOf})::integer as uses
       from (select * from components c where ${conditions} order by ${order} offset $5 limit $6) c
       left join people p on p.id = c.changed_by
      order by ${order}`,
    [...values, filter.offset, filter.limit],
  );
  return {
    total: counted?.total ?? 0,
    items: rows.map(({ changed_at: changedAt, changed_by: changedBy, ...row }) => ({
      ...row,
      changedBy: changedBy ?? '',
      changedAt: changedAt.toISOString(),
    })),
  };
}
