import { routes, type BinKind, type BinRow } from '@allomorph/core';
import type { Router } from 'express';
import { audit, type Actor } from '../audit/audit.js';
import { oneRow, type Database, type Queryable } from '../db/database.js';
import { actorOf, serve } from '../http/context.js';
import { restoreDesign } from '../designs/designs.js';
import { HttpProblem } from '../http/problem.js';
import { restoreComponent } from '../library/components.js';
import { restorePublication } from '../publications/publications.js';
import { restoreVariant } from '../publications/variants.js';

const atOnce = 500;

/** What waits in the bin, the latest first. */
async function readBin(db: Queryable, workspace: string): Promise<readonly BinRow[]> {
  const { rows } = await db.query<Omit<BinRow, 'deletedAt'> & { deletedAt: Date }>(
    `select d.kind, d.key, d.title, d.detail, coalesce(p.name, '') as "deletedBy", d.deleted_at as "deletedAt" from (
       select 'component' as kind, key, title, kind as detail, deleted_by, deleted_at
         from components where workspace = $1 and deleted_at is not null
       union all select 'publication', key, title, '', deleted_by, deleted_at
         from publications where workspace = $1 and deleted_at is not null
       union all select 'variant', v.id::text, v.title, p.title, v.deleted_by, v.deleted_at
         from variants v join publications p on p.workspace = v.workspace and p.key = v.publication
        where v.workspace = $1 and v.deleted_at is not null
       union all select 'axis', key, title, '', deleted_by, deleted_at
         from axes where workspace = $1 and deleted_at is not null
       union all select 'profile', key, title, '', deleted_by, deleted_at
         from profiles where workspace = $1 and deleted_at is not null
       union all select 'stamp', key, title, '', deleted_by, deleted_at
         from stamps where workspace = $1 and deleted_at is not null
       union all select 'design', key, title, '', deleted_by, deleted_at
         from designs where workspace = $1 and deleted_at is not null
     ) d left join people p on p.id = d.deleted_by order by d.deleted_at desc, d.key limit $2`,
    [workspace, atOnce],
  );
  return rows.map((row) => ({ ...row, deletedAt: row.deletedAt.toISOString() }));
}

async function restoreFrom(
  table: 'axes' | 'profiles' | 'stamps',
  db: Queryable,
  actor: Actor,
  key: string,
): Promise<void> {
  const row = await oneRow(
    db,
    `update ${table} set deleted_at = null, deleted_by = null
      where workspace = $1 and key = $2 and deleted_at is not null returning key`,
    [actor.workspace, key],
  );
  if (!row) throw new HttpProblem(404, 'This is not in the bin any more.');
  await audit(db, actor, 'restore', key);
}

const restore: Readonly<Record<BinKind, (db: Queryable, actor: Actor, key: string) => Promise<unknown>>> = {
  component: restoreComponent,
  publication: restorePublication,
  variant: restoreVariant,
  axis: (db, actor, key) => restoreFrom('axes', db, actor, key),
  profile: (db, actor, key) => restoreFrom('profiles', db, actor, key),
  stamp: (db, actor, key) => restoreFrom('stamps', db, actor, key),
  design: restoreDesign,
};

/** The bin: what was deleted, and the way back. */
export function binRoutes(router: Router, db: Database): void {
  serve(router, routes.bin, ({ person }) => readBin(db, person.workspace));

  serve(router, routes.restore, async ({ person, body }) => {
    if (body.kind !== 'component' && person.role !== 'keeper')
      throw new HttpProblem(403, `This takes the role “keeper”; you are a ${person.role}.`);
    await db.transaction((client) => restore[body.kind](client, actorOf(person), body.key));
  });
}
