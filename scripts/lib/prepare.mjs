// What every command needs before it can run: packages by npm, and the built interface.
import { spawn, spawnSync } from 'node:child_process';
import { createHash } from 'node:crypto';
import { once } from 'node:events';
import { existsSync, readFileSync, readdirSync, statSync, writeFileSync } from 'node:fs';
import { join, relative } from 'node:path';
import { fileURLToPath } from 'node:url';
import { PlainError } from './cluster.mjs';

export const root = fileURLToPath(new URL('../../', import.meta.url)).replace(/\/$/, '');

/** Ends with a clear sentence where Node.js is too old. */
export function checkNode() {
  const [major, minor] = process.versions.node.split('.').map(Number);
  if (major < 20 || (major === 20 && minor < 19)) {
    throw new PlainError(`Node.js 20.19 or newer is needed; this is ${process.versions.node}.`);
  }
}

/** Installs the npm packages by the lock file, unless that very lock file was installed already. */
export function installNpmPackages() {
  const stamp = join(root, 'node_modules', '.allomorph-lock');
  const lock = hashOf([join(root, 'package-lock.json')]);
  if (existsSync(stamp) && readFileSync(stamp, 'utf8') === lock) return;
  // Standard output is for results, which other programs may read.
  console.error('Installing npm packages …');
  const { status } = spawnSync('npm', ['ci', '--no-fund', '--no-audit', '--loglevel=error'], {
    cwd: root,
    stdio: ['inherit', 2, 'inherit'],
  });
  if (status !== 0) throw new PlainError('The npm packages could not be installed; npm says why above.');
  writeFileSync(stamp, lock);
}

/** Builds the interface, unless it was built from these very sources already. */
export async function buildWeb() {
  const stamp = join(root, 'web', 'dist', '.allomorph-sources');
  const sources = hashOf([
    join(root, 'package-lock.json'),
    ...filesIn(join(root, 'core', 'src')),
    ...filesIn(join(root, 'web', 'src')),
    join(root, 'web', 'angular.json'),
  ]);
  if (existsSync(stamp) && readFileSync(stamp, 'utf8') === sources) return;
  console.log('Building the interface …');
  const child = spawn('npx', ['ng', 'build'], {
    cwd: join(root, 'web'),
    env: { ...process.env, NG_CLI_ANALYTICS: 'false' },
  });
  let said = '';
  for (const stream of [child.stdout, child.stderr]) stream.on('data', (chunk) => (said += chunk));
  const [status] = await once(child, 'close');
  if (status !== 0) {
    console.error(said);
    throw new PlainError('The interface could not be built; the compiler says why above.');
  }
  writeFileSync(stamp, sources);
}

/** Compiles the server, unless it was compiled from these very sources already. */
export async function buildServer() {
  const stamp = join(root, 'dist', '.allomorph-sources');
  const sources = hashOf([
    join(root, 'package-lock.json'),
    join(root, 'scripts', 'lib', 'build-server.mjs'),
    ...['core', 'server', 'demo'].map((part) => join(root, part, 'package.json')),
    ...['core', 'server', 'demo', 'reader'].flatMap((part) => filesIn(join(root, part, 'src'))),
  ]);
  if (existsSync(stamp) && readFileSync(stamp, 'utf8') === sources) return;
  // Standard output is for results, which other programs may read.
  console.error('Compiling the server …');
  const { compileServer } = await import('./build-server.mjs');
  await compileServer(root);
  writeFileSync(stamp, sources);
}

function filesIn(folder) {
  return readdirSync(folder, { recursive: true })
    .map((name) => join(folder, name))
    .filter((path) => statSync(path).isFile())
    .sort();
}

function hashOf(files) {
  const hash = createHash('sha256');
  // By their names inside the project: a folder that is copied elsewhere is the same.
  for (const file of files) hash.update(relative(root, file)).update('\0').update(readFileSync(file));
  return hash.digest('hex');
}

/** Runs a TypeScript file of the project, which was compiled with the tests, to its end and gives its exit code. */
export function runCompiled(file, env) {
  const compiled = join(root, 'dist-tests', file.replace(/\.ts$/, '.js'));
  const { status } = spawnSync(process.execPath, ['--enable-source-maps', compiled], {
    cwd: root,
    stdio: 'inherit',
    env: { ...process.env, ...env },
  });
  return status ?? 1;
}

/**
 * Runs a compiled file of the server that goes on until it is told to stop, and gives its exit code.
 * It gets its signals from here only, after Ctrl+C too, so that what it needs outlives it.
 */
export function runUntilStopped(file, env) {
  return new Promise((resolve) => {
    const child = spawn(process.execPath, ['--enable-source-maps', join(root, 'dist/server/src', file)], {
      cwd: root,
      stdio: 'inherit',
      env: { ...process.env, ...env },
      detached: true,
    });
    const stop = () => child.kill('SIGTERM');
    process.on('SIGINT', stop);
    process.on('SIGTERM', stop);
    child.on('exit', (code) => resolve(code ?? 1));
  });
}

/** Runs a command's work; a plain error is printed as its sentence. */
export async function main(work) {
  try {
    await work();
  } catch (error) {
    console.error(error instanceof PlainError ? error.message : error);
    process.exit(1);
  }
}
