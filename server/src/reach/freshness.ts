import type { VariantFreshness } from '@allomorph/core';
import type { Database } from '../db/database.js';
import { WorkThread } from '../threads/work-thread.js';
import type { FreshnessOrder } from './freshness-thread.js';

export const limitSeconds = 120;
export const today = (): string => new Date().toISOString().slice(0, 10);

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
