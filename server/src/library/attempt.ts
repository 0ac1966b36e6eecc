import type { Queryable } from '../db/database.js';
import { HttpProblem } from '../http/problem.js';

/** Does something, or nothing of it: why not. */
export async function attempt(client: Queryable, act: () => Promise<unknown>): Promise<string | null> {
  await client.query('savepoint one_of_many');
  try {
    await act();
    await client.query('release savepoint one_of_many');
    return null;
  } catch (error) {
    await client.query('rollback to savepoint one_of_many');
    if (error instanceof HttpProblem) return error.message;
    throw error;
  }
}
