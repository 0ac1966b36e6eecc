import { spawnSync } from 'node:child_process';
import { mkdirSync, mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import {
  assemblePublication,
  libraryOf,
  Memory,
  numberPublication,
  web,
  type Component,
  type FormatFile,
  type Recipe,
} from '@allomorph/core';
import { row, spreadOf } from './measure.js';
import { axes, madeUpPublication } from './made-up/publication.js';

/**
 * A deliverable by a new process, from stored bodies to files on disk, beside the least that any such process has to do:
 * parse the bodies and write the same bytes. This file is the process that measures and, with arguments, the two that are
 * measured; each tells the milliseconds of its work, without the time that Node.js and its loader take to begin.
 */

interface Stored {
  readonly components: readonly Component[];
  readonly recipe: Recipe;
}

const [what, folder] = process.argv.slice(2);
if (what !== undefined && folder !== undefined) work(what, folder);
else measure();

function work(kind: string, at: string): void {
  const out = join(at, kind);
  mkdirSync(out);
  // What both write the same way is held ready for the floor.
  const ready = kind === 'floor' ? readReady(at) : [];
  const begun = performance.now();
  const { components, recipe } = JSON.parse(readFileSync(join(at, 'bodies.json'), 'utf8')) as Stored;
  const files = kind === 'floor' ? ready : build(components, recipe);
  for (const { path, text } of files) writeFileSync(join(out, path), text);
  console.log(performance.now() - begun);
}

function build(components: readonly Component[], recipe: Recipe): readonly FormatFile[] {
  const source = { library: libraryOf(components), axes, stamps: [], publications: new Map() };
  return web.render(numberPublication(assemblePublication(source, recipe, new Memory()), recipe)).files;
}

function readReady(at: string): readonly Pick<FormatFile, 'path' | 'text'>[] {
  return JSON.parse(readFileSync(join(at, 'files.json'), 'utf8')) as FormatFile[];
}

function measure(): void {
  const at = mkdtempSync(join(tmpdir(), 'allomorph-cold-'));
  try {
    const made = madeUpPublication(1000);
    const recipe = made.recipe(0);
    writeFileSync(join(at, 'bodies.json'), JSON.stringify({ components: made.components, recipe } satisfies Stored));
    const files = build(made.components, recipe).map(({ path, text }) => ({ path, text }));
    writeFileSync(join(at, 'files.json'), JSON.stringify(files));
    const times: Record<'floor' | 'engine', number[]> = { floor: [], engine: [] };
    for (let round = 0; round < 9; round += 1) {
      for (const kind of ['floor', 'engine'] as const) {
        const { stdout, stderr, status } = spawnSync(process.execPath, [fileURLToPath(import.meta.url), kind, at], {
          encoding: 'utf8',
        });
        if (status !== 0) throw new Error(stderr);
        times[kind].push(Number(stdout));
        if (kind === 'engine') checkSame(at, files);
        rmSync(join(at, kind), { recursive: true });
      }
    }
    const [floor, engine] = [spreadOf(times.floor), spreadOf(times.engine)];
    console.log('| what | ms: least / median / most | ratio |\n| --- | --- | --- |');
    console.log(row('1,000 bodies parsed, and the bytes of their site written', floor, '1'));
    const ratio = (engine.median / floor.median).toFixed(2);
    console.log(
      row('the site built of the same bodies and written, by a new process', engine, `${ratio} (wanted: 2.5)`),
    );
  } finally {
    rmSync(at, { recursive: true });
  }
}

function checkSame(at: string, files: readonly Pick<FormatFile, 'path' | 'text'>[]): void {
  for (const { path, text } of files)
    if (readFileSync(join(at, 'engine', path), 'utf8') !== text) throw new Error(`${path} comes out otherwise.`);
}
