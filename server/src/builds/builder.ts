import { Logger, makeWorkerUtils, run, type Runner, type WorkerUtils } from 'graphile-worker';
import * as z from 'zod';
import { recipeOfVersion, type StoredVariant } from '@allomorph/core';
import { isDatabaseAway, oneRow, type Database } from '../db/database.js';
import { LastingClient } from '../db/lasting-client.js';
import { announce } from '../events/events.js';
import { silentLog, type Logger as Log } from '../http/log.js';
import { buildTask } from '../threads/analyses.js';
import { Cancelled } from '../threads/thread-errors.js';
import { WorkPool } from '../threads/work-pool.js';
import type { BuildOrder, BuildReport } from './build-thread.js';

interface QueuedBuild {
  id: string;
  workspace: string;
  variant: string;
  variant_title: string;
  recipe: StoredVariant;
  schema_version: number;
  queued_at: Date;
  state: string;
  again_of: string | null;
}

/** What the queue itself says: only what somebody should look at. */
const logger = new Logger(() => (level, message) => {
  if (level === 'error' || level === 'warning') console.error(message);
});

const task = 'build';
const payloadSchema = z.object({ build: z.string() });
const lockSpace = 70_410;
const maximumAttempts = 3;
const checkEvery = 5_000;
const buildLimit = 1800;
const takeAgainAfter = 2_000;

/** Puts builds into the queue. */
export class BuildQueue {
  private constructor(private readonly utils: WorkerUtils) {}

  static async open(url: string): Promise<BuildQueue> {
    const utils = await makeWorkerUtils({ connectionString: url, logger });
    await utils.migrate();
    return new BuildQueue(utils);
  }

  async add(build: string): Promise<void> {
    // The key keeps a build that is put in twice from waiting twice.
    await this.utils.addJob(task, { build }, { maxAttempts: 1, jobKey: build });
  }

  async close(): Promise<void> {
    await this.utils.release();
  }
}

/**
 * Takes builds from the queue and runs them in a thread, one after the other. The process holds an advisory lock
 * as long as it lives; a running build whose lock is free lost its process and is taken up again.
 */
export class Builder {
  private runner: Runner | null = null;
  private holder: LastingClient | null = null;
  private timer: NodeJS.Timeout | null = null;
  private lock = 0;
  private stopped = false;
  private isAwayTold = false;
  private readonly pool = new WorkPool({ threads: 1 });

  constructor(
    private readonly db: Database,
    private readonly queue: BuildQueue,
    private readonly log: Log = silentLog,
  ) {}

  /** That the database is away is told once, not at each try. */
  private tell(error: unknown): void {
    const isAway = isDatabaseAway(error);
    if (!isAway) this.log.error({ err: error }, 'a step of the builder failed');
    else if (!this.isAwayTold) this.log.warn('the database cannot be reached; builds wait');
    this.isAwayTold = isAway;
  }

  async start(): Promise<void> {
    const row = await oneRow<{ lock: number }>(this.db, `select nextval('worker_locks')::integer as lock`);
    this.lock = row?.lock ?? 0;
    // Without its lock this process is taken for dead. Where its connection was lost and others took its build up, both
    // make the same deliverable.
    this.holder = new LastingClient(this.db.url, async (client) => {
      await client.query('select pg_advisory_lock($1, $2)', [lockSpace, this.lock]);
    });
    await this.holder.open();
    await this.takeUpLost();
    await this.putInWaiting();
    this.timer = setInterval(() => void this.lookForLost(), checkEvery);
    await this.take();
  }

  /** Takes builds from the queue; begins again when the queue gave up, as it does while there is no database. */
  private async take(): Promise<void> {
    const runner = await run({
      connectionString: this.db.url,
      concurrency: 1,
      noHandleSignals: true,
      pollInterval: 1000,
      parsedCronItems: [],
      logger,
      taskList: { [task]: (payload) => this.build(payloadSchema.parse(payload).build) },
    });
    this.runner = runner;
    const again = (): void => {
      if (this.stopped) return;
      setTimeout(() => void this.take().catch(again), takeAgainAfter);
    };
    runner.promise.then(again, again);
  }

  async stop(): Promise<void> {
    this.stopped = true;
    if (this.timer) clearInterval(this.timer);
    // What is being built is given up and waits again, for this process's next start or for another one.
    await this.pool.end();
    // A queue that gave up has stopped already.
    await this.runner?.stop().catch(() => undefined);
    await this.holder?.close();
  }

