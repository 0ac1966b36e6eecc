import { saveComponentSchema, type ReachReport, type VariantFreshness } from '@allomorph/core';
import type { Router } from 'express';
import type { Database } from '../db/database.js';
import { keyParams, route } from '../http/context.js';
import { requireComponent } from '../library/components.js';
import { runInThread, WorkThread } from '../threads/work-thread.js';
import type { FreshnessOrder } from './freshness-thread.js';
import type { ReachOrder } from './reach-thread.js';

const limitSeconds = 120;
const today = (): string => new Date().toISOString().slice(0, 10);

/** Tells which deliverables are stale, in a thread that keeps what it read. */
export class Freshness {
  private readonly thread = new WorkThread<FreshnessOrder, never, readonly VariantFreshness[]>(
    new URL('./freshness-thread.ts', import.meta.url),
  );

  constructor(private readonly db: Database) {}

  of(workspace: string): Promise<readonly VariantFreshness[]> {
    const order = { url: this.db.url, workspace, buildDate: today() };
    return this.thread.run(order, () => undefined, limitSeconds);
  }

  stop(): Promise<void> {
    return this.thread.end();
  }
}

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
