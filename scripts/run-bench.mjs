// Runs the benchmarks on a throw-away database and prints their rows.
import { onThrowawayCluster } from './lib/cluster.mjs';
import { checkNode, installNpmPackages, main, runTypeScript } from './lib/prepare.mjs';

await main(async () => {
  checkNode();
  installNpmPackages();
  process.exitCode =
    // The engine must do with this much heap.
    runTypeScript('bench/engine.ts', { NODE_OPTIONS: '--max-old-space-size=800' }) ||
    runTypeScript('bench/cold.ts') ||
    runTypeScript('bench/million-words.ts') ||
    (await onThrowawayCluster(
      (url) =>
        runTypeScript('bench/server.ts', { TEST_DATABASE_URL: url }) ||
        runTypeScript('bench/real-manual.ts', { TEST_DATABASE_URL: url }),
    ));
});
