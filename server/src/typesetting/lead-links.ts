import { placeScheme } from '@allomorph/core';

/**
 * Links to places of a document are typeset as links to addresses, as the typesetter would lay out every paragraph with a link to a
 * place twice and remember both. Once the document is made and each place lies somewhere, they are led there.
 */

/** Where a place of a document lies on paper. */
export interface LaidPlace {
  readonly place: string;
  /** The page, from 1. */
  readonly page: number;
  /** From the left and upper edges of the page, in points. */
  readonly x: number;
  readonly y: number;
  /** How it is told to whoever does not see the link, such as “page 12”. */
  readonly told: string;
}

/** What stands at a place begins this much above it, in points. */
const room = 10;

/**
 * A PDF whose links to places lead there. Objects and their table are read and written as ISO 32000-1, 7.3 and 7.5.4, says;
 * everything that is no such link stays byte by byte.
 * @param pdf as the typesetter writes it: with a table of objects, each link an object of its own
 * @throws Error where a link leads to none of the places
 */
export function leadLinks(pdf: Buffer, places: readonly LaidPlace[]): Buffer {
  const file = readObjects(pdf);
  const pages = pagesOf(file);
  const named = new Map(places.map((each) => [each.place, each]));
  const changed = new Map<number, Buffer>();
  for (const [number, object] of file.objects) {
    if (!startsLike(object, number, '<<\n  /Type /Annot\n  /Subtype /Link')) continue;
    const text = object.toString('latin1');
    const action = addressAction.exec(text);
    const address = action ? readString(action[1] ?? '') : '';
    if (!action || !address.startsWith(placeScheme)) continue;
    const name = address.slice(placeScheme.length);
    const place = named.get(name);
    const page = pages[(place?.page ?? 0) - 1];
    if (!place || !page) throw new Error(`No place of the document is called “${name}”.`);
    const destination = `/Dest [${page.reference} /XYZ ${place.x} ${page.height - Math.max(place.y - room, 0)} 0]`;
    const led = text
      .replace(action[0], () => destination)
      .replace(described, () => `/Contents ${writeString(place.told)}`);
    changed.set(number, Buffer.from(led, 'latin1'));
  }
  return changed.size === 0 ? pdf : writeObjects(pdf, file, changed);
}

/** A drawing of pages in which no link leads to a place: there is nowhere to go. */
export function withoutLinks(drawing: Buffer): Buffer {
  const address = `"${placeScheme}[^"]*"`;
  return Buffer.from(drawing.toString().replace(new RegExp(` href=${address} xlink:href=${address}`, 'g'), ''));
}

const string = String.raw`\((?:[^\\()]|\\[^])*\)|<[\dA-Fa-f\s]*>`;
const addressAction = new RegExp(String.raw`/A <<\s*/Type /Action\s*/S /URI\s*/URI (${string})\s*>>`);
const described = new RegExp(String.raw`/Contents (?:${string})`);

interface PdfFile {
  /** The bytes of each object with what stands behind it, by number, in the order of the file. */
  readonly objects: ReadonlyMap<number, Buffer>;
  /** Where the table of objects begins, and where its lines do. */
  readonly table: number;
  readonly lines: number;
  /** How many objects the table counts, those that are free included. */
  readonly size: number;
}

/** The objects of a file by its table (ISO 32000-1, 7.5.4). */
function readObjects(pdf: Buffer): PdfFile {
  const tail = pdf.subarray(pdf.lastIndexOf('startxref')).toString('latin1');
  const table = Number(/^startxref\s+(\d+)/.exec(tail)?.[1]);
  const head = /^xref\s+0 (\d+)\s+/.exec(pdf.subarray(table, table + 40).toString('latin1'));
  if (!head) throw new Error('The typeset document has no table of its objects.');
  const size = Number(head[1]);
  const lines = table + head[0].length;
  const starts: { number: number; at: number }[] = [];
  for (let number = 0; number < size; number += 1) {
    const from = lines + number * entryLength;
    const [at, , kind] = pdf
      .subarray(from, from + entryLength)
      .toString('latin1')
      .split(/\s+/);
    if (kind === 'n') starts.push({ number, at: Number(at) });
  }
  starts.sort((a, b) => a.at - b.at);
  const objects = new Map(
    starts.map(({ number, at }, index) => [number, pdf.subarray(at, starts[index + 1]?.at ?? table)]),
  );
  return { objects, table, lines, size };
}

