import type { SpecOrder } from '../../../tests/support/thread-orders.js';
import { HttpProblem } from '../http/problem.js';
import { ownFile } from '../own-file.js';
import { Cancelled } from './thread-errors.js';
import { Task, WorkPool, type OrderTerms, type PoolLimits } from './work-pool.js';

const task = new Task<SpecOrder, string, number>(ownFile('tests/support/thread-orders.js'), 'run');

describe('A pool of work threads', () => {
  let pool: WorkPool;
  let reports: string[] = [];
  /** Kept when the first order reports. */
  let begun: Promise<void>;
  let report: (report: string) => void;
  const open = (limits: Partial<PoolLimits> = {}): void => {
    pool = new WorkPool({ threads: 1, megabytes: 250, ...limits });
  };
  const ask = (order: SpecOrder, terms: Partial<OrderTerms<string>> = {}): Promise<number> =>
    pool.run(task, order, { limitSeconds: 60, report, ...terms });

  beforeEach(() => {
    reports = [];
    begun = new Promise((resolve) => {
      report = (said) => {
        reports.push(said);
        resolve();
      };
    });
  });
  afterEach(() => pool.end());

  it('takes orders one after the other where it has one thread, which keeps its state', async () => {
    open();
    expect(await Promise.all([ask('count'), ask('count'), ask('count')])).toEqual([1, 2, 3]);
    expect(reports).toEqual(['count 1', 'count 2', 'count 3']);
  });

  it('carries out as many orders at once as it has threads', async () => {
    open({ threads: 2 });
    const controller = new AbortController();
    const stuck = ask('wait', { signal: controller.signal });
    expect(await Promise.all([ask('count'), ask('count')])).toEqual([1, 2]);
    controller.abort();
    await expectAsync(stuck).toBeRejectedWithError(Cancelled);
  });

  it('begins anew after an order that failed, and goes on after one that was refused', async () => {
    open();
    const [first, failed, after] = await Promise.allSettled([ask('count'), ask('fail'), ask('count')]);
    expect(first).toEqual({ status: 'fulfilled', value: 1 });
    expect(failed.status === 'rejected' && (failed.reason as Error).message).toBe('This went wrong.');
    expect(after).toEqual({ status: 'fulfilled', value: 1 });
    const refused = await ask('refuse').catch((error: unknown) => error);
    expect(refused instanceof HttpProblem && [refused.status, refused.detail]).toEqual([422, 'Not like this.']);
    expect(await ask('count')).toBe(3);
  });

  it('gives up what takes too long', async () => {
    open();
    await expectAsync(ask('wait', { limitSeconds: 2 })).toBeRejectedWithError(/longer than 2 seconds/);
    expect(await ask('count')).toBe(1);
  });

  it('lets go of what it kept where an order needs the room', async () => {
    open();
    await ask('keep');
    expect(await ask('fill')).toBe(130);
    expect(reports).toEqual(['keep 1', 'fill 2', 'fill 1']);
  });

  it('carries equal orders that wait out once, and refuses more than may wait', async () => {
    open({ mostWaiting: 2 });
    const first = ask('count');
    const shared = [1, 2, 3].map(() => ask('count', { key: 'same' }));
    const other = ask('count');
    const refused = await ask('count').catch((error: unknown) => error);
    expect(refused instanceof HttpProblem && refused.status).toBe(503);
    expect(await Promise.all([first, ...shared, other])).toEqual([1, 2, 2, 2, 3]);
  });

  it('does not carry out what nobody waits for any more', async () => {
    open({ graceSeconds: 0 });
    const [one, two, both] = [new AbortController(), new AbortController(), new AbortController()];
    const stuck = ask('wait', { signal: one.signal });
    const waiting = ask('count', { signal: two.signal });
    const shared = [ask('count', { key: 'same', signal: both.signal }), ask('count', { key: 'same' })];
    await begun;
    two.abort();
    both.abort();
    await expectAsync(waiting).toBeRejectedWithError(Cancelled);
    await expectAsync(shared[0] as Promise<number>).toBeRejectedWithError(Cancelled);
    one.abort();
    await expectAsync(stuck).toBeRejectedWithError(Cancelled);
    expect(await shared[1]).toBe(1);
    expect(pool.load).toEqual({ running: 0, waiting: 0 });
  });
});
