import { freshDatabase } from '../support/fresh-database.js';
import { kill, spawnServer } from '../support/server-process.js';

/** Starts the real server on a new database with the demo library; returns what stops it. */
export default async function globalSetup(): Promise<() => Promise<void>> {
  const database = await freshDatabase();
  const { process: server } = await spawnServer(database.url, Number(process.env['BROWSER_TEST_PORT'] ?? '4690'));
  return async () => {
    await kill(server, 'SIGTERM');
    await database.drop();
  };
}
