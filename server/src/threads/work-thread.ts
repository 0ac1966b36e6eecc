import { Worker } from 'node:worker_threads';

/** What a module that runs in a thread exports as `run`. */
export type ThreadWork<Order, Report, Answer> = (order: Order, report: (report: Report) => void) => Promise<Answer>;

type Message<Report, Answer> = { readonly report: Report } | { readonly answer: Answer };

/** After so long without an order a thread is ended, and with it what it kept. */
const idleLimit = 15 * 60_000;

/**
 * A worker thread that runs a module's `run`, with a limit on its memory and time, so that heavy or hostile
 * input cannot stop the process. Orders are taken one after the other; the module may keep what helps with
 * the next one. When the thread dies, the next order begins another.
 */
export class WorkThread<Order, Report, Answer> {
  private worker: Worker | null = null;
  private isFresh = true;
  private turn: Promise<unknown> = Promise.resolve();
  private idle: NodeJS.Timeout | undefined;

  constructor(
    private readonly module: URL,
    private readonly megabytes = 1500,
  ) {}

  /**
   * @throws what the work throws; an error that says so where a limit was reached
   */
  run(order: Order, report: (report: Report) => void, limitSeconds: number): Promise<Answer> {
    const done = this.turn.then(() => this.attemptTwice(order, report, limitSeconds));
    this.turn = done.catch(() => undefined);
    return done;
  }

  async end(): Promise<void> {
    clearTimeout(this.idle);
    const { worker } = this;
    this.worker = null;
    await worker?.terminate();
  }

  private async attemptTwice(order: Order, report: (report: Report) => void, limitSeconds: number): Promise<Answer> {
    clearTimeout(this.idle);
    try {
      return await this.attempt(order, report, limitSeconds);
    } catch (error) {
      // What was kept of earlier orders may have left too little room for this one.
      if (this.isFresh || !isOutOfMemory(error)) throw error;
      return await this.attempt(order, report, limitSeconds);
    } finally {
      this.idle = setTimeout(() => void this.end(), idleLimit).unref();
    }
  }

  private attempt(order: Order, report: (report: Report) => void, limitSeconds: number): Promise<Answer> {
    this.isFresh = this.worker === null;
    const worker = (this.worker ??= this.start());
    worker.ref();
    return new Promise((resolve, reject) => {
      const settle = (how: () => void): void => {
        clearTimeout(timer);
        worker.off('message', take).off('error', fail).off('exit', exit).unref();
        how();
      };
      const take = (message: Message<Report, Answer>): void => {
        if ('answer' in message) settle(() => resolve(message.answer));
        else report(message.report);
      };
      const fail = (error: unknown): void =>
        settle(() => reject(error instanceof Error ? error : new Error(String(error))));
      const exit = (code: number): void => fail(new Error(`The thread ended early with code ${code}.`));
      const timer = setTimeout(() => {
        this.worker = null;
        void worker.terminate();
        fail(new ThreadTimeout(`The work took longer than ${limitSeconds} seconds and was given up.`));
      }, limitSeconds * 1000);
      worker.on('message', take).on('error', fail).on('exit', exit);
      worker.postMessage({ order });
    });
  }

  private start(): Worker {
    const worker = new Worker(new URL('./entry.mjs', import.meta.url), {
      workerData: { module: this.module.href },
      resourceLimits: { maxOldGenerationSizeMb: this.megabytes },
    });
    const forget = (): void => {
      if (this.worker === worker) this.worker = null;
    };
    return worker.on('error', forget).on('exit', forget);
  }
}

/** Work took longer than it may. */
class ThreadTimeout extends Error {}

/** Whether work was given up because it took more time or memory than it may. */
export function isThreadLimit(error: unknown): boolean {
  return error instanceof ThreadTimeout || isOutOfMemory(error);
}

function isOutOfMemory(error: unknown): boolean {
  return error instanceof Error && 'code' in error && error.code === 'ERR_WORKER_OUT_OF_MEMORY';
}

/** Runs one order in a thread of its own. */
export async function runInThread<Order, Report, Answer>(
  module: URL,
  order: Order,
  report: (report: Report) => void,
  limitSeconds: number,
): Promise<Answer> {
  const thread = new WorkThread<Order, Report, Answer>(module);
  try {
    return await thread.run(order, report, limitSeconds);
  } finally {
    await thread.end();
  }
}
