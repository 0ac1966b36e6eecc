// Compiles the server, the core and the demo library to JavaScript, file by file, so that starting takes no loader.
import {
  copyFileSync,
  existsSync,
  mkdirSync,
  readFileSync,
  readdirSync,
  renameSync,
  rmSync,
  statSync,
  symlinkSync,
  writeFileSync,
} from 'node:fs';
import { dirname, join, relative } from 'node:path';

/** Where each package's compiled files go; the core lies where Node.js looks for it by its name. */
const parts = [
  { from: 'server/src', to: 'server/src' },
  { from: 'demo/src', to: 'demo/src' },
  { from: 'core/src', to: 'node_modules/@allomorph/core/src' },
];

/** With tests all lie as they lie in the project, as tests name each other by their places. */
const partsWithTests = [
  ...['server/src', 'demo/src', 'core/src'].map((from) => ({ from, to: from })),
  ...['browser', 'formats', 'real-books', 'real-manual', 'support'].map((name) => ({
    from: `tests/${name}`,
    to: `tests/${name}`,
  })),
  { from: 'bench', to: 'bench' },
  { from: 'scripts', to: 'scripts' },
];

/** Packages that npm could not put at the top, as another version lies there, are found from the compiled files as well. */
function linkPackages(root, folder, from, to) {
  const packages = join(from, 'node_modules');
  // Those at the top are found from everywhere below.
  if (from === '.' || !existsSync(join(root, packages))) return;
  mkdirSync(join(folder, to), { recursive: true });
  // The folder becomes `dist`, which lies as deep.
  symlinkSync(join(relative(join(folder, to), root), packages), join(folder, to, 'node_modules'), 'dir');
}

/**
 * Compiles everything into `dist`, which is made anew.
 * @param root the folder of the project
 */
export async function compileServer(root) {
  await compileInto(root, 'dist', async (folder) => {
    const isShipped = (path) => !path.endsWith('.spec.ts');
    for (const part of parts) await compilePart(root, folder, part, isShipped);
    describeCore(root, join(folder, 'node_modules/@allomorph/core'));
  });
}

/**
 * Compiles everything and its tests into `dist-tests`, which is made anew: what is tested is what runs, and threads and
 * processes that tests begin take no loader.
 * @param root the folder of the project
 */
export async function compileTests(root) {
  await compileInto(root, 'dist-tests', async (folder) => {
    for (const part of partsWithTests) await compilePart(root, folder, part, () => true);
    describeCore(root, join(folder, 'core'));
    mkdirSync(join(folder, 'node_modules/@allomorph'), { recursive: true });
    symlinkSync('../../core', join(folder, 'node_modules/@allomorph/core'), 'dir');
  });
}

/** Fills a folder under another name until it is whole: two commands may compile at once. */
async function compileInto(root, name, fill) {
  const folder = join(root, `.${name}-${process.pid}`);
  await fill(folder);
  await compileForBrowsers(root, folder);
  writeFileSync(join(folder, 'package.json'), JSON.stringify({ type: 'module', private: true }));
  rmSync(join(root, name), { recursive: true, force: true });
  renameSync(folder, join(root, name));
}

/** Compiles the files of one part, one by one, and copies those that need no compiling. */
async function compilePart(root, folder, { from, to }, isWanted) {
  linkPackages(root, folder, dirname(from), dirname(to));
  const files = readdirSync(join(root, from), { recursive: true })
    .map((name) => join(root, from, name))
    .filter((path) => statSync(path).isFile() && isWanted(path) && !path.endsWith('.d.ts'));
  await build({
    entryPoints: files.filter((path) => path.endsWith('.ts')),
    outbase: join(root, from),
    outdir: join(folder, to),
    format: 'esm',
    platform: 'node',
    target: 'node20',
    sourcemap: 'linked',
    logLevel: 'warning',
  });
  for (const path of files.filter((each) => !each.endsWith('.ts'))) {
    const copy = join(folder, to, relative(join(root, from), path));
    mkdirSync(dirname(copy), { recursive: true });
    copyFileSync(path, copy);
  }
}

/** The scripts for browsers, as `server/src/builds/reader-script.ts` makes them where nothing is compiled. */
async function compileForBrowsers(root, folder) {
  await build({
    entryPoints: { reader: join(root, 'reader/src/main.ts'), passages: join(root, 'reader/src/passages.ts') },
    outdir: join(folder, 'server'),
    bundle: true,
    minify: true,
    format: 'iife',
    platform: 'browser',
    target: ['es2022'],
    legalComments: 'inline',
    logLevel: 'warning',
  });
}

/** Says of the compiled core what it exports. */
function describeCore(root, folder) {
  const core = JSON.parse(readFileSync(join(root, 'core/package.json'), 'utf8'));
  const exports = Object.fromEntries(
    Object.entries(core.exports).map(([name, path]) => [name, path.replace(/\.ts$/, '.js')]),
  );
  const description = { name: core.name, version: core.version, type: 'module', exports };
  writeFileSync(join(folder, 'package.json'), JSON.stringify(description, null, 2));
}

/** The compiler, which is not there before the packages are. */
const build = async (options) => (await import('esbuild')).build(options);
