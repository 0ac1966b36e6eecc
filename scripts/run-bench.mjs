// Runs the benchmarks on a throw-away database and prints their rows.
// Usage: npm run bench [-- engine paper formats server load faults browser]   (engine and server without a name)
import { onThrowawayCluster } from './lib/cluster.mjs';
import { buildServer, buildWeb, checkNode, installNpmPackages, main, runTypeScript } from './lib/prepare.mjs';

const wanted = process.argv.slice(2);
const onDatabase = (...files) =>
  onThrowawayCluster((url) => files.reduce((code, file) => code || runTypeScript(file, { TEST_DATABASE_URL: url }), 0));
/** The same, beside the server as it is shipped. */
const onServer = async (...files) => {
  await buildServer();
  return onDatabase(...files);
};

const parts = {
  engine: () =>
    // The engine must do with this much heap.
    runTypeScript('bench/engine.ts', { NODE_OPTIONS: '--max-old-space-size=800' }) ||
    runTypeScript('bench/cold.ts') ||
    runTypeScript('bench/million-words.ts'),
  paper: () => runTypeScript('bench/paper.ts'),
  formats: () => onDatabase('bench/formats.ts'),
  server: () => onDatabase('bench/server.ts', 'bench/search.ts', 'bench/real-manual.ts'),
  load: () => onServer('bench/load.ts'),
  faults: () => onServer('bench/faults.ts'),
  browser: async () => {
    await buildWeb();
    return onServer('bench/browser.ts', 'bench/typing.ts');
  },
};

await main(async () => {
  checkNode();
  installNpmPackages();
  for (const name of wanted.length > 0 ? wanted : ['engine', 'server']) {
    process.exitCode ||= await parts[name]();
  }
});
