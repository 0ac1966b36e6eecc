import { buffer } from 'node:stream/consumers';
import {
  documentPath,
  datePlaceholder,
  modifiedPlaceholder,
  packagePath,
  partsFolder,
  searchFile,
  searchIndex,
  siteDataFile,
  type CarriedRecording,
  type Container,
  type FormatFile,
  type ImageFile,
  type PagedDocument,
  type Picture,
  type Problem,
  type Rendition,
} from '@allomorph/core';
import { Packer as WordPacker } from 'docx';
import { ZipFile } from 'yazl';
import type { Queryable } from '../db/database.js';
import { digestOf, readBlob, sizesOfBlobs } from '../images/blobs.js';
import { closedDrawing } from '../images/closed-drawing.js';
import type { Typesetter } from '../typesetting/typesetter.js';
import { sameBytes } from '../word/same-bytes.js';
import { writeDocument, type WordPicture } from '../word/write-document.js';
import { wordPicture } from '../word/word-picture.js';
import type { BuildMemory } from './build-memory.js';
import type { DeliverableFile } from './deliverable-file.js';
import { readFonts } from './fonts.js';
import { readerScript } from './reader-script.js';
import { zipOptions } from './zip-deliverable.js';

/** What a format hands over. */
export interface Packed {
  readonly files: readonly DeliverableFile[];
  /** Of paper; null where there is none. */
  readonly pages: number | null;
  /** Of this format only. */
  readonly problems: readonly Problem[];
}

export interface PackingTools {
  readonly db: Queryable;
  readonly memory: BuildMemory;
  readonly typesetter: Typesetter;
  /** ISO 8601. */
  readonly buildDate: string;
  /** The file that a reader opens first. */
  readonly start: string;
  /** Whether a document on paper is drawn for the screen instead. */
  readonly asDrawing?: true;
}

type Packer = (rendition: Rendition, tools: PackingTools) => Promise<Packed>;

const packers: Readonly<Record<Container, Packer>> = {
  folder: packFolder,
  page: packPage,
  epub: packEpub,
  pdf: packPdf,
  word: packWord,
};

/**
 * Makes of a rendition what is handed over.
 * @throws where that fails; other formats are not touched by it
 */
export function pack(container: Container, rendition: Rendition, tools: PackingTools): Promise<Packed> {
  return packers[container](rendition, tools);
}

async function packFolder(
  { files, fonts, script }: Rendition,
  { db, memory, buildDate }: PackingTools,
): Promise<Packed> {
  const shown = [...picturesOf(files), ...recordingsOf(files)];
  const sizes = await sizesOfBlobs(
    db,
    shown.map(({ file }) => file.digest),
  );
  const all = [
    ...files.map((file) => ({
      path: file.path,
      mediaType: file.mediaType,
      ...(finished[file.path]
        ? formOf(Buffer.from(finished[file.path]?.(file.text, buildDate) ?? ''))
        : memory.form(file)),
    })),
    ...(script === undefined ? [] : [fileOf(script, 'text/javascript', readerScript())]),
    ...(await readFonts(db, fonts)),
    ...shown.flatMap(({ path, file: { digest, mediaType } }) => {
      const size = sizes.get(digest);
      return size === undefined ? [] : [{ path, mediaType, digest, size, bytes: null }];
    }),
  ];
  return { files: all, pages: null, problems: [] };
}

/** The last index that was made: the same passages have the same one. */
let lastIndex: { readonly passages: string; readonly index: string } | null = null;

function indexOf(passages: string): string {
  if (lastIndex?.passages !== passages) lastIndex = { passages, index: searchIndex(passages) };
  return lastIndex.index;
}

/** Files that are finished when a site is packed: the index is made of passages, and the day of the build is told. */
const finished: Readonly<Partial<Record<string, (text: string, buildDate: string) => string>>> = {
  [searchFile]: indexOf,
  [siteDataFile]: (text, buildDate) => text.replace(`"${datePlaceholder}"`, () => JSON.stringify(buildDate)),
};

