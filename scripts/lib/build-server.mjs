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

/** Packages that npm could not put at the top, as another version lies there, are found from the compiled files as well. */
function linkPackages(root, folder, from, to) {
  const packages = join(from, 'node_modules');
  if (!existsSync(join(root, packages))) return;
  mkdirSync(join(folder, to), { recursive: true });
  // The folder becomes `dist`, which lies as deep.
  symlinkSync(join(relative(join(folder, to), root), packages), join(folder, to, 'node_modules'), 'dir');
}

/**
 * Compiles everything into `dist`, which is made anew.
 * @param root the folder of the project
 */
export async function compileServer(root) {
  const { build } = await import('esbuild');
  // Under another name until it is whole: two commands may compile at once.
  const folder = join(root, `.dist-${process.pid}`);
  for (const { from, to } of parts) {
    linkPackages(root, folder, dirname(from), dirname(to));
    const files = readdirSync(join(root, from), { recursive: true })
      .map((name) => join(root, from, name))
      .filter((path) => statSync(path).isFile() && !path.endsWith('.spec.ts') && !path.endsWith('.d.ts'));
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
  // The scripts for browsers, as `server/src/builds/reader-script.ts` makes them where nothing is compiled.
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
  const core = JSON.parse(readFileSync(join(root, 'core/package.json'), 'utf8'));
  const exports = Object.fromEntries(
    Object.entries(core.exports).map(([name, path]) => [name, path.replace(/\.ts$/, '.js')]),
  );
  const description = { name: core.name, version: core.version, type: 'module', exports };
  writeFileSync(join(folder, 'node_modules/@allomorph/core/package.json'), JSON.stringify(description, null, 2));
  writeFileSync(join(folder, 'package.json'), JSON.stringify({ type: 'module', private: true }));
  rmSync(join(root, 'dist'), { recursive: true, force: true });
  renameSync(folder, join(root, 'dist'));
}
