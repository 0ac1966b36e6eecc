import { routes, type AuditRow } from '@allomorph/core';
import type { Router } from 'express';
import { likePattern, type Database } from '../db/database.js';
import { serve } from '../http/context.js';

const atOnce = 100;

/** Who did what, the newest first, as keepers look it up. */
export function auditRoutes(router: Router, db: Database): void {
  serve(router, routes.audit, async ({ person, query }) => {
    const { rows } = await db.query<Omit<AuditRow, 'id' | 'at'> & { id: string; at: Date }>(
      `select a.id, a.at, coalesce(p.name, '') as person, a.action, a.subject, a.detail
         from audit a left join people p on p.id = a.person
        where a.workspace = $1 and ($2::uuid is null or a.person = $2) and ($3::bigint is null or a.id < $3)
          and ($4 = '%%' or a.action ilike $4 or a.subject ilike $4 or a.detail::text ilike $4 or p.name ilike $4)
        order by a.id desc limit $5`,
      [person.workspace, query.person ?? null, query.before ?? null, likePattern(query.find), atOnce + 1],
    );
    return {
      items: rows.slice(0, atOnce).map((row) => ({ ...row, id: Number(row.id), at: row.at.toISOString() })),
      hasMore: rows.length > atOnce,
    };
  });
}
