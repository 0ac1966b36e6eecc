import iconv from 'iconv-lite';
import { ImportFault } from '@allomorph/core/interchange';

/** Encodings by their byte order marks, the longest first. */
const marks: readonly (readonly [readonly number[], string])[] = [
  [[0xef, 0xbb, 0xbf], 'utf-8'],
  [[0xfe, 0xff], 'utf-16be'],
  [[0xff, 0xfe], 'utf-16le'],
  [[0x00, 0x3c, 0x00, 0x3f], 'utf-16be'],
  [[0x3c, 0x00, 0x3f, 0x00], 'utf-16le'],
];

/**
 * The text of an XML file in the encoding that its byte order mark or its declaration names (XML 1.0, appendix F), or that was
 * named for it; UTF-8 without any. Line ends become line feeds (2.11).
 * @throws ImportFault where the encoding is not known, or the bytes are none of it
 */
export function decodeXml(bytes: Uint8Array, path: string, named?: string): string {
  const marked = marks.find(([mark]) => mark.every((byte, at) => bytes[at] === byte))?.[1];
  const start = new TextDecoder('latin1').decode(bytes.subarray(0, 200));
  const declared = /^<\?xml[^>]*\sencoding\s*=\s*["']([A-Za-z][\w.-]*)["']/.exec(start)?.[1];
  const encoding = marked ?? declared ?? named ?? 'utf-8';
  if (!iconv.encodingExists(encoding))
    throw new ImportFault(`The encoding “${String(encoding)}” is not known.`, path, 1);
  const text = iconv.decode(bytes, encoding);
  const fault = faultIn(text, bytes, encoding);
  if (fault >= 0) {
    const line = text.slice(0, fault).split(/\r\n?|\n/).length;
    throw new ImportFault(`The file is not in the encoding “${encoding}” that it says.`, path, line);
  }
  return text.replace(/\r\n?/g, '\n');
}

/**
 * Where a decoder put the sign for what it could not read (U+FFFD), unless the file holds that sign itself.
 * @returns -1: it read everything
 */
function faultIn(text: string, bytes: Uint8Array, encoding: string): number {
  const at = text.indexOf('\uFFFD');
  if (at < 0 || iconv.encode(text, encoding).equals(withoutMark(bytes))) return -1;
  return at;
}

/** Decoders leave the byte order mark out. */
function withoutMark(bytes: Uint8Array): Uint8Array {
  const mark = marks.find(([each]) => each[0] !== 0 && each[1] !== 0 && each.every((byte, at) => bytes[at] === byte));
  return mark ? bytes.subarray(mark[0].length) : bytes;
}
