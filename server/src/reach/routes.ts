import { routes } from '@allomorph/core';
import type { Router } from 'express';
import type { Database } from '../db/database.js';
import { serve } from '../http/context.js';
import { requireComponent } from '../library/components.js';
import type { Analyses } from '../threads/analyses.js';

/** Which deliverables are up to date, and which ones a change would alter. */
export function reachRoutes(router: Router, db: Database, analyses: Analyses): void {
  serve(router, routes.freshness, ({ person, signal }) => analyses.freshness(person.workspace, signal));

  serve(router, routes.reach, async ({ person, params, body, signal }) => {
    await requireComponent(db, person.workspace, params.key);
    return analyses.reach(person.workspace, { key: params.key, title: body.title, body: body.body }, signal);
  });
}
