import { readdirSync } from 'node:fs';
import { alg, Graph } from '@dagrejs/graphlib';
import { build } from 'esbuild';

/** Which module imports which, among those below some folders; types, which are gone when it runs, do not count. */
async function importsBelow(folders: readonly string[]): Promise<Graph> {
  const { metafile } = await build({
    entryPoints: folders.flatMap((folder) =>
      readdirSync(folder, { recursive: true, encoding: 'utf8' })
        .filter((name) => name.endsWith('.ts') && !name.endsWith('.d.ts'))
        .map((name) => `${folder}/${name}`),
    ),
    bundle: true,
    splitting: true,
    packages: 'external',
    format: 'esm',
    outdir: 'unwritten',
    write: false,
    metafile: true,
    logLevel: 'silent',
  });
  const graph = new Graph();
  for (const [path, { imports }] of Object.entries(metafile.inputs))
    for (const { path: imported, external } of imports) if (!external) graph.setEdge(path, imported);
  return graph;
}

describe('The modules of the program', () => {
  for (const folders of [['core/src', 'server/src', 'demo/src'], ['web/src'], ['reader/src']])
    it(`can be read one at a time: those of ${folders.join(', ')} do not import each other in a circle`, async () => {
      const graph = await importsBelow(folders);
      expect(graph.edgeCount()).toBeGreaterThan(10);
      expect(alg.findCycles(graph)).toEqual([]);
    });
});
