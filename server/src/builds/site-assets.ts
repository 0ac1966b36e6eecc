import { readFileSync } from 'node:fs';
import { createRequire } from 'node:module';
import type { siteFonts } from '@allomorph/core';
import { digestOf } from '../images/blobs.js';
import type { DeliverableFile } from './deliverable-file.js';

const require = createRequire(import.meta.url);

/** The font files behind the names that a site's style sheet uses. All are under the SIL Open Font License. */
const fontFiles: Readonly<Record<(typeof siteFonts)[number], string>> = {
  'fonts/serif.woff2': '@fontsource-variable/source-serif-4/files/source-serif-4-latin-wght-normal.woff2',
  'fonts/serif-italic.woff2': '@fontsource-variable/source-serif-4/files/source-serif-4-latin-wght-italic.woff2',
  'fonts/sans.woff2': '@fontsource-variable/source-sans-3/files/source-sans-3-latin-wght-normal.woff2',
  'fonts/mono.woff2': '@fontsource-variable/jetbrains-mono/files/jetbrains-mono-latin-wght-normal.woff2',
};

let fonts: readonly DeliverableFile[] | null = null;

/** The fonts of a site. */
export function readSiteFonts(): readonly DeliverableFile[] {
  return (fonts ??= Object.entries(fontFiles).map(([path, file]) => {
    const bytes = readFileSync(require.resolve(file));
    return { path, mediaType: 'font/woff2', digest: digestOf(bytes), size: bytes.length, bytes };
  }));
}
