import { saveComponentSchema, type ReachReport } from '@allomorph/core';
import type { Router } from 'express';
import type { Database } from '../db/database.js';
import { keyParams, route } from '../http/context.js';
import { requireComponent } from '../library/components.js';
import { runInThread } from '../threads/work-thread.js';
import { limitSeconds, today, type Freshness } from './freshness.js';
import type { ReachOrder } from './reach-thread.js';

/** Which deliverables are up to date, and which ones a change would alter. */
export function reachRoutes(router: Router, db: Database, freshness: Freshness): void {
  route(router, 'get', '/freshness', { role: 'reader' }, ({ person }) => freshness.of(person.workspace));

  route(
    router,
    'post',
    '/components/:key/reach',
    { role: 'writer', params: keyParams, body: saveComponentSchema },
    async ({ person, params, body }) => {
      await requireComponent(db, person.workspace, params.key);
      const change = { key: params.key, title: body.title, body: body.body };
      const order = { url: db.url, workspace: person.workspace, buildDate: today(), change };
      const module = new URL('./reach-thread.ts', import.meta.url);
      return runInThread<ReachOrder, never, ReachReport>(module, order, () => undefined, limitSeconds);
    },
  );
}
