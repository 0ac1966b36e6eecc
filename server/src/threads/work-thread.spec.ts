import type { SpecOrder } from '../../../tests/support/thread-orders.js';
import { WorkThread } from './work-thread.js';

describe('A work thread', () => {
  const module = new URL('../../../tests/support/thread-orders.ts', import.meta.url);
  let thread: WorkThread<SpecOrder, string, number>;
  let reports: string[] = [];
  const ask = (order: SpecOrder, seconds = 60): Promise<number> =>
    thread.run(order, (report) => reports.push(report), seconds);

  beforeEach(() => {
    thread = new WorkThread(module, 250);
    reports = [];
  });
  afterEach(() => thread.end());

  it('takes orders one after the other, and keeps its state', async () => {
    expect(await Promise.all([ask('count'), ask('count'), ask('count')])).toEqual([1, 2, 3]);
    expect(reports).toEqual(['count 1', 'count 2', 'count 3']);
  });

  it('begins anew after an order that failed', async () => {
    const [first, failed, after] = await Promise.allSettled([ask('count'), ask('fail'), ask('count')]);
    expect(first).toEqual({ status: 'fulfilled', value: 1 });
    expect(failed.status === 'rejected' && (failed.reason as Error).message).toBe('This went wrong.');
    expect(after).toEqual({ status: 'fulfilled', value: 1 });
  });

  it('gives up what takes too long', async () => {
    await expectAsync(ask('wait', 2)).toBeRejectedWithError(/longer than 2 seconds/);
    expect(await ask('count')).toBe(1);
  });

  it('lets go of what it kept where an order needs the room', async () => {
    await ask('keep');
    expect(await ask('fill')).toBe(130);
    expect(reports).toEqual(['keep 1', 'fill 2', 'fill 1']);
  });
});
