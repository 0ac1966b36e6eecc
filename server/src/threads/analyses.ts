import type {
  EntryChange,
  PublicationCoverage,
  ReachReport,
  ReferenceReadings,
  VariantFreshness,
} from '@allomorph/core';
import type { BuildOrder, BuildReport } from '../builds/build-thread.js';
import type { CompareOrder } from '../compare/compare-thread.js';
import type { MadeOrigin, OriginThreadOrder } from '../builds/origin-thread.js';
import type { Database } from '../db/database.js';
import type { MadePreview, PreviewThreadOrder } from '../designs/preview-thread.js';
import type { ImportAnswer, ImportOrder } from '../imports/import-thread.js';
import type { CoverageOrder } from '../publications/coverage-thread.js';
import type { ReferenceOrder } from '../publications/reference-thread.js';
import type { FreshnessOrder } from '../reach/freshness-thread.js';
import type { ReachOrder } from '../reach/reach-thread.js';
import { ownFile } from '../own-file.js';
import { Task, WorkPool } from './work-pool.js';

const limitSeconds = 120;
const today = (): string => new Date().toISOString().slice(0, 10);

const analysisThread = ownFile('server/src/threads/analysis-thread.js');

const tasks = {
  freshness: new Task<FreshnessOrder, never, readonly VariantFreshness[]>(analysisThread, 'freshness'),
  reach: new Task<ReachOrder, never, ReachReport>(analysisThread, 'reach'),
  compare: new Task<CompareOrder, never, readonly EntryChange[]>(analysisThread, 'compare'),
  preview: new Task<PreviewThreadOrder, never, MadePreview>(analysisThread, 'preview'),
  origin: new Task<OriginThreadOrder, never, MadeOrigin | null>(analysisThread, 'origin'),
  reference: new Task<ReferenceOrder, never, ReferenceReadings | null>(analysisThread, 'reference'),
  coverage: new Task<CoverageOrder, never, PublicationCoverage>(analysisThread, 'coverage'),
};

/** Building one variant; the builder has a thread of its own for it. */
export const buildTask = new Task<BuildOrder, BuildReport, void>(ownFile('server/src/builds/build-thread.js'), 'run');

/** What takes long to work out, in threads that keep what helps with the next question. */
export class Analyses {
  private readonly pool: WorkPool;
  private readonly previews = new WorkPool({ threads: 1, mostWaiting: 20 });

  constructor(
    private readonly db: Database,
    threads: number,
  ) {
    this.pool = new WorkPool({ threads });
  }

  get load(): WorkPool['load'] {
    return this.pool.load;
  }

  /** Which deliverables of a workspace are stale. */
  freshness(workspace: string, signal?: AbortSignal): Promise<readonly VariantFreshness[]> {
    const order = { url: this.db.url, workspace, buildDate: today() };
    return this.pool.run(tasks.freshness, order, { limitSeconds, key: workspace, ...(signal ? { signal } : {}) });
  }

  /** What a change of a component would alter. */
  reach(workspace: string, change: ReachOrder['change'], signal: AbortSignal): Promise<ReachReport> {
    const order = { url: this.db.url, workspace, buildDate: today(), change };
    return this.pool.run(tasks.reach, order, { limitSeconds, signal });
  }

  /** Two variants side by side. */
  compare(
    workspace: string,
    variants: Pick<CompareOrder, 'before' | 'after' | 'built'>,
    signal: AbortSignal,
  ): Promise<readonly EntryChange[]> {
    const order = { url: this.db.url, workspace, buildDate: today(), ...variants };
    return this.pool.run(tasks.compare, order, { limitSeconds, key: JSON.stringify(variants), signal });
  }

  /** What each variant of a publication has of each entry. */
  coverage(workspace: string, publication: string, signal: AbortSignal): Promise<PublicationCoverage> {
    const order = { url: this.db.url, workspace, publication };
    return this.pool.run(tasks.coverage, order, { limitSeconds, key: `${workspace} ${publication}`, signal });
  }

  /** What a cross-reference reads in a variant. */
  reference(
    workspace: string,
    place: Pick<ReferenceOrder, 'variant' | 'from' | 'to' | 'block'>,
    signal: AbortSignal,
  ): Promise<ReferenceReadings | null> {
    const order = { url: this.db.url, workspace, buildDate: today(), ...place };
    return this.pool.run(tasks.reference, order, { limitSeconds, signal });
  }

  /** What a variant would look like in a design. In a thread of its own, as it keeps a typesetter. */
  preview(order: Omit<PreviewThreadOrder, 'url' | 'buildDate'>, signal: AbortSignal): Promise<MadePreview> {
    const whole = { ...order, url: this.db.url, buildDate: today() };
    return this.previews.run(tasks.preview, whole, { limitSeconds: 60, signal });
  }

  /** A page of a build, and where everything on it comes from. */
  origin(order: Omit<OriginThreadOrder, 'url'>, signal: AbortSignal): Promise<MadeOrigin | null> {
    return this.pool.run(tasks.origin, { ...order, url: this.db.url }, { limitSeconds, signal });
  }

  async stop(): Promise<void> {
    await Promise.all([this.pool.end(), this.previews.end()]);
  }
}

const importTask = new Task<ImportOrder, never, ImportAnswer>(ownFile('server/src/imports/import-thread.js'), 'run');
const importPool = new WorkPool({ threads: 1, mostWaiting: 5 });

/** Reads the source of an import; one after the other, as each may take much memory. */
export function readImport(order: ImportOrder): Promise<ImportAnswer> {
  return importPool.run(importTask, order, { limitSeconds: 300 });
}
