// Takes builds from the queue of the database that DATABASE_URL names.
import { buildServer, checkNode, installNpmPackages, main, runUntilStopped } from './lib/prepare.mjs';

await main(async () => {
  checkNode();
  installNpmPackages();
  await buildServer();
  process.exitCode = await runUntilStopped('worker.js', {});
});
