// Installs what is missing, starts the database, builds the interface and serves it.
import { spawn } from 'node:child_process';
import { randomBytes } from 'node:crypto';
import { existsSync, mkdirSync, readFileSync, writeFileSync } from 'node:fs';
import { createServer } from 'node:net';
import { join } from 'node:path';
import { PlainError, startCluster } from './lib/cluster.mjs';
import { buildWeb, checkNode, installNpmPackages, main, root } from './lib/prepare.mjs';

await main(async () => {
  checkNode();
  const port = Number(process.env.PORT ?? 4600);
  const host = process.env.HOST ?? '127.0.0.1';
  await requireFree(port, host);
  installNpmPackages();
  buildWeb();
  const cluster = process.env.DATABASE_URL
    ? { url: process.env.DATABASE_URL, stop: () => {} }
    : await startCluster(join(root, 'data'));
  const server = spawn(process.execPath, ['--import', 'tsx', join(root, 'server/src/main.ts')], {
    cwd: root,
    stdio: 'inherit',
    env: { ...process.env, DATABASE_URL: cluster.url, PORT: String(port), HOST: host, SESSION_SECRET: secret() },
    // The server is told to stop by us, after Ctrl+C too, so that the database outlives it.
    detached: true,
  });
  const stop = () => server.kill('SIGTERM');
  process.on('SIGINT', stop);
  process.on('SIGTERM', stop);
  server.on('exit', (code) => {
    cluster.stop();
    process.exit(code ?? 1);
  });
});

/** The secret of session cookies, kept so that people stay signed in after a new start. */
function secret() {
  const file = join(root, 'data', 'session-secret');
  mkdirSync(join(root, 'data'), { recursive: true });
  if (!existsSync(file)) writeFileSync(file, randomBytes(32).toString('hex'), { mode: 0o600 });
  return readFileSync(file, 'utf8');
}

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
