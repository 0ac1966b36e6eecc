// Runs every check and test: types, lint, core, server, interface, and the whole in the browser.
// Usage: npm test [-- core server web browser types lint formats real-manual real-books]   (all of them without a name)
import { spawn } from 'node:child_process';
import { existsSync } from 'node:fs';
import { availableParallelism } from 'node:os';
import { join } from 'node:path';
import { chromium, installBrowser } from './lib/browser.mjs';
import { compileTests } from './lib/build-server.mjs';
import { installPackages, onThrowawayCluster } from './lib/cluster.mjs';
import { buildServer, buildWeb, checkNode, installNpmPackages, main, root } from './lib/prepare.mjs';
import { failuresIn, jasmineCounts, karmaCounts, playwrightCounts } from './lib/results.mjs';

const wanted = new Set(process.argv.slice(2));
const totals = { passed: 0, failed: 0, skipped: 0 };
const failures = [];

function run(command, args, env = {}) {
  return new Promise((resolve) => {
    const child = spawn(command, args, {
      cwd: env.cwd ?? root,
      env: { ...process.env, ...env, NG_CLI_ANALYTICS: 'false' },
    });
    let output = '';
    const take = (chunk) => (output += chunk);
    child.stdout.on('data', take);
    child.stderr.on('data', take);
    // A process that a test left behind would hold the output open: what has come a little after the end counts.
    child.on('exit', (code) => {
      const end = () => resolve({ code: code ?? 1, output });
      child.on('close', end);
      setTimeout(end, 5000).unref();
    });
  });
}

/** One part of the tests, told when it has ended; a runner that ends badly without counts is one failure. */
async function part(name, work, read) {
  if (wanted.size > 0 && !wanted.has(name)) return;
  console.log(`— ${name} begins`);
  const begun = Date.now();
  const { code, output } = await work();
  console.log(`\n— ${name}\n${output}`);
  const counts = read?.(output) ?? { passed: code === 0 ? 1 : 0, failed: code === 0 ? 0 : 1, skipped: 0 };
  if (code !== 0 && counts.failed === 0) counts.failed = 1;
  if (counts.failed > 0) failures.push(`— ${name}, what failed\n${failuresIn(output)}`);
  for (const kind of Object.keys(totals)) totals[kind] += counts[kind];
  console.log(
    `— ${name}: ${counts.passed} passed, ${counts.failed} failed, ${Math.round((Date.now() - begun) / 1000)} s`,
  );
}

/** Runs parts side by side, so many at a time; each that ends makes room for the next. */
async function inLanes(count, parts) {
  const waiting = [...parts];
  const lane = async () => {
    for (let next = waiting.shift(); next; next = waiting.shift()) await part(...next);
  };
  await Promise.all(Array.from({ length: count }, lane));
}

const jasmine = (config, env = {}) =>
  run(process.execPath, ['--enable-source-maps', 'node_modules/jasmine/bin/jasmine.js', `--config=${config}`], env);

async function browserTests(database, built) {
  await built;
  return run('npx', ['playwright', 'test', '--config=tests/browser/playwright.config.ts'], database);
}

await main(async () => {
  checkNode();
  installNpmPackages();
  installBrowser();
  installPackages(['xz-utils', 'poppler-utils', 'qpdf', 'default-jre-headless', 'libreoffice-writer-nogui'], () =>
    ['xz', 'pdftotext', 'qpdf', 'java', 'soffice'].every((name) => existsSync(join('/usr/bin', name))),
  );
  await buildServer();
  await compileTests(root);
  await onThrowawayCluster(async (url) => {
    const database = { TEST_DATABASE_URL: url };
    const built = wanted.size === 0 || wanted.has('browser') ? buildWeb() : null;
    // What goes wrong with it is told where it is waited for.
    built?.catch(() => undefined);
    // One more at a time than there are cores: most parts keep one busy, and wait now and then. The longest begin first, but
    // for that in the browser, which keeps all of them busy and fills what the last ones leave.
    await inLanes(Math.max(2, availableParallelism()) + 1, [
      ['server', () => jasmine('tests/jasmine/server.json', database), jasmineCounts],
      // Where the tests of the interface are compiled, its types are checked by that.
      ['types', () => run('npm', ['run', '-s', wanted.size === 0 ? 'typecheck:rest' : 'typecheck'])],
      ['formats', () => jasmine('tests/jasmine/formats.json', database), jasmineCounts],
      ['lint', () => run('npm', ['run', '-s', 'lint'])],
      ['real-books', () => jasmine('tests/jasmine/real-books.json'), jasmineCounts],
      ['real-manual', () => jasmine('tests/jasmine/real-manual.json', database), jasmineCounts],
      ['core', () => jasmine('tests/jasmine/core.json'), jasmineCounts],
      ['web', () => run('npx', ['ng', 'test'], { cwd: join(root, 'web'), CHROME_BIN: chromium }), karmaCounts],
      ['browser', () => browserTests(database, built), playwrightCounts],
    ]);
  });
  for (const each of failures) console.log(`\n${each}`);
  const skipped = totals.skipped > 0 ? `, ${totals.skipped} skipped` : '';
  console.log(`\n${totals.passed} passed, ${totals.failed} failed${skipped}`);
  process.exit(totals.failed > 0 ? 1 : 0);
});