  private async lookForLost(): Promise<void> {
    try {
      await this.takeUpLost();
      await this.putInWaiting();
      this.isAwayTold = false;
    } catch (error) {
      this.tell(error);
    }
  }

  /** Queues the running builds of dead processes again, or gives them up after a few attempts. */
  private async takeUpLost(): Promise<void> {
    await this.db.query(
      `update builds set worker_lock = null, stage = 'waiting', progress = 0,
              state = case when attempts >= $2 then 'broken off' else 'queued' end,
              ended_at = case when attempts >= $2 then now() end,
              message = case when attempts >= $2 then 'The process that ran this build ended, several times.' end
        where state = 'running' and worker_lock is not null and not exists (
          select 1 from pg_locks where locktype = 'advisory' and classid = $1
             and database = (select oid from pg_database where datname = current_database()) and objid = worker_lock and granted)`,
      [lockSpace, maximumAttempts],
    );
  }

  /**
   * Puts the builds that wait into the queue, but for those whose entry waits there as well: a process may have died with it
   * in hand, before it began the build or after.
   */
  private async putInWaiting(): Promise<void> {
    const { rows } = await this.db.query<{ id: string }>(
      `select id from builds where state = 'queued' and not exists (
         select from graphile_worker.jobs j
          where j.key = builds.id::text and j.locked_at is null and j.attempts < j.max_attempts)
        order by queued_at`,
    );
    for (const { id } of rows) await this.queue.add(id);
  }

  private async build(id: string): Promise<void> {
    // It waits in its table, from which whoever comes next puts it into the queue again.
    if (this.stopped) return;
    const build = await oneRow<QueuedBuild>(
      this.db,
      `update builds set state = 'running', stage = 'starting', attempts = attempts + 1, worker_lock = $2
        where id = $1 and state = 'queued' returning *`,
      [id, this.lock],
    );
    if (!build) return;
    const order: BuildOrder = {
      url: this.db.url,
      workspace: build.workspace,
      build: id,
      variant: recipeOfVersion(build.recipe, build.schema_version),
      buildDate: build.queued_at.toISOString().slice(0, 10),
      againOf: build.again_of,
    };
    const stopped = new AbortController();
    try {
      const report = (each: BuildReport): void =>
        void this.progress(build, each).then(
          (isRunning) => {
            if (!isRunning) stopped.abort();
          },
          (error: unknown) => this.tell(error),
        );
      await this.pool.run(buildTask, order, { limitSeconds: buildLimit, report, signal: stopped.signal });
    } catch (error) {
      // Somebody stopped it, and said so.
      if (stopped.signal.aborted) return;
      if (error instanceof Cancelled) {
        await this.putBack(id);
        return;
      }
      const message = error instanceof Error ? error.message : String(error);
      await this.db.query(
        `update builds set state = 'failed', stage = 'finished', ended_at = now(), worker_lock = null, message = $2
          where id = $1 and state = 'running'`,
        [id, message],
      );
    }
    const ended = await oneRow<{ state: 'done' | 'failed' | 'broken off' }>(
      this.db,
      'select state from builds where id = $1',
      [id],
    );
    await announce(this.db, build.workspace, {
      type: 'build',
      id,
      state: ended?.state ?? 'failed',
      stage: 'finished',
      progress: 1,
    });
  }

  /** A build that was given up with this process did nothing wrong: the attempt does not count. */
  private async putBack(id: string): Promise<void> {
    await this.db.query(
      `update builds set state = 'queued', stage = 'waiting', progress = 0, attempts = attempts - 1, worker_lock = null
        where id = $1 and state = 'running'`,
      [id],
    );
    await this.queue.add(id);
  }

  /** @returns whether the build is still to be made */
  private async progress(build: QueuedBuild, { stage, progress }: BuildReport): Promise<boolean> {
    const row = await oneRow<{ state: string }>(
      this.db,
      `update builds set stage = case when state = 'running' then $2 else stage end,
              progress = case when state = 'running' then $3 else progress end
        where id = $1 returning state`,
      [build.id, stage, progress],
    );
    if (row?.state === 'broken off') return false;
    if (row?.state === 'running')
      await announce(this.db, build.workspace, { type: 'build', id: build.id, state: 'running', stage, progress });
    return true;
  }
}
