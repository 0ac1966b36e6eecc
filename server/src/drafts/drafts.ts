import { routes, type KeptDraft } from '@allomorph/core';
import type { Router } from 'express';
import type { Database, Queryable } from '../db/database.js';
import { serve } from '../http/context.js';

/** How many drafts of one person are kept, the latest, and for how long. */
const most = 200;
const days = 90;

/** What a person has written of one thing and not saved, the latest first. */
async function readDrafts(db: Queryable, person: string, thing: string): Promise<readonly KeptDraft[]> {
  const { rows } = await db.query<Omit<KeptDraft, 'at'> & { at: Date }>(
    'select window_name as window, draft, at from drafts where person = $1 and thing = $2 order by at desc limit 20',
    [person, thing],
  );
  return rows.map((row) => ({ ...row, at: row.at.toISOString() }));
}

async function dropOld(db: Queryable, person: string): Promise<void> {
  await db.query(
    `delete from drafts where person = $1 and (at < now() - make_interval(days => $2) or (thing, window_name) in
       (select thing, window_name from drafts where person = $1 order by at desc offset $3))`,
    [person, days, most],
  );
}

/** Drafts: seen by nobody but the person who wrote them. */
export function draftRoutes(router: Router, db: Database): void {
  serve(router, routes.drafts, ({ person, query }) => readDrafts(db, person.id, query.thing));

  serve(router, routes.keepDraft, async ({ person, body }) => {
    const { rows } = await db.query<{ isNew: boolean }>(
      `insert into drafts (person, thing, window_name, draft) values ($1, $2, $3, $4)
       on conflict (person, thing, window_name) do update set draft = excluded.draft, at = now()
       returning xmax = 0 as "isNew"`,
      [person.id, body.thing, body.window, body.draft],
    );
    if (rows[0]?.isNew === true) await dropOld(db, person.id);
  });

  serve(router, routes.dropDraft, async ({ person, query }) => {
    await db.query('delete from drafts where person = $1 and thing = $2 and window_name = $3', [
      person.id,
      query.thing,
      query.window,
    ]);
  });
}
