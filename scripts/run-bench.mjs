// Runs the benchmarks on a throw-away database and prints their rows.
// Usage: npm run bench [-- engine paper formats server load faults browser]   (engine and server without a name)
import { installBrowser } from './lib/browser.mjs';
import { compileTests } from './lib/build-server.mjs';
import { onThrowawayCluster } from './lib/cluster.mjs';
import { buildServer, buildWeb, checkNode, installNpmPackages, main, root, runCompiled } from './lib/prepare.mjs';

const wanted = process.argv.slice(2);
const onDatabase = (...files) =>
  onThrowawayCluster((url) => files.reduce((code, file) => code || runCompiled(file, { TEST_DATABASE_URL: url }), 0));

const parts = {
  engine: () =>
    // The engine must do with this much heap.
    runCompiled('bench/engine.ts', { NODE_OPTIONS: '--max-old-space-size=800' }) ||
    runCompiled('bench/cold.ts') ||
    runCompiled('bench/million-words.ts'),
  paper: () => runCompiled('bench/paper.ts'),
  formats: () => onDatabase('bench/formats.ts'),
  server: () => onDatabase('bench/server.ts', 'bench/search.ts', 'bench/real-manual.ts'),
  load: () => onDatabase('bench/load.ts'),
  faults: () => onDatabase('bench/faults.ts'),
  browser: async () => {
    installBrowser();
    await buildWeb();
    return onDatabase('bench/browser.ts', 'bench/typing.ts');
  },
};

await main(async () => {
  checkNode();
  installNpmPackages();
  // What is measured is what ships.
  await buildServer();
  await compileTests(root);
  for (const name of wanted.length > 0 ? wanted : ['engine', 'server']) {
    process.exitCode ||= await parts[name]();
  }
});
