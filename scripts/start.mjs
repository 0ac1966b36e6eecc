// Installs what is missing, starts the database, builds the interface and serves it.
import { createServer } from 'node:net';
import { join } from 'node:path';
import { PlainError, startCluster } from './lib/cluster.mjs';
import { buildServer, buildWeb, checkNode, installNpmPackages, main, root, runUntilStopped } from './lib/prepare.mjs';

await main(async () => {
  checkNode();
  const port = Number(process.env.PORT ?? 4600);
  const host = process.env.HOST ?? '127.0.0.1';
  await requireFree(port, host);
  installNpmPackages();
  await buildServer();
  await buildWeb();
  const cluster = process.env.DATABASE_URL
    ? { url: process.env.DATABASE_URL, stop: () => {} }
    : await startCluster(join(root, 'data'));
  const code = await runUntilStopped('main.js', {
    DATABASE_URL: cluster.url,
    PORT: String(port),
    HOST: host,
  });
  cluster.stop();
  process.exit(code);
});

function requireFree(port, host) {
  return new Promise((resolve, reject) => {
    const probe = createServer();
    probe.on('error', (error) =>
      reject(
        new PlainError(
          error.code === 'EADDRINUSE'
            ? `Port ${port} is in use by another program; stop it or set PORT to a free one.`
            : `Port ${port} cannot be used: ${error.message}.`,
        ),
      ),
    );
    probe.listen(port, host, () => probe.close(() => resolve()));
  });
}
