import { readFileSync } from 'node:fs';
import { ownFile } from '../own-file.js';

/** A script for browsers that is compiled with the server, read once. */
function scriptOf(file: string): () => Buffer {
  let bytes: Buffer | undefined;
  return () => (bytes ??= readFileSync(ownFile(`server/${file}`)));
}

/** The script with which the pages of a site are read: contents, search, notes and so on. The same for every site. */
export const readerScript = scriptOf('reader.js');

/** The script of pages whose passages are asked where they come from. */
export const passagesScript = scriptOf('passages.js');
