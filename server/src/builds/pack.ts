import type { Container, FormatFile, ImageFile, Picture, Problem, Rendition } from '@allomorph/core';
import type { Queryable } from '../db/database.js';
import { digestOf, readBlob, sizesOfBlobs } from '../images/blobs.js';
import type { Typesetter } from '../typesetting/typesetter.js';
import type { BuildMemory } from './build-memory.js';
import type { DeliverableFile } from './deliverable-file.js';
import { readFonts } from './fonts.js';

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
}

type Packer = (rendition: Rendition, tools: PackingTools) => Promise<Packed>;

const packers: Readonly<Record<Container, Packer>> = { folder: packFolder, pdf: packPdf };

/**
 * Makes of a rendition what is handed over.
 * @throws where that fails; other formats are not touched by it
 */
export function pack(container: Container, rendition: Rendition, tools: PackingTools): Promise<Packed> {
  return packers[container](rendition, tools);
}

async function packFolder({ files, fonts }: Rendition, { db, memory }: PackingTools): Promise<Packed> {
  const pictures = picturesOf(files);
  const sizes = await sizesOfBlobs(
    db,
    pictures.map(({ file }) => file.digest),
  );
  const all = [
    ...files.map((file) => ({ path: file.path, mediaType: file.mediaType, ...memory.form(file) })),
    ...readFonts(fonts),
    ...pictures.flatMap(({ path, file: { digest, mediaType } }) => {
      const size = sizes.get(digest);
      return size === undefined ? [] : [{ path, mediaType, digest, size, bytes: null }];
    }),
  ];
  return { files: all, pages: null, problems: [] };
}

async function packPdf({ files }: Rendition, tools: PackingTools): Promise<Packed> {
  const texts = files.map(({ path, text }) => ({ path, bytes: Buffer.from(text) }));
  const pictures: { path: string; bytes: Uint8Array }[] = [];
  for (const { path, file } of picturesOf(files)) pictures.push({ path, bytes: await bytesOfPicture(tools.db, file) });
  const { pdf, pages } = await tools.typesetter.typeset({
    files: [...texts, ...pictures],
    standard: null,
    timestamp: Date.parse(`${tools.buildDate}T00:00:00Z`) / 1000,
  });
  return { files: [fileOf(tools.start, 'application/pdf', pdf)], pages, problems: [] };
}

function fileOf(path: string, mediaType: string, bytes: Buffer): DeliverableFile {
  return { path, mediaType, digest: digestOf(bytes), size: bytes.length, bytes };
}

/** The pictures of some files, each once. */
function picturesOf(files: readonly FormatFile[]): readonly Picture[] {
  return [...new Map(files.flatMap(({ pictures }) => pictures).map((picture) => [picture.path, picture])).values()];
}

async function bytesOfPicture(db: Queryable, { digest }: ImageFile): Promise<Buffer> {
  const bytes = await readBlob(db, digest);
  if (!bytes) throw new Error(`The stored bytes ${digest} are gone.`);
  return bytes;
}
