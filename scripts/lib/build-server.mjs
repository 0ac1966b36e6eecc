// Compiles the server, the core and the demo library to JavaScript, so that starting takes no loader.
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

/** What is begun as a process of its own, and the modules that threads run; each is compiled with all that it imports. */
const programs = [
  'server/src/main.ts',
  'server/src/worker.ts',
  'server/src/cli/cli.ts',
  'server/src/builds/build-thread.ts',
  'server/src/imports/import-thread.ts',
  'server/src/threads/analysis-thread.ts',
];

/**
 * Packages that are not compiled into the programs: they bring files of their own, or are used by such a package as well and
 * have to be the same there.
 */
const packagesApart = [
  '@myriaddreamin/typst-ts-node-compiler',
  '@node-rs/argon2',
  '@resvg/resvg-js',
  'brotli',
  'connect-pg-simple',
  'css-tree',
  'graphile-worker',
  'pg',
  'pino',
  'pino-http',
  'wawoff2',
];

/** What is shipped besides compiled programs: what they read, and what begins a thread or a process. */
const shippedParts = ['server/src', 'demo/src'];

/** With tests all lie as they lie in the project, as tests name each other by their places. */
const partsWithTests = [
  ...['server/src', 'demo/src', 'core/src', 'bench', 'scripts'],
  ...['browser', 'formats', 'real-books', 'real-manual', 'support'].map((name) => `tests/${name}`),
];

/** Packages that npm could not put at the top, as another version lies there, are found from the compiled files as well. */
function linkPackages(root, folder, part) {
  const packages = join(dirname(part), 'node_modules');
  // Those at the top are found from everywhere below.
  if (dirname(part) === '.' || !existsSync(join(root, packages))) return;
  mkdirSync(join(folder, dirname(part)), { recursive: true });
  // The folder becomes `dist`, which lies as deep.
  symlinkSync(join(relative(join(folder, dirname(part)), root), packages), join(folder, packages), 'dir');
}

/**
 * Compiles everything into `dist`, which is made anew.
 * @param root the folder of the project
 */
export async function compileServer(root) {
  await compileInto(root, 'dist', async (folder) => {
    for (const part of shippedParts) {
      linkPackages(root, folder, part);
      copyFiles(root, folder, part);
    }
    await compilePrograms(root, folder);
  });
}

/**
 * Compiles everything and its tests into `dist-tests`, which is made anew: what is tested is what runs, and threads and
 * processes that tests begin take no loader.
 * @param root the folder of the project
 */
export async function compileTests(root) {
  await compileInto(root, 'dist-tests', async (folder) => {
    for (const part of partsWithTests) {
      await compilePart(root, folder, part);
      copyFiles(root, folder, part);
    }
    // Threads begin as they do where it is shipped.
    await compilePrograms(root, folder);
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

const filesOf = (root, part) =>
  readdirSync(join(root, part), { recursive: true })
    .map((name) => join(part, name))
    .filter((path) => statSync(join(root, path)).isFile());

const isModule = (path) => path.endsWith('.ts') && !path.endsWith('.d.ts');

/** How everything is compiled that Node.js runs. */
const forNode = { format: 'esm', platform: 'node', target: 'node20', sourcemap: 'linked', logLevel: 'warning' };

/** Compiles the modules of one part, each into a file of its own. */
async function compilePart(root, folder, part) {
  linkPackages(root, folder, part);
  await build({
    ...forNode,
    absWorkingDir: root,
    entryPoints: filesOf(root, part).filter(isModule),
    outbase: '.',
    outdir: folder,
  });
}

/** Copies the files of one part that need no compiling. */
function copyFiles(root, folder, part) {
  for (const path of filesOf(root, part).filter((each) => !each.endsWith('.ts'))) {
    mkdirSync(dirname(join(folder, path)), { recursive: true });
    copyFileSync(join(root, path), join(folder, path));
  }
}

const noSource = Buffer.from('{"version":3,"sources":["package"],"names":[],"mappings":"AAAA"}').toString('base64');

/** Leaves packages out of the maps to sources, which a process reads whole before it begins: errors are looked for in ours. */
const mapOnlyOurs = {
  name: 'map-only-ours',
  setup: ({ onLoad }) =>
    onLoad({ filter: /node_modules.*\.[cm]?js$/ }, ({ path }) => ({
      contents: `${readFileSync(path, 'utf8')}\n//# sourceMappingURL=data:application/json;base64,${noSource}`,
      loader: 'default',
    })),
};

/**
 * Compiles each program with all that it imports, packages as well: a thread that would have to look for a thousand files is
 * at work in a third of the time.
 */
async function compilePrograms(root, folder) {
  await build({
    ...forNode,
    absWorkingDir: root,
    entryPoints: programs,
    outbase: '.',
    outdir: folder,
    bundle: true,
    external: packagesApart,
    sourcesContent: false,
    plugins: [mapOnlyOurs],
    // Packages of the older kind of modules ask for others by a function that the newer kind does not have.
    banner: {
      js: "import { createRequire as requireFrom } from 'node:module';\nconst require = requireFrom(import.meta.url);",
    },
  });
}

/** The scripts for browsers that `server/src/builds/reader-script.ts` reads. */
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
