import { readdirSync } from 'node:fs';
import { dirname, join, posix } from 'node:path';

/** So many names of a folder are looked through, and so many style sheets read. */
const most = { names: 20_000, sheets: 100 };

/**
 * The paths of the style sheets of a book: those below its own folder, or else below the nearest folder around it that has any.
 * @param below the paths of files below a folder; the empty string names the outermost one
 */
export function styleSheetsFor(main: string, below: (folder: string) => readonly string[]): readonly string[] {
  for (let folder = dirname(main).replace(/^\.$/, ''); ; folder = dirname(folder).replace(/^\.$/, '')) {
    const sheets = below(folder).filter((path) => /\.(xslt?|dsl)$/i.test(path));
    if (sheets.length > 0 || folder === '') return [...sheets].sort().slice(0, most.sheets);
  }
}

/** The files of an archive below a folder. */
export const belowInArchive =
  (files: ReadonlyMap<string, unknown>) =>
  (folder: string): readonly string[] =>
    [...files.keys()].filter((path) => folder === '' || path.startsWith(`${folder}/`));

/** The files of a folder of this machine below one in it, as far as there are not too many. Links are not followed. */
export const belowInFolder =
  (root: string) =>
  (folder: string): readonly string[] => {
    const found: string[] = [];
    const waiting = [folder];
    for (let seen = 0, next = waiting.shift(); next !== undefined && seen < most.names; next = waiting.shift()) {
      for (const entry of readdirSync(join(root, next), { withFileTypes: true })) {
        seen += 1;
        const path = posix.join(next, entry.name);
        if (entry.isDirectory()) waiting.push(path);
        else if (entry.isFile()) found.push(path);
      }
    }
    return found;
  };
