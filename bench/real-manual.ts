import { spawnSync } from 'node:child_process';
import { mkdtempSync, rmSync } from 'node:fs';
import { cpus, tmpdir, totalmem } from 'node:os';
import { join } from 'node:path';
import { prepareSource } from '../tests/real-manual/prepare.js';
import { freshDatabase } from '../tests/support/fresh-database.js';

/**
 * Time and memory of importing the real manual and of building each of its variants, each as a whole
 * process of the command line, start of Node.js included. Beside them stands the smallest such process,
 * which only opens the database, measured in the same run.
 */

// Compiled, this file lies elsewhere: benchmarks run in the folder of the project.
const root = process.cwd();
const runs = 5;
const folder = mkdtempSync(join(tmpdir(), 'allomorph-bench-'));
const manual = join(root, 'tests', 'real-manual');
const architectures = ['amd64', 'arm64', 'i386'];

interface Measure {
  readonly seconds: number;
  readonly megabytes: number;
}

function measure(url: string, args: readonly string[], mayFail = false): Measure {
  const begun = performance.now();
  const { status, stderr } = spawnSync(
    process.execPath,
    ['--import', join(root, 'bench/peak-memory.mjs'), 'dist/server/src/cli/cli.js', ...args, '--json'],
    { cwd: root, encoding: 'utf8', env: { ...process.env, DATABASE_URL: url, ALLOMORPH_DEMO: 'no' } },
  );
  const seconds = (performance.now() - begun) / 1000;
  if (status !== 0 && !mayFail) throw new Error(stderr);
  return { seconds, megabytes: Number(/peak-megabytes (\d+)/.exec(stderr)?.[1] ?? 0) };
}

function row(what: string, measures: readonly Measure[], floor: number): string {
  const sorted = measures.map((each) => each.seconds).sort((a, b) => a - b);
  const at = (share: number): number => sorted[Math.round(share * (sorted.length - 1))] ?? 0;
  const peak = Math.max(...measures.map((each) => each.megabytes));
  const times = [at(0), at(0.5), at(1)].map((seconds) => seconds.toFixed(2)).join(' / ');
  return `| ${what} | ${times} | ${peak} | ${(at(0.5) / floor).toFixed(1)} |`;
}

const fetched = spawnSync('bash', [join(manual, 'fetch.sh'), folder, 'amd64'], { encoding: 'utf8' });
if (fetched.status !== 0) throw new Error(`The manual could not be fetched: ${fetched.stderr}`);
const book = prepareSource(folder);
const importArgs = ['import', 'docbook', book, '--publication', 'Manual', '--profiles', join(manual, 'profiles.json')];

const floor: Measure[] = [];
const imports: Measure[] = [];
const builds = new Map<string, Measure[]>(architectures.map((architecture) => [architecture, []]));
for (let run = 0; run < runs; run += 1) {
  const database = await freshDatabase();
  measure(database.url, ['nothing'], true);
  floor.push(measure(database.url, ['nothing'], true));
  imports.push(measure(database.url, importArgs));
  for (const architecture of architectures) {
    const out = join(folder, 'out', architecture);
    builds.get(architecture)?.push(measure(database.url, ['build', 'Manual', '--variant', architecture, '--out', out]));
  }
  await database.drop();
}
rmSync(folder, { recursive: true, force: true });

const base = floor.map((each) => each.seconds).sort((a, b) => a - b)[Math.floor(runs / 2)] ?? 1;
console.log(
  `${new Date().toISOString().slice(0, 10)}, ${cpus().length} cores, ${Math.round(totalmem() / 2 ** 30)} GB, Node.js ${process.version}, ${runs} runs\n`,
);
console.log('| whole process | seconds, min / median / max | peak MB | times the smallest process |');
console.log('| --- | --- | --- | --- |');
console.log(row('smallest: open the database and end', floor, base));
console.log(row('import of the manual, with 3 profiles', imports, base));
for (const [architecture, measures] of builds) console.log(row(`build of ${architecture} to HTML`, measures, base));
