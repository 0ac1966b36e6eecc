import { stampTarget, type ComponentKind, type ComponentList, type ComponentRow } from '@allomorph/core';
import { likePattern, oneRow, type Queryable } from '../db/database.js';

interface Filter {
  readonly find: string;
  readonly kind?: ComponentKind | undefined;
  /** Only snippets of this collection. */
  readonly collection?: string | undefined;
  /** Only what bears this stamp. */
  readonly stamp?: string | undefined;
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
 * Lists components by text, kind and use, titles that match first. Uses are counted for what is told only, unless they are
 * asked for.
 */
export async function listComponents(db: Queryable, workspace: string, filter: Filter): Promise<ComponentList> {
  const found = filter.find.trim() !== '';
  const conditions = [
    'c.workspace = $1 and c.deleted_at is null',
    found ? 'c.folded like lower($2)' : '$2::text is not null',
    '($3::text is null or c.kind = $3)',
    '($4::text is null or c.collection = $4)',
    `($5::text is null or exists (select from component_references f where f.workspace = c.workspace
       and f.source_kind = 'component' and f.source = c.key and f.target = $5))`,
    ...(filter.usage === 'any' ? [] : [`${usesOf} ${usageIs[filter.usage]}`]),
  ].join(' and ');
  // What is in the title or key comes before what is in the text only.
  const order = `${found ? '(lower(c.title) like lower($2) or lower(c.key) like lower($2)) desc, ' : ''}lower(c.title), c.key`;
  const values = [
    workspace,
    likePattern(filter.find),
    filter.kind ?? null,
    filter.collection ?? null,
    filter.stamp === undefined ? null : stampTarget(filter.stamp),
  ];
  const { rows } = await db.query<Row & { total: number }>(
    `select c.key, c.kind, c.title, c.revision, left(c.text, 220) as excerpt, c.conditions, c.changed_at,
            p.name as changed_by, (${usesOf})::integer as uses, page.total
       from (select c.key, row_number() over (order by ${order}) as position, count(*) over ()::integer as total
               from components c where ${conditions} order by position offset $6 limit $7) page
       join components c on c.workspace = $1 and c.key = page.key
       left join people p on p.id = c.changed_by
      order by page.position`,
    [...values, filter.offset, filter.limit],
  );
  const counted =
    rows[0] ??
    // Behind the last page nothing tells how many there are.
    (filter.offset === 0
      ? undefined
      : await oneRow<{ total: number }>(
          db,
          `select count(*)::integer as total from components c where ${conditions}`,
          values,
        ));
  return {
    total: counted?.total ?? 0,
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
