import { HttpProblem } from '../../server/src/http/problem.js';
import type { ThreadWork } from '../../server/src/threads/work-pool.js';

/** Work for the tests of threads. */
export type SpecOrder = 'count' | 'refuse' | 'fail' | 'wait' | 'keep' | 'fill';

let orders = 0;
const kept: number[][] = [];
const megabytes = (count: number): number[][] =>
  Array.from({ length: count }, (_, at) => Array.from({ length: 131_072 }, () => at + 0.5));

export const run: ThreadWork<SpecOrder, string, number> = async (order, report) => {
  orders += 1;
  report(`${order} ${orders}`);
  if (order === 'fail') throw new Error('This went wrong.');
  if (order === 'refuse') throw new HttpProblem(422, 'Not like this.');
  if (order === 'wait') await new Promise<never>(() => undefined);
  // Together they are more than the limit of the test, each alone is not.
  if (order === 'keep') kept.push(...megabytes(130));
  if (order === 'fill') return megabytes(130).length;
  return orders;
};
