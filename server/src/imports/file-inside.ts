import { existsSync, realpathSync } from 'node:fs';
import { join, sep } from 'node:path';

/** The file of a folder; undefined where there is none, or a link leads out of the folder. */
export function fileInside(folder: string, path: string): string | undefined {
  const file = join(folder, path);
  return existsSync(file) && realpathSync(file).startsWith(realpathSync(folder) + sep) ? file : undefined;
}
