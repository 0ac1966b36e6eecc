import { routes, type Storage } from '@allomorph/core';
import type { Router } from 'express';
import { audit } from '../audit/audit.js';
import { oneRow, type Database, type Queryable } from '../db/database.js';
import { actorOf, serve } from '../http/context.js';

/**
 * Takes the files of a variant's old deliverables out of the store: all but the last ones, as many as the workspace keeps, and
 * those that were shipped. What was built stays on record.
 */
export async function dropOldDeliverables(db: Queryable, variant: string): Promise<void> {
  const { rows } = await db.query<{ digest: string }>(
    `with kept as (select w.kept_builds from variants v join workspaces w on w.id = v.workspace where v.id = $1),
          ranked as (select b.id, row_number() over (order by b.queued_at desc) as place from builds b
                      where b.variant = $1 and b.state = 'done' and not b.files_dropped
                        and not exists (select from shipped s where s.build = b.id)),
          old as (update builds b set files_dropped = true, source = null from ranked, kept
                   where ranked.id = b.id and ranked.place > kept.kept_builds returning b.id)
     delete from deliverable_files f using old where f.build = old.id returning f.digest`,
    [variant],
  );
  await dropUnusedBlobs(db, [...new Set(rows.map(({ digest }) => digest))]);
}

/** Takes out the bytes that nothing needs any more. What is being referred to meanwhile is left: somebody holds it. */
async function dropUnusedBlobs(db: Queryable, digests: readonly string[]): Promise<void> {
  if (digests.length === 0) return;
  await db.query(
    `delete from blobs where digest in (
       select b.digest from blobs b where b.digest = any($1)
          and not exists (select from deliverable_files f where f.digest = b.digest)
          and not exists (select from image_files i where i.digest = b.digest)
          and not exists (select from recordings r where r.digest = b.digest)
          and not exists (select from fonts t, jsonb_array_elements(t.faces) face where face ->> 'digest' = b.digest)
       for update skip locked)`,
    [digests],
  );
}

/** What the deliverables of a workspace take, and how many of each variant are kept. */
async function readStorage(db: Queryable, workspace: string): Promise<Storage> {
  const row = await oneRow<{ kept: number; bytes: string; shipped: string; deliverables: number }>(
    db,
    `with files as (select f.digest, bool_or(s.build is not null) as shipped
                      from deliverable_files f join builds b on b.id = f.build left join shipped s on s.build = b.id
                     where b.workspace = $1 group by f.digest)
     select w.kept_builds as kept,
            (select coalesce(sum(size), 0) from files join blobs using (digest)) as bytes,
            (select coalesce(sum(size), 0) from files join blobs using (digest) where files.shipped) as shipped,
            (select count(*)::integer from builds where workspace = $1 and state = 'done' and not files_dropped) as deliverables
       from workspaces w where w.id = $1`,
    [workspace],
  );
  return {
    kept: row?.kept ?? 0,
    bytes: Number(row?.bytes ?? 0),
    shippedBytes: Number(row?.shipped ?? 0),
    deliverables: row?.deliverables ?? 0,
  };
}

export function storageRoutes(router: Router, db: Database): void {
  serve(router, routes.storage, ({ person }) => readStorage(db, person.workspace));

  serve(router, routes.saveStorage, ({ person, body }) =>
    db.transaction(async (client) => {
      await client.query('update workspaces set kept_builds = $2 where id = $1', [person.workspace, body.kept]);
      await audit(client, actorOf(person), 'keep deliverables', String(body.kept));
      const { rows } = await client.query<{ id: string }>('select id from variants where workspace = $1', [
        person.workspace,
      ]);
      for (const { id } of rows) await dropOldDeliverables(client, id);
      return readStorage(client, person.workspace);
    }),
  );
}
