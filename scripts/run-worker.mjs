// Takes builds from the queue of the database that DATABASE_URL names.
import { checkNode, installNpmPackages, main, runUntilStopped } from './lib/prepare.mjs';

await main(async () => {
  checkNode();
  installNpmPackages();
  process.exitCode = await runUntilStopped('server/src/worker.ts', {});
});
