import { Worker } from 'node:worker_threads';

/** What a module that runs in a thread exports as `run`. */
export type ThreadWork<Order, Report, Answer> = (order: Order, report: (report: Report) => void) => Promise<Answer>;

/**
 * Runs a module's `run` in a worker thread of its own, with a limit on its memory and time, so that heavy
 * or hostile input cannot stop the process.
 * @throws what the work throws; an error that says so where a limit was reached
 */
export function runInThread<Order, Report, Answer>(
  module: URL,
  order: Order,
  report: (report: Report) => void,
  limitSeconds: number,
): Promise<Answer> {
  return new Promise((resolve, reject) => {
    const worker = new Worker(new URL('./entry.mjs', import.meta.url), {
      workerData: { module: module.href, order },
      resourceLimits: { maxOldGenerationSizeMb: 1500 },
    });
    const timer = setTimeout(() => {
      void worker.terminate();
      reject(new Error(`The work took longer than ${limitSeconds} seconds and was given up.`));
    }, limitSeconds * 1000);
    worker.on('message', (message: { report: Report } | { answer: Answer }) => {
      if ('answer' in message) resolve(message.answer);
      else report(message.report);
    });
    worker.on('error', reject);
    worker.on('exit', (code) => {
      clearTimeout(timer);
      // Settled already where an answer came first.
      reject(new Error(`The thread ended early with code ${code}.`));
    });
  });
}