/** Each line of the table has as many bytes. */
const entryLength = 20;

/** The file with other bytes for some objects, and its table anew. */
function writeObjects(
  pdf: Buffer,
  { objects, table, lines, size }: PdfFile,
  changed: ReadonlyMap<number, Buffer>,
): Buffer {
  const before = [...objects.values()].reduce((sum, { length }) => sum + length, 0);
  let at = table - before;
  const parts = [pdf.subarray(0, at)];
  const starts = new Map<number, number>();
  for (const [number, object] of objects) {
    const bytes = changed.get(number) ?? object;
    starts.set(number, at);
    parts.push(bytes);
    at += bytes.length;
  }
  // What follows the lines of the table stays, but for where the table begins.
  const written = Buffer.from(pdf.subarray(table, lines + size * entryLength));
  for (const [number, start] of starts)
    written.write(String(start).padStart(10, '0'), lines - table + number * entryLength, 'latin1');
  const trailer = pdf.subarray(lines + size * entryLength).toString('latin1');
  parts.push(written, Buffer.from(trailer.replace(/startxref\s+\d+/, `startxref\n${at}`), 'latin1'));
  return Buffer.concat(parts);
}

/** How to refer to each page, and how high it is; in a row, as the typesetter keeps them in one list. */
function pagesOf({ objects }: PdfFile): readonly { readonly reference: string; readonly height: number }[] {
  const [, list] = [...objects].find(([number, object]) => startsLike(object, number, '<<\n  /Type /Pages')) ?? [];
  const kids = /\/Kids \[([^\]]*)\]/.exec(list?.toString('latin1') ?? '')?.[1] ?? '';
  return [...kids.matchAll(/(\d+) 0 R/g)].map(([reference, number]) => {
    const page = objects.get(Number(number))?.toString('latin1') ?? '';
    const height = /\/MediaBox \[\S+ \S+ \S+ (\S+)\]/.exec(page)?.[1];
    if (height === undefined) throw new Error(`The page ${reference} of the typeset document has no size.`);
    return { reference, height: Number(height) };
  });
}

function startsLike(object: Buffer, number: number, content: string): boolean {
  const start = `${number} 0 obj\n${content}`;
  return object.subarray(0, start.length).toString('latin1') === start;
}

const escapes: Readonly<Record<string, string>> = { n: '\n', r: '\r', t: '\t', b: '\b', f: '\f', '\n': '' };

/** The text of a string of bytes in UTF-8, which stands in letters or in hexadecimal digits (ISO 32000-1, 7.3.4). */
function readString(source: string): string {
  if (source.startsWith('<')) return Buffer.from(source.replace(/[<>\s]/g, ''), 'hex').toString();
  const bytes = source
    .slice(1, -1)
    .replace(/\\(?:([0-7]{1,3})|([^]))/g, (_, octal: string | undefined, letter: string | undefined) =>
      octal === undefined ? (escapes[letter ?? ''] ?? letter ?? '') : String.fromCharCode(parseInt(octal, 8)),
    );
  return Buffer.from(bytes, 'latin1').toString();
}

/** Text for people, in UTF-16 (ISO 32000-1, 7.9.2.2). */
function writeString(text: string): string {
  return `<${Buffer.from(`\u{feff}${text}`, 'utf16le').swap16().toString('hex').toUpperCase()}>`;
}
