import type { ImageFile } from '@allomorph/core';
import { Resvg } from '@resvg/resvg-js';
import { paperFonts } from '../typesetting/paper-fonts.js';
import type { WordPicture } from './write-document.js';

const known: Readonly<Record<string, WordPicture['type']>> = {
  'image/png': 'png',
  'image/jpeg': 'jpg',
  'image/gif': 'gif',
};

/** A picture as word processors show it; drawings are drawn as points, twice as fine as on a screen. Null: of no known kind. */
export function wordPicture(file: ImageFile, bytes: Buffer): WordPicture | null {
  const type = known[file.mediaType];
  const { width, height } = file;
  if (type) return { type, data: bytes, width: width ?? 400, height: height ?? 300 };
  if (file.mediaType !== 'image/svg+xml') return null;
  const font = { loadSystemFonts: false, fontFiles: [...paperFonts], defaultFontFamily: 'Source Sans 3' };
  const drawing = new Resvg(bytes.toString(), { font });
  const size = { width: width ?? drawing.width, height: height ?? drawing.height };
  const fine = new Resvg(bytes.toString(), {
    font,
    fitTo: { mode: 'width', value: Math.min(4000, Math.max(1, Math.round(2 * size.width))) },
  });
  return { type: 'png', data: fine.render().asPng(), ...size };
}
