import { test as base, type Page } from '@playwright/test';
import { freePort } from '../support/free-port.js';
import { freshDatabase } from '../support/fresh-database.js';
import { kill, spawnServer } from '../support/server-process.js';
import { keep, tidy } from './people.js';

/** Tests against the real server: each worker of the runner has one of its own, on a new database with the demo. */
export const test = base.extend<object, { readonly server: string; readonly kept: Page }>({
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
  kept: [
    async ({ browser, server }, use) => {
      const context = await browser.newContext({ baseURL: server });
      const page = await context.newPage();
      keep(page);
      await use(page);
      await context.close();
    },
    { scope: 'worker' },
  ],
});

/**
 * The same on a page that stays open from test to test, as that of somebody at work does: loading the application takes longer
 * than most tests. After a test that fails, the next begin on a new one.
 */
export const testOnOnePage = test.extend({
  page: async ({ kept, viewport }, use) => {
    await tidy(kept, viewport);
    await use(kept);
  },
  context: ({ kept }, use) => use(kept.context()),
});
