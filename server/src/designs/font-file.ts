import type { FontFace } from '@allomorph/core';
import { create, type Font } from 'fontkit';
import { decompress } from 'wawoff2';
import { HttpProblem } from '../http/problem.js';

/** A file of a font as it is stored: one that paper and screens both take. */
export interface FontFile extends Omit<FontFace, 'digest'> {
  /** What the family is called in it. */
  readonly name: string;
  readonly bytes: Uint8Array;
}

/** The size that a compressed font may unfold to. */
const mostUnfolded = 40 << 20;

/**
 * Looks into the file of a font; its name is not trusted.
 * @throws HttpProblem 422 for what is no single static TTF, OTF or WOFF2 font that may be embedded
 */
export async function readFontFile(given: Uint8Array, fileName: string): Promise<FontFile> {
  const refuse = (what: string): never => {
    throw new HttpProblem(422, `“${fileName}” ${what}`);
  };
  const kind = kindOf(given);
  if (kind === null) return refuse('is not a TTF, OTF or WOFF2 font.');
  if (kind === 'woff2' && Buffer.from(given).readUInt32BE(unfoldedSizeAt) > mostUnfolded)
    return refuse('unfolds to more than fonts need.');
  const bytes = kind === 'woff2' ? await decompress(given).catch(() => null) : given;
  const font = bytes && openFont(bytes);
  if (!bytes || !font) return refuse('is damaged: it cannot be read as a font.');
  if (Object.keys(font.variationAxes).length > 0)
    return refuse('is a variable font, which cannot be set on paper. Upload its weights as files of their own.');
  const { usWeightClass = 400, fsType } = font['OS/2'] as OsTable;
  if (fsType?.noEmbedding) return refuse('may not be embedded, as its maker says in it (OS/2, fsType).');
  return {
    name: familyOf(font),
    weight: usWeightClass,
    isItalic: font.italicAngle !== 0,
    mediaType: signOf(bytes) === 'OTTO' ? 'font/otf' : 'font/ttf',
    bytes,
  };
}

interface OsTable {
  readonly usWeightClass?: number;
  readonly fsType?: { readonly noEmbedding: boolean };
}

/** The whole size is said at this place of a WOFF2 file (W3C, WOFF File Format 2.0, section 4.1). */
const unfoldedSizeAt = 16;

function signOf(bytes: Uint8Array): string {
  return Buffer.from(bytes.subarray(0, 4)).toString('latin1');
}

function kindOf(bytes: Uint8Array): 'sfnt' | 'woff2' | null {
  if (bytes.length < 100) return null;
  const sign = signOf(bytes);
  if (sign === 'wOF2') return 'woff2';
  return sign === 'OTTO' || sign === 'true' || sign === '\0\x01\0\0' ? 'sfnt' : null;
}

/** A font, or nothing where it cannot be read. */
function openFont(bytes: Uint8Array): Font | null {
  try {
    const font = create(Buffer.from(bytes));
    // Collections are no single font, and what is asked for later is looked at now.
    return 'fonts' in font || font.characterSet.length === 0 ? null : font;
  } catch {
    return null;
  }
}

function familyOf(font: Font): string {
  // Fonts of more than four faces say their family apart (OpenType, name 16).
  // The types of the library leave out this method of it.
  // eslint-disable-next-line @typescript-eslint/no-unsafe-type-assertion
  const preferred = (font as unknown as { getName(name: string): unknown }).getName('preferredFamily');
  return typeof preferred === 'string' && preferred !== '' ? preferred : font.familyName;
}

/** The characters that a font has; none where it cannot be read. */
export function charactersOfFont(bytes: Uint8Array): ReadonlySet<number> {
  return new Set(openFont(bytes)?.characterSet ?? []);
}
