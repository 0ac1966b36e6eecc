import { saveComponentSchema, type ReachReport, type VariantFreshness } from '@allomorph/core';
import type { Router } from 'express';
import type { Database } from '../db/database.js';
import { keyParams, route } from '../http/context.js';
import { requireComponent } from '../library/components.js';
import { runInThread } from '../threads/work-thread.js';
import type { ReachAnswer, ReachOrder } from './reach-thread.js';

const limitSeconds = 120;

function ask<Answer extends ReachAnswer>(
  db: Database,
  workspace: string,
  change: ReachOrder['change'],
): Promise<Answer> {
  const order: ReachOrder = { url: db.url, workspace, buildDate: new Date().toISOString().slice(0, 10), change };
  const module = new URL('./reach-thread.ts', import.meta.url);
  return runInThread<ReachOrder, never, Answer>(module, order, () => undefined, limitSeconds);
}

/** Which deliverables are up to date, and which ones a change would alter. */
export function reachRoutes(router: Router, db: Database): void {
  route(router, 'get', '/freshness', { role: 'reader' }, ({ person }) =>
    ask<readonly VariantFreshness[]>(db, person.workspace, null),
  );

  route(
    router,
    'post',
    '/components/:key/reach',
    { role: 'writer', params: keyParams, body: saveComponentSchema },
    async ({ person, params, body }) => {
      await requireComponent(db, person.workspace, params.key);
      return ask<ReachReport>(db, person.workspace, { key: params.key, title: body.title, body: body.body });
    },
  );
}
