import { readFileSync } from 'node:fs';
import { createRequire } from 'node:module';
import type { FontFile } from '@allomorph/core';
import { digestOf } from '../images/blobs.js';
import type { DeliverableFile } from './deliverable-file.js';

const require = createRequire(import.meta.url);

/** The files of the fonts that formats may ask for. All are under the SIL Open Font License. */
const files: Readonly<Record<FontFile['font'], string>> = {
  serif: '@fontsource-variable/source-serif-4/files/source-serif-4-latin-wght-normal.woff2',
  'serif-italic': '@fontsource-variable/source-serif-4/files/source-serif-4-latin-wght-italic.woff2',
  sans: '@fontsource-variable/source-sans-3/files/source-sans-3-latin-wght-normal.woff2',
  mono: '@fontsource-variable/jetbrains-mono/files/jetbrains-mono-latin-wght-normal.woff2',
};

const read = new Map<FontFile['font'], Omit<DeliverableFile, 'path'>>();

/** The fonts of a deliverable, under the paths that its files use. */
export function readFonts(fonts: readonly FontFile[]): readonly DeliverableFile[] {
  return fonts.map(({ path, font }) => {
    let file = read.get(font);
    if (!file) {
      const bytes = readFileSync(require.resolve(files[font]));
      file = { mediaType: 'font/woff2', digest: digestOf(bytes), size: bytes.length, bytes };
      read.set(font, file);
    }
    return { ...file, path };
  });
}