/** One page: what it shows stands in it, as data addresses (RFC 2397). */
async function packPage({ files, fonts }: Rendition, { db, start }: PackingTools): Promise<Packed> {
  const data = new Map<string, string>();
  const keep = (path: string, mediaType: string, bytes: Uint8Array): void => {
    data.set(path, `data:${mediaType};base64,${Buffer.from(bytes).toString('base64')}`);
  };
  for (const { path, mediaType, bytes } of await readFonts(db, fonts)) keep(path, mediaType, bytes);
  for (const { path, file } of picturesOf(files)) keep(path, file.mediaType, await bytesOfPicture(db, file));
  const found = (path: string): string => data.get(path) ?? path;
  const packed = files.map(({ mediaType, text }) => {
    const endOfStyle = text.indexOf('</style>');
    const style = text.slice(0, endOfStyle).replace(/url\(([^()]+)\)/g, (_, path: string) => `url(${found(path)})`);
    // Quotes in text are escaped, so that these stand in tags only.
    const body = text
      .slice(endOfStyle)
      .replace(/ (src|poster)="([^"]+)"/g, (_, name: string, path: string) => ` ${name}="${found(path)}"`);
    return fileOf(start, mediaType, Buffer.from(style + body));
  });
  return { files: packed, pages: null, problems: [] };
}

const epubFolder = 'EPUB/';
const epubContainer = `<?xml version="1.0" encoding="UTF-8"?>
<container version="1.0" xmlns="urn:oasis:names:tc:opendocument:xmlns:container">
<rootfiles><rootfile full-path="${epubFolder}${packagePath}" media-type="application/oebps-package+xml"/></rootfiles>
</container>
`;

/** An EPUB container (EPUB 3.3, section 4): an archive whose first file says what it is. */
async function packEpub({ files, fonts }: Rendition, { db, start, buildDate }: PackingTools): Promise<Packed> {
  const zip = new ZipFile();
  const add = (path: string, bytes: Uint8Array, compress = true): void => {
    zip.addBuffer(Buffer.from(bytes), path, { ...zipOptions, compress });
  };
  const modified = `<meta property="dcterms:modified">${buildDate}T00:00:00Z</meta>`;
  add('mimetype', Buffer.from('application/epub+zip'), false);
  add('META-INF/container.xml', Buffer.from(epubContainer));
  for (const { path, text } of files)
    add(epubFolder + path, Buffer.from(path === packagePath ? text.replace(modifiedPlaceholder, modified) : text));
  for (const { path, bytes } of await readFonts(db, fonts)) add(epubFolder + path, bytes, false);
  for (const { path, file } of picturesOf(files)) add(epubFolder + path, await bytesOfPicture(db, file));
  for (const { path, bytes } of await recordingsWithin(db, files)) add(epubFolder + path, bytes, false);
  zip.end();
  return { files: [fileOf(start, 'application/epub+zip', await buffer(zip.outputStream))], pages: null, problems: [] };
}

/** A book is put together in memory, and devices are small. */
const mostRecorded = 150;

/** @throws where the recordings of a book are too large together */
async function recordingsWithin(
  db: Queryable,
  files: readonly FormatFile[],
): Promise<readonly { readonly path: string; readonly bytes: Buffer }[]> {
  const recordings = recordingsOf(files);
  const sizes = await sizesOfBlobs(
    db,
    recordings.map(({ file }) => file.digest),
  );
  const size = Math.ceil([...sizes.values()].reduce((sum, each) => sum + each, 0) / 2 ** 20);
  if (size > mostRecorded)
    throw new Error(
      `The films and sounds of this book take ${size} MB; an e-book holds at most ${mostRecorded} MB of them.`,
    );
  const read: { path: string; bytes: Buffer }[] = [];
  for (const { path, file } of recordings) {
    const bytes = await readBlob(db, file.digest);
    if (!bytes) throw new Error(`The stored bytes ${file.digest} are gone.`);
    read.push({ path, bytes });
  }
  return read;
}

