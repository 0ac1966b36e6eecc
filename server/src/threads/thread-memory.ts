import { BuildMemory } from '../builds/build-memory.js';
import { Database } from '../db/database.js';

/** What stays in a thread from one order to the next, whatever the work: each thread has its own. */
export const threadMemory = new BuildMemory();

let database: Database | null = null;

/** The connections of a thread. */
export function threadDatabase(url: string): Database {
  return (database ??= new Database(url, 2));
}
