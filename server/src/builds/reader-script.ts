import { existsSync, readFileSync } from 'node:fs';
import { fileURLToPath } from 'node:url';
import { buildSync, type BuildOptions } from 'esbuild';

/** A script for browsers: compiled with the server; where the program runs as it was written, it is made of its source. */
class BrowserScript {
  private bytes: Buffer | null = null;

  /**
   * @param compiled its file among those of the compiled server
   * @param source the source file that begins it
   */
  constructor(
    private readonly compiled: string,
    private readonly source: string,
  ) {}

  read(): Buffer {
    if (this.bytes) return this.bytes;
    const compiled = fileURLToPath(new URL(`../../${this.compiled}`, import.meta.url));
    const source = fileURLToPath(new URL(`../../../reader/src/${this.source}`, import.meta.url));
    return (this.bytes = existsSync(compiled) ? readFileSync(compiled) : bundle(source));
  }
}

const reader = new BrowserScript('reader.js', 'main.ts');
const passages = new BrowserScript('passages.js', 'passages.ts');

/** The script with which the pages of a site are read: contents, search, notes and so on. The same for every site. */
export function readerScript(): Buffer {
  return reader.read();
}

/** The script of pages whose passages are asked where they come from. */
export function passagesScript(): Buffer {
  return passages.read();
}

function bundle(entry: string): Buffer {
  const options: BuildOptions = {
    bundle: true,
    minify: true,
    format: 'iife',
    platform: 'browser',
    target: 'es2022',
    legalComments: 'inline',
    logLevel: 'silent',
  };
  const [file] = buildSync({ ...options, entryPoints: [entry], write: false }).outputFiles ?? [];
  if (!file) throw new Error(`The script “${entry}” came out empty.`);
  return Buffer.from(file.contents);
}
