import { unzipSync } from 'fflate';
import { HttpProblem } from '../http/problem.js';

/** What an uploaded archive may hold. */
export const archiveLimits = { files: 20_000, bytes: 300 << 20 } as const;

/**
 * Unpacks an archive under limits. Nothing is written to disk.
 * @throws HttpProblem 422 for what is no archive, too large, or has paths that lead out of it
 */
export function unzip(bytes: Uint8Array): ReadonlyMap<string, Uint8Array> {
  let files = 0;
  let total = 0;
  let refused: string | null = null;
  const unpacked = ((): Record<string, Uint8Array> => {
    try {
      return unzipSync(bytes, {
        filter: (file) => {
          files += 1;
          total += file.originalSize;
          if (file.name.startsWith('/') || file.name.includes('\\') || file.name.split('/').includes('..')) {
            refused ??= `The archive holds a path that leads out of it: “${file.name}”.`;
          } else if (files > archiveLimits.files)
            refused ??= `The archive holds more than ${archiveLimits.files} files.`;
          else if (total > archiveLimits.bytes) refused ??= 'The archive unpacks to more than 300 MB.';
          return refused === null && !file.name.endsWith('/');
        },
      });
    } catch {
      throw new HttpProblem(422, 'The file is not a ZIP archive that can be read.');
    }
  })();
  if (refused !== null) throw new HttpProblem(422, refused);
  return new Map(Object.entries(unpacked));
}
