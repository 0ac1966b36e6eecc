import { Worker } from 'node:worker_threads';
import { HttpProblem } from '../http/problem.js';
import { ownFile } from '../own-file.js';
import { Cancelled, isOutOfMemory, ThreadTimeout } from './thread-errors.js';

/** What a module exports that does some work in a thread. */
export type ThreadWork<Order, Report, Answer> = (order: Order, report: (report: Report) => void) => Promise<Answer>;

/** One kind of work: the module that does it, and the name that it exports it by. */
export class Task<Order, Report, Answer> {
  /** Carries the types. */
  declare readonly types: ThreadWork<Order, Report, Answer>;
  readonly module: string;

  constructor(
    module: URL,
    readonly name: string,
  ) {
    this.module = module.href;
  }
}

interface Refusal {
  readonly status: number;
  readonly detail: string;
  readonly members: Readonly<Record<string, unknown>>;
}
type Message = { readonly report: unknown } | { readonly answer: unknown } | { readonly refusal: Refusal };

/** How one order is to be carried out. */
export interface OrderTerms<Report> {
  /** After so long it is given up. */
  readonly limitSeconds: number;
  readonly report?: (report: Report) => void;
  /** Orders with the same key that have not begun are carried out once, for all who wait. */
  readonly key?: string;
  /** Ends the waiting; an order that nobody waits for any more is not carried out to its end. */
  readonly signal?: AbortSignal;
}

export interface PoolLimits {
  readonly threads: number;
  /** Memory of each thread. */
  readonly megabytes?: number;
  /** How many orders may wait. */
  readonly mostWaiting?: number;
  /** How long an order that nobody waits for may still go on: ending it loses what its thread remembers. */
  readonly graceSeconds?: number;
}

/** After so long without an order a thread is ended, and with it what it kept. */
const idleLimit = 15 * 60_000;

/**
 * Some worker threads that run modules, with a limit on the memory and time of each order, so that heavy or hostile input
 * can neither stop the process nor take all of the machine. Modules may keep what helps with the next order; an order goes
 * to the free thread that did the same work last. When a thread dies, the next order begins another.
 */
export class WorkPool {
  private readonly threads: Thread[];
  private readonly waiting: Job[] = [];
  private readonly mostWaiting: number;
  private readonly grace: number;

  constructor({ threads, megabytes = 1500, mostWaiting = 100, graceSeconds = 2 }: PoolLimits) {
    this.threads = Array.from({ length: threads }, () => new Thread(megabytes));
    this.mostWaiting = mostWaiting;
    this.grace = graceSeconds * 1000;
  }

  /** How many orders are carried out, and how many wait. */
  get load(): { readonly running: number; readonly waiting: number } {
    return { running: this.threads.filter(({ job }) => job !== null).length, waiting: this.waiting.length };
  }

  /**
   * Carries out an order as soon as a thread is free.
   * @throws what the work throws; an error that says so where a limit was reached; HttpProblem 503 where too many wait
   */
  run<Order, Report, Answer>(
    task: Task<Order, Report, Answer>,
    order: Order,
    { limitSeconds, report, key, signal }: OrderTerms<Report>,
  ): Promise<Answer> {
    const known = key === undefined ? undefined : this.waiting.find((job) => job.key === key && job.task === task);
    if (!known && this.waiting.length >= this.mostWaiting)
      return Promise.reject(new HttpProblem(503, 'Too much is being worked out just now. Try again in a moment.'));
    // Who gives an order knows what its reports and its answer are.
    // eslint-disable-next-line @typescript-eslint/no-unsafe-type-assertion
    const told = (report ?? ((): void => undefined)) as (report: unknown) => void;
    const job: Job = known ?? { task, order, limitSeconds, key, report: told, waiters: new Set() };
    // eslint-disable-next-line @typescript-eslint/no-unsafe-type-assertion
    const answer = this.waitFor(job, signal) as Promise<Answer>;
    if (!known) {
      this.waiting.push(job);
      this.next();
    }
    return answer;
  }

  private waitFor(job: Job, signal?: AbortSignal): Promise<unknown> {
    return new Promise((resolve, reject) => {
      const waiter: Waiter = {
        settle: (outcome) => {
          signal?.removeEventListener('abort', leave);
          if ('answer' in outcome) resolve(outcome.answer);
          else reject(outcome.error);
        },
      };
      const leave = (): void => {
        job.waiters.delete(waiter);
        reject(new Cancelled('Nobody waits for the answer any more.'));
        if (job.waiters.size === 0) this.drop(job);
      };
      job.waiters.add(waiter);
      if (signal?.aborted) leave();
      else signal?.addEventListener('abort', leave, { once: true });
    });
  }

