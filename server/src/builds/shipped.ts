import { routes } from '@allomorph/core';
import type { Router } from 'express';
import { audit } from '../audit/audit.js';
import { oneRow, type Database } from '../db/database.js';
import { announce } from '../events/events.js';
import { actorOf, serve } from '../http/context.js';
import { HttpProblem } from '../http/problem.js';
import type { BuildQueue } from './builder.js';

/** Deliverables that were handed over, and builds that are made again from their record. */
export function shippedRoutes(router: Router, db: Database, queue: BuildQueue): void {
  serve(router, routes.shipBuild, async ({ person, params, body }) => {
    await db.transaction(async (client) => {
      const build = await oneRow<{ variant_title: string; state: string; files_dropped: boolean }>(
        client,
        'select variant_title, state, files_dropped from builds where workspace = $1 and id = $2 for update',
        [person.workspace, params.id],
      );
      if (!build) throw new HttpProblem(404, 'There is no such build.');
      if (build.state !== 'done') throw new HttpProblem(409, 'Nothing was made here that could be handed over.');
      if (build.files_dropped) throw new HttpProblem(409, 'The files of this deliverable are gone; build it again.');
      await client.query(
        `insert into shipped (build, version, note, shipped_by) values ($1, $2, $3, $4)
         on conflict (build) do update set version = excluded.version, note = excluded.note`,
        [params.id, body.version, body.note, person.id],
      );
      await audit(client, actorOf(person), 'ship', build.variant_title, { version: body.version });
    });
  });

  serve(router, routes.unshipBuild, async ({ person, params }) => {
    await db.transaction(async (client) => {
      const gone = await oneRow<{ version: string }>(
        client,
        `delete from shipped s using builds b where b.id = s.build and b.workspace = $1 and b.id = $2 returning s.version`,
        [person.workspace, params.id],
      );
      if (!gone) throw new HttpProblem(404, 'This was not marked as shipped.');
      await audit(client, actorOf(person), 'take back shipped', gone.version);
    });
  });

  serve(router, routes.buildAgain, async ({ person, params }) => {
    const id = await db.transaction(async (client) => {
      const row = await oneRow<{ id: string; variant_title: string }>(
        client,
        `insert into builds (workspace, variant, variant_title, recipe, schema_version, started_by, again_of)
         select workspace, variant, variant_title, recipe, schema_version, $3, id from builds
          where workspace = $1 and id = $2 and source is not null returning id, variant_title`,
        [person.workspace, params.id, person.id],
      );
      if (!row) throw new HttpProblem(409, 'Nothing was kept of which this could be built again.');
      await audit(client, actorOf(person), 'build from record', row.variant_title);
      return row.id;
    });
    await queue.add(id);
    await announce(db, person.workspace, { type: 'build', id, state: 'queued', stage: 'waiting', progress: 0 });
    return { builds: [id] };
  });
}
