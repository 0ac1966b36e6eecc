// Runs the benchmarks on a throw-away database and prints their rows.
import { spawnSync } from 'node:child_process';
import { join } from 'node:path';
import { onThrowawayCluster } from './lib/cluster.mjs';
import { checkNode, installNpmPackages, main, root } from './lib/prepare.mjs';

await main(async () => {
  checkNode();
  installNpmPackages();
  process.exitCode = await onThrowawayCluster(
    (url) =>
      spawnSync(process.execPath, ['--import', 'tsx', join(root, 'bench/real-manual.ts')], {
        cwd: root,
        stdio: 'inherit',
        env: { ...process.env, TEST_DATABASE_URL: url, TSX_TSCONFIG_PATH: join(root, 'server/tsconfig.json') },
      }).status ?? 1,
  );
});
