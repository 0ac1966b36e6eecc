// Runs the command line on DATABASE_URL, or on the project's own database, started where it is not running.
import { spawn } from 'node:child_process';
import { join } from 'node:path';
import { startCluster } from './lib/cluster.mjs';
import { checkNode, installNpmPackages, main, root } from './lib/prepare.mjs';

await main(async () => {
  checkNode();
  installNpmPackages();
  const cluster = process.env.DATABASE_URL
    ? { url: process.env.DATABASE_URL, stop: () => {} }
    : await startCluster(join(root, 'data'));
  const command = spawn(
    process.execPath,
    ['--import', import.meta.resolve('tsx'), join(root, 'server/src/cli/cli.ts'), ...process.argv.slice(2)],
    {
      // Files are named from where the command was given.
      cwd: process.env.INIT_CWD ?? process.cwd(),
      stdio: 'inherit',
      env: { ...process.env, DATABASE_URL: cluster.url, TSX_TSCONFIG_PATH: join(root, 'server/tsconfig.json') },
    },
  );
  command.on('exit', (code) => {
    cluster.stop();
    process.exit(code ?? 1);
  });
});
