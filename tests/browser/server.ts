import { test as base } from '@playwright/test';
import { freePort } from '../support/free-port.js';
import { freshDatabase } from '../support/fresh-database.js';
import { kill, spawnServer } from '../support/server-process.js';

/** Tests against the real server: each worker of the runner has one of its own, on a new database with the demo. */
export const test = base.extend<object, { readonly server: string }>({
  server: [
    // The runner reads from the pattern what a fixture hangs on.
    // eslint-disable-next-line no-empty-pattern
    async ({}, use) => {
      const database = await freshDatabase();
      const { process: server, origin } = await spawnServer(database.url, await freePort());
      await use(origin);
      await kill(server, 'SIGTERM');
      await database.drop();
    },
    { scope: 'worker', timeout: 300_000 },
  ],
  baseURL: ({ server }, use) => use(server),
});