async function packPdf({ files, fonts, standard = 'ua-1' }: Rendition, tools: PackingTools): Promise<Packed> {
  const documentFonts = (await readFonts(tools.db, fonts)).map(({ digest, bytes }) => ({ digest, bytes }));
  const isDocument = ({ path }: FormatFile): boolean => path === documentPath || path.startsWith(partsFolder);
  const shared = files
    .filter((file) => !isDocument(file))
    .map(({ path, text }) => ({ path, bytes: Buffer.from(text) }));
  const made: DeliverableFile[] = [];
  const against = new Set<string>();
  let pages = 0;
  for (const document of files.filter(isDocument)) {
    const isWhole = document.path === documentPath;
    const pictures: { path: string; bytes: Uint8Array }[] = [];
    for (const { path, file } of document.pictures)
      pictures.push({ path, bytes: await bytesOfPicture(tools.db, file) });
    const typeset = await tools.typesetter.typeset({
      files: [...shared, { path: documentPath, bytes: Buffer.from(document.text) }, ...pictures],
      fonts: documentFonts,
      standard: tools.asDrawing ? 'drawing' : standard,
      timestamp: Date.parse(`${tools.buildDate}T00:00:00Z`) / 1000,
    });
    if (isWhole) pages = typeset.pages;
    for (const reason of typeset.against) against.add(reason);
    made.push(fileOf(isWhole ? tools.start : document.path.replace(/json$/, 'pdf'), 'application/pdf', typeset.pdf));
    // What is drawn while somebody designs shows the whole.
    if (tools.asDrawing) break;
  }
  const problems = [...against].map((reason) =>
    standard === 'ua-1'
      ? warning('not-accessible', `The PDF is tagged, but does not claim to be accessible (PDF/UA-1): ${reason}.`)
      : warning(
          'not-for-archives',
          `The PDF does not claim to be fit for archives (PDF/${standard.toUpperCase()}): ${reason}.`,
        ),
  );
  return { files: made, pages, problems };
}

/** A file for word processors. Pictures that those do not know stand in it as they look. */
async function packWord({ files }: Rendition, { db, start, buildDate }: PackingTools): Promise<Packed> {
  const document = files.find(({ path }) => path === documentPath);
  if (!document) throw new Error('The rendition has no document.');
  const pictures = new Map<string, WordPicture>();
  let unknown = 0;
  for (const { path, file } of picturesOf(files)) {
    const picture = wordPicture(file, await bytesOfPicture(db, file));
    if (picture) pictures.set(path, picture);
    else unknown += 1;
  }
  // What core has written.
  // eslint-disable-next-line @typescript-eslint/no-unsafe-type-assertion
  const made = await WordPacker.toBuffer(writeDocument(JSON.parse(document.text) as PagedDocument, pictures));
  const bytes = await sameBytes(made, buildDate);
  const what = unknown === 1 ? 'One picture is' : `${unknown} pictures are`;
  const problems =
    unknown === 0
      ? []
      : [warning('missing-image', `${what} of a kind that Word does not show; the words for them stand instead.`)];
  return { files: [fileOf(start, wordType, bytes)], pages: null, problems };
}

/** A problem of one format, which no place of the content is to blame for alone. */
function warning(code: Problem['code'], message: string): Problem {
  return { severity: 'warning', code, message, place: { component: null, block: null, entry: null } };
}

const wordType = 'application/vnd.openxmlformats-officedocument.wordprocessingml.document';

function formOf(bytes: Buffer): Pick<DeliverableFile, 'digest' | 'size' | 'bytes'> {
  return { digest: digestOf(bytes), size: bytes.length, bytes };
}

function fileOf(path: string, mediaType: string, bytes: Buffer): DeliverableFile {
  return { path, mediaType, ...formOf(bytes) };
}

/** The pictures of some files, each once. */
export function picturesOf(files: readonly FormatFile[]): readonly Picture[] {
  return [...new Map(files.flatMap(({ pictures }) => pictures).map((picture) => [picture.path, picture])).values()];
}

/** The recordings of some files, each once. */
function recordingsOf(files: readonly FormatFile[]): readonly CarriedRecording[] {
  const all = files.flatMap(({ recordings = [] }) => recordings);
  return [...new Map(all.map((recording) => [recording.path, recording])).values()];
}

/** A picture as it may stand in a file that we make: drawings refer to nothing outside. */
export async function bytesOfPicture(db: Queryable, { digest, mediaType }: ImageFile): Promise<Buffer> {
  const bytes = await readBlob(db, digest);
  if (!bytes) throw new Error(`The stored bytes ${digest} are gone.`);
  return mediaType === 'image/svg+xml' ? Buffer.from(closedDrawing(bytes.toString())) : bytes;
}
