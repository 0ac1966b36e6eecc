import { readFileSync } from 'node:fs';
import type { ProfilesFile } from '@allomorph/core';
import { ImportFault, importDocbook, type ImportResult } from '@allomorph/core/interchange';
import type { ThreadWork } from '../threads/work-thread.js';
import { decodeXml } from './decode-xml.js';
import { fileInside } from './file-inside.js';

/** What an import thread is started with: the source as a folder or as unpacked files. */
export interface ImportOrder {
  readonly main: string;
  readonly folder: string | null;
  readonly files: ReadonlyMap<string, Uint8Array>;
  readonly publication: string;
  readonly profiles: ProfilesFile | null;
  readonly taken: ReadonlySet<string>;
}

export type ImportAnswer =
  { readonly ok: true; readonly result: ImportResult } | { readonly ok: false; readonly message: string };

/** Imports one source; a refusal is an answer, too. */
export const run: ThreadWork<ImportOrder, never, ImportAnswer> = async (order) => {
  const read = (path: string): string | undefined => {
    const bytes = order.files.get(path);
    if (bytes) return decodeXml(bytes, path);
    if (order.folder === null) return undefined;
    const file = fileInside(order.folder, path);
    return file === undefined ? undefined : decodeXml(readFileSync(file), path);
  };
  try {
    const result = importDocbook({
      main: order.main,
      read,
      publication: order.publication,
      ...(order.profiles ? { profiles: order.profiles } : {}),
      isTaken: (key) => order.taken.has(key),
    });
    return { ok: true, result };
  } catch (error) {
    if (error instanceof ImportFault) return { ok: false, message: error.message };
    throw error;
  }
};
