import { readFileSync } from 'node:fs';
import { createRequire } from 'node:module';
import type { FontFile } from '@allomorph/core';
import type { Queryable } from '../db/database.js';
import { digestOf, readBlob } from '../images/blobs.js';
import { paperFont } from '../typesetting/paper-fonts.js';
import type { DeliverableFile } from './deliverable-file.js';

const require = createRequire(import.meta.url);

/** The packages of the families that come with the application. All are under the SIL Open Font License. */
const packages: Readonly<Record<string, string>> = {
  serif: 'source-serif-4',
  sans: 'source-sans-3',
  mono: 'jetbrains-mono',
};

/** The file of a font that comes with the application: `family/part` or `family-italic/part`. */
function fileOf(font: string): { readonly path: string; readonly mediaType: string } {
  const mediaType = 'font/woff2';
  const [style = '', part = ''] = font.split('/');
  const [family = '', slope = 'normal'] = style.split('-');
  if (family === 'math')
    return { path: require.resolve('@fontsource/stix-two-math/files/stix-two-math-latin-400-normal.woff2'), mediaType };
  // What the parts for screens lack stands in the whole font.
  if (part === 'rest') return { path: paperFont(family), mediaType: 'font/ttf' };
  const name = packages[family] ?? '';
  const path = `@fontsource-variable/${name}/files/${name}-${part}-wght-${slope}.woff2`;
  return { path: require.resolve(path), mediaType };
}

const read = new Map<string, Omit<DeliverableFile, 'path' | 'bytes'> & { readonly bytes: Buffer }>();

/** The fonts of a deliverable, under the paths that its files use. */
export async function readFonts(
  db: Queryable,
  fonts: readonly FontFile[],
): Promise<readonly (Omit<DeliverableFile, 'bytes'> & { readonly bytes: Buffer })[]> {
  return Promise.all(
    fonts.map(async (each) => {
      if ('file' in each) {
        const { digest, mediaType } = each.file;
        const bytes = await readBlob(db, digest);
        if (!bytes) throw new Error('A font of the design is gone.');
        return { path: each.path, mediaType, digest, size: bytes.length, bytes };
      }
      let file = read.get(each.font);
      if (!file) {
        const { path, mediaType } = fileOf(each.font);
        const bytes = readFileSync(path);
        file = { mediaType, digest: digestOf(bytes), size: bytes.length, bytes };
        read.set(each.font, file);
      }
      return { ...file, path: each.path };
    }),
  );
}
