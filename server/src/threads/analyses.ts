import type { EntryChange, ReachReport, VariantFreshness } from '@allomorph/core';
import type { CompareOrder } from '../compare/compare-thread.js';
import type { Database } from '../db/database.js';
import type { FreshnessOrder } from '../reach/freshness-thread.js';
import type { ReachOrder } from '../reach/reach-thread.js';
import { WorkThread } from './work-thread.js';

const limitSeconds = 120;
const today = (): string => new Date().toISOString().slice(0, 10);
const quietly = (): void => undefined;

/** What takes long to work out, each in a thread of its own that keeps what helps with the next question. */
export class Analyses {
  private readonly freshnessThread = new WorkThread<FreshnessOrder, never, readonly VariantFreshness[]>(
    new URL('../reach/freshness-thread.ts', import.meta.url),
  );
  private readonly reachThread = new WorkThread<ReachOrder, never, ReachReport>(
    new URL('../reach/reach-thread.ts', import.meta.url),
  );
  private readonly compareThread = new WorkThread<CompareOrder, never, readonly EntryChange[]>(
    new URL('../compare/compare-thread.ts', import.meta.url),
  );

  constructor(private readonly db: Database) {}

  /** Which deliverables of a workspace are stale. */
  freshness(workspace: string): Promise<readonly VariantFreshness[]> {
    return this.freshnessThread.run({ url: this.db.url, workspace, buildDate: today() }, quietly, limitSeconds);
  }

  /** What a change of a component would alter. */
  reach(workspace: string, change: ReachOrder['change']): Promise<ReachReport> {
    return this.reachThread.run({ url: this.db.url, workspace, buildDate: today(), change }, quietly, limitSeconds);
  }

  /** Two variants side by side. */
  compare(workspace: string, variants: Pick<CompareOrder, 'before' | 'after'>): Promise<readonly EntryChange[]> {
    const order = { url: this.db.url, workspace, buildDate: today(), ...variants };
    return this.compareThread.run(order, quietly, limitSeconds);
  }

  async stop(): Promise<void> {
    await Promise.all([this.freshnessThread.end(), this.reachThread.end(), this.compareThread.end()]);
  }
}
