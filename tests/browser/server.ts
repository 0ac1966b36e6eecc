import { test as base, type BrowserContext, type Page } from '@playwright/test';
import { freePort } from '../support/free-port.js';
import { freshDatabase } from '../support/fresh-database.js';
import { kill, spawnServer } from '../support/server-process.js';
import { signIn, tidy, type Person } from './people.js';

type Viewport = Parameters<Page['setViewportSize']>[0];

/** Pages that stay open from test to test, as those of people at work do, each with somebody signed in there. */
class KeptPages {
  private readonly pages = new Map<string, Page>();
  private readonly used = new Set<Page>();

  constructor(private readonly open: () => Promise<BrowserContext>) {}

  /** @param machine which of somebody's machines */
  async of(person: Person, machine: 'first' | 'second', viewport: Viewport | null): Promise<Page> {
    const name = `${machine} of ${person}`;
    let page = this.pages.get(name);
    if (!page) {
      page = await (await this.open()).newPage();
      await signIn(page, person);
      this.pages.set(name, page);
    }
    if (viewport) await page.setViewportSize(viewport);
    this.used.add(page);
    return page;
  }

  /** What a test left open is left as a person leaves it. */
  async tidy(): Promise<void> {
    for (const page of this.used) await tidy(page);
    this.used.clear();
  }

  async close(): Promise<void> {
    for (const page of this.pages.values()) await page.context().close();
  }
}

/** Tests against the real server: each worker of the runner has one of its own, on a new database with the demo. */
export const testOnNewPage = base.extend<object, { readonly server: string; readonly kept: KeptPages }>({
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
      const kept = new KeptPages(() => browser.newContext({ baseURL: server }));
      await use(kept);
      await kept.close();
    },
    { scope: 'worker' },
  ],
});

/**
 * The same for what one of the demo people does, on a page that stays open from test to test: loading the application takes
 * longer than most tests. After a test that fails, the next begin on new ones. Others are at work at machines of their own.
 */
export const testAs = (person: Person) =>
  testOnNewPage.extend<{ readonly elsewhere: (other: Person) => Promise<Page> }>({
    page: async ({ kept, viewport }, use, { errors }) => {
      await use(await kept.of(person, 'first', viewport));
      if (errors.length === 0) await kept.tidy();
    },
    context: ({ page }, use) => use(page.context()),
    elsewhere: ({ kept, viewport }, use) =>
      use((other) => kept.of(other, other === person ? 'second' : 'first', viewport)),
  });
