import { buffer } from 'node:stream/consumers';
import { strFromU8, strToU8, unzipSync } from 'fflate';
import { ZipFile } from 'yazl';
import { zipOptions } from '../builds/zip-deliverable.js';

/**
 * A document whose bytes follow from its content: names that were given by chance are counted, dates are that of the build, and
 * its files are packed in the order of their names.
 * @param docx as the library made it
 * @param date ISO 8601
 */
export async function sameBytes(docx: Uint8Array, date: string): Promise<Buffer> {
  const files = unzipSync(docx);
  const names = new Map<string, string>();
  const counted = (_: string, name: string): string => {
    let known = names.get(name);
    if (known === undefined) names.set(name, (known = `rIdLink${names.size + 1}`));
    return `"${known}"`;
  };
  const zip = new ZipFile();
  // The first file says what the others are (ECMA-376, part 2).
  const paths = Object.keys(files)
    .filter((path) => !path.endsWith('/'))
    .sort((a, b) => Number(b === '[Content_Types].xml') - Number(a === '[Content_Types].xml') || (a < b ? -1 : 1));
  for (const path of paths) {
    let bytes = files[path] ?? new Uint8Array();
    if (path.endsWith('.xml') || path.endsWith('.rels')) {
      let text = strFromU8(bytes);
      // Relations of hyperlinks carry random names; those of parts are numbered.
      text = text.replace(/"(rId[A-Za-z_-][\w-]{15,}|rId[\w-]*[A-Za-z_-][\w-]{10,})"/g, counted);
      if (path === 'docProps/core.xml') text = text.replace(/\d{4}-\d\d-\d\dT[\d:.]+Z/g, `${date}T00:00:00Z`);
      bytes = strToU8(text);
    }
    zip.addBuffer(Buffer.from(bytes), path, zipOptions);
  }
  zip.end();
  return buffer(zip.outputStream);
}