  /** Nobody waits for a job any more. */
  private drop(job: Job): void {
    const at = this.waiting.indexOf(job);
    if (at >= 0) this.waiting.splice(at, 1);
    const thread = this.threads.find((each) => each.job === job);
    if (!thread) return;
    setTimeout(() => {
      if (thread.job === job) void thread.end();
    }, this.grace).unref();
  }

  private next(): void {
    for (let at = 0; at < this.waiting.length;) {
      const job = this.waiting[at];
      const free = this.threads.filter((thread) => thread.job === null);
      const thread = free.find((each) => each.lastTask === job?.task) ?? free.find((each) => !each.isOpen) ?? free[0];
      if (!job || !thread) return;
      if (job.waiters.size === 0) {
        at += 1;
        continue;
      }
      this.waiting.splice(at, 1);
      void thread.carryOut(job).then((outcome) => {
        for (const waiter of job.waiters) waiter.settle(outcome);
        this.next();
      });
    }
  }

  /** Ends the threads; what they were at is given up. */
  async end(): Promise<void> {
    for (const job of this.waiting.splice(0))
      for (const waiter of job.waiters) waiter.settle({ error: new Cancelled('The process ends.') });
    await Promise.all(this.threads.map((thread) => thread.end()));
  }
}

type Outcome = { readonly answer: unknown } | { readonly error: Error };

interface Waiter {
  readonly settle: (outcome: Outcome) => void;
}

interface Job {
  readonly task: Pick<Task<unknown, unknown, unknown>, 'module' | 'name'>;
  readonly order: unknown;
  readonly limitSeconds: number;
  readonly key: string | undefined;
  readonly report: (report: unknown) => void;
  readonly waiters: Set<Waiter>;
}

/** One worker thread, begun when there is something to do. */
class Thread {
  private worker: Worker | null = null;
  private idle: NodeJS.Timeout | undefined;
  private giveUp: (error: Error) => void = () => undefined;
  /** What it is at. */
  job: Job | null = null;
  lastTask: Job['task'] | null = null;

  constructor(private readonly megabytes: number) {}

  get isOpen(): boolean {
    return this.worker !== null;
  }

  async carryOut(job: Job): Promise<Outcome> {
    clearTimeout(this.idle);
    this.job = job;
    this.lastTask = job.task;
    const isFresh = this.worker === null;
    let outcome = await this.attempt(job);
    // What was kept of earlier orders may have left too little room for this one.
    if ('error' in outcome && !isFresh && isOutOfMemory(outcome.error)) outcome = await this.attempt(job);
    this.job = null;
    this.idle = setTimeout(() => void this.end(), idleLimit).unref();
    return outcome;
  }

  private attempt({ task, order, report, limitSeconds }: Job): Promise<Outcome> {
    const worker = (this.worker ??= this.start());
    worker.ref();
    return new Promise((resolve) => {
      const settle = (outcome: Outcome): void => {
        clearTimeout(timer);
        worker.off('message', take).off('error', fail).off('exit', exit).unref();
        this.giveUp = () => undefined;
        resolve(outcome);
      };
      const take = (message: Message): void => {
        if ('answer' in message) settle({ answer: message.answer });
        else if ('refusal' in message) {
          const { status, detail, members } = message.refusal;
          settle({ error: new HttpProblem(status, detail, members) });
        } else report(message.report);
      };
      const fail = (error: unknown): void =>
        settle({ error: error instanceof Error ? error : new Error(String(error)) });
      const exit = (code: number): void => fail(new Error(`The thread ended early with code ${code}.`));
      const timer = setTimeout(() => {
        const error = new ThreadTimeout(`The work took longer than ${limitSeconds} seconds and was given up.`);
        this.giveUp(error);
        void this.end();
      }, limitSeconds * 1000);
      this.giveUp = (error) => settle({ error });
      worker.on('message', take).on('error', fail).on('exit', exit);
      worker.postMessage({ module: task.module, name: task.name, order });
    });
  }

  async end(): Promise<void> {
    clearTimeout(this.idle);
    const { worker } = this;
    this.worker = null;
    this.giveUp(new Cancelled('The work was given up.'));
    await worker?.terminate();
  }

  private start(): Worker {
    const worker = new Worker(ownFile('server/src/threads/entry.mjs'), {
      resourceLimits: { maxOldGenerationSizeMb: this.megabytes },
    });
    const forget = (): void => {
      if (this.worker === worker) this.worker = null;
    };
    return worker.on('error', forget).on('exit', forget);
  }
}
