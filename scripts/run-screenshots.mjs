// Takes the pictures of docs/screenshots anew, from the demo library on a throw-away database.
import { existsSync } from 'node:fs';
import { installBrowser } from './lib/browser.mjs';
import { compileTests } from './lib/build-server.mjs';
import { installPackages, onThrowawayCluster } from './lib/cluster.mjs';
import { buildServer, buildWeb, checkNode, installNpmPackages, main, root, runCompiled } from './lib/prepare.mjs';

await main(async () => {
  checkNode();
  installNpmPackages();
  installBrowser();
  installPackages(['poppler-utils'], () => existsSync('/usr/bin/pdftoppm'));
  await buildWeb();
  await buildServer();
  await compileTests(root);
  process.exitCode = await onThrowawayCluster((url) =>
    runCompiled('scripts/screenshots.ts', { TEST_DATABASE_URL: url }),
  );
});
