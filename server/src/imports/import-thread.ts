import { closeSync, openSync, readFileSync, readSync } from 'node:fs';
import type { ProfilesFile } from '@allomorph/core';
import { ImportFault, importDocbook, type ImportResult, type StyleSheet } from '@allomorph/core/interchange';
import type { ThreadWork } from '../threads/work-pool.js';
import { decodeXml } from './decode-xml.js';
import { fileInside } from './file-inside.js';
import { belowInArchive, belowInFolder, styleSheetsFor } from './style-sheets.js';
import { ArchiveFault, unzip } from './unzip.js';

/** Where an import reads from: a folder of this machine, or the file of an archive. */
export interface ImportSource {
  /** The file that holds the book; the empty string: the one of the archive that does. */
  readonly main: string;
  readonly from: { readonly folder: string } | { readonly archive: string };
}

/** What an import thread is started with. */
export interface ImportOrder extends ImportSource {
  readonly publication: string;
  readonly profiles: ProfilesFile | null;
  readonly taken: ReadonlySet<string>;
}

export type ImportAnswer =
  | {
      readonly ok: true;
      readonly result: ImportResult;
      /** The bytes of the pictures, by path; those that are missing are left out. */
      readonly pictures: ReadonlyMap<string, Uint8Array>;
    }
  | { readonly ok: false; readonly message: string };

type ReadBytes = (path: string) => Uint8Array | undefined;

/** Unpacks and imports one source; a refusal is an answer, too. */
export const run: ThreadWork<ImportOrder, never, ImportAnswer> = async (order) => {
  try {
    const { read, main, sheets } = opened(order);
    const result = importDocbook({
      main,
      read: (path, encoding) => {
        const bytes = read(path);
        return bytes && decodeXml(bytes, path, encoding);
      },
      publication: order.publication,
      styleSheets: styleSheetsFor(main, sheets).flatMap((path) => readSheet(path, read)),
      ...(order.profiles ? { profiles: order.profiles } : {}),
      isTaken: (key) => order.taken.has(key),
    });
    const pictures = result.images.flatMap(({ path }): [string, Uint8Array][] => {
      const bytes = read(path);
      return bytes ? [[path, bytes]] : [];
    });
    return { ok: true, result, pictures: new Map(pictures) };
  } catch (error) {
    if (error instanceof ImportFault || error instanceof ArchiveFault) return { ok: false, message: error.message };
    throw error;
  }
};

/** A style sheet as text; one that is too large, or none at all, says nothing. */
function readSheet(path: string, read: ReadBytes): readonly StyleSheet[] {
  const bytes = read(path);
  if (!bytes || bytes.length > mostBytesOfSheet) return [];
  try {
    return [{ path, text: decodeXml(bytes, path) }];
  } catch (error) {
    if (error instanceof ImportFault) return [];
    throw error;
  }
}

const mostBytesOfSheet = 1 << 20;

interface Opened {
  readonly read: ReadBytes;
  readonly main: string;
  readonly sheets: Parameters<typeof styleSheetsFor>[1];
}

function opened({ from, main }: ImportSource): Opened {
  if ('archive' in from) {
    const files = unzip(partsOfFile(from.archive));
    return { read: (path) => files.get(path), main: main || bookIn(files), sheets: belowInArchive(files) };
  }
  const read = (path: string): Uint8Array | undefined => {
    const file = fileInside(from.folder, path);
    return file === undefined ? undefined : readFileSync(file);
  };
  return { read, main, sheets: belowInFolder(from.folder) };
}

/** The bytes of a file, part by part. */
function* partsOfFile(path: string): Generator<Uint8Array> {
  const file = openSync(path, 'r');
  try {
    for (;;) {
      const part = Buffer.alloc(bytesOfPart);
      const length = readSync(file, part);
      if (length === 0) return;
      yield part.subarray(0, length);
    }
  } finally {
    closeSync(file);
  }
}

const bytesOfPart = 1 << 16;

/**
 * The file of an archive that holds a book: the one whose root element says so, nearest to the top; of several in one
 * folder the one that comes first by its name.
 * @throws ArchiveFault where there is none
 */
function bookIn(files: ReadonlyMap<string, Uint8Array>): string {
  const [first] = [...files]
    .filter(([path, bytes]) => /\.(xml|dbk|docbook|sgml)$/i.test(path) && isBook(bytes))
    .map(([path]) => path)
    .sort((a, b) => a.split('/').length - b.split('/').length || a.localeCompare(b));
  if (first === undefined)
    throw new ArchiveFault('No file of the archive holds a <book>, an <article> or a <set>; name the file.');
  return first;
}

/** Whether the first element of a file is one that holds a whole book; in its first part, where no element can hide. */
function isBook(bytes: Uint8Array): boolean {
  const start = Buffer.from(bytes.buffer, bytes.byteOffset, Math.min(bytes.length, 1 << 16)).toString('latin1');
  return /<(\w+:)?(book|article|set)[\s>]/.test(start.replaceAll('\0', ''));
}
