// Runs the command line on DATABASE_URL, or on the project's own database, started where it is not running.
import { spawn } from 'node:child_process';
import { join } from 'node:path';
import { startCluster } from './lib/cluster.mjs';
import { buildServer, checkNode, installNpmPackages, main, root } from './lib/prepare.mjs';

await main(async () => {
  checkNode();
  installNpmPackages();
  await buildServer();
  const cluster = process.env.DATABASE_URL
    ? { url: process.env.DATABASE_URL, stop: () => {} }
    : await startCluster(join(root, 'data'));
  const command = spawn(
    process.execPath,
    ['--enable-source-maps', join(root, 'dist/server/src/cli/cli.js'), ...process.argv.slice(2)],
    {
      // Files are named from where the command was given.
      cwd: process.env.INIT_CWD ?? process.cwd(),
      stdio: 'inherit',
      env: { ...process.env, DATABASE_URL: cluster.url },
    },
  );
  command.on('exit', (code) => {
    cluster.stop();
    process.exit(code ?? 1);
  });
});
