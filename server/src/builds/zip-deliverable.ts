import { Readable } from 'node:stream';
import { othersFile } from '@allomorph/core';
import { ZipFile } from 'yazl';
import type { Queryable } from '../db/database.js';
import { readBlobParts } from '../images/blobs.js';
import { othersFileText, type Site } from './other-variants.js';

/** Entries carry one fixed date, in no zone, so that equal deliverables are equal archives. */
export const zipOptions = { mtime: new Date(1980, 0, 1, 0, 0, 0), mode: 0o100_644, forceDosTimestamp: true } as const;

interface StoredFile {
  readonly path: string;
  readonly digest: string;
  readonly size: string;
}

/** @param folder where each format has a folder of its own; null: the files of one format lie at the top */
async function filesOf(
  db: Queryable,
  build: string,
  format: string | null,
  folder = '',
): Promise<readonly StoredFile[]> {
  const { rows } = await db.query<StoredFile>(
    `select $3 || case when $2::text is null then f.format || '/' || f.path else f.path end as path, f.digest, b.size
       from deliverable_files f join blobs b on b.digest = f.digest
      where f.build = $1 and ($2::text is null or f.format = $2) order by 1`,
    [build, format, folder],
  );
  return rows;
}

function addStored(zip: ZipFile, db: Queryable, files: readonly StoredFile[]): void {
  for (const { path, digest, size } of files) {
    const options = { ...zipOptions, size: Number(size) };
    zip.addReadStreamLazy(path, options, (take) => take(null, Readable.from(readBlobParts(db, digest))));
  }
}

function newZip(): ZipFile {
  const zip = new ZipFile();
  zip.on('error', (error) => zip.outputStream.emit('error', error));
  return zip;
}

/**
 * The files of a deliverable as one archive, read and packed while it is sent; undefined where the build made none.
 * @param format the files of one format alone; null: those of all, each format in a folder of its own
 */
export async function zipDeliverable(
  db: Queryable,
  build: string,
  format: string | null,
): Promise<NodeJS.ReadableStream | undefined> {
  const files = await filesOf(db, build, format);
  if (files.length === 0) return undefined;
  const zip = newZip();
  addStored(zip, db, files);
  zip.end();
  return zip.outputStream;
}

/**
 * Several deliverables of a publication as one archive, each in a folder named after its variant. Their sites lead to each other.
 */
export async function zipTogether(db: Queryable, sites: readonly Site[]): Promise<NodeJS.ReadableStream> {
  const folders = foldersFor(sites);
  const folderOf = (site: Site): string => folders.get(site.build) ?? site.build;
  const zip = newZip();
  for (const site of sites) {
    const own = `${folderOf(site)}/`;
    const links = `${own}html/${othersFile}`;
    const files = await filesOf(db, site.build, null, own);
    addStored(
      zip,
      db,
      files.filter(({ path }) => path !== links),
    );
    if (!files.some(({ path }) => path === links)) continue;
    const others = sites.filter((each) => each !== site);
    const text = await othersFileText(
      db,
      site.build,
      others,
      (other) => `../../${encodeURIComponent(folderOf(other))}/html/`,
    );
    zip.addBuffer(Buffer.from(text), links, zipOptions);
  }
  zip.end();
  return zip.outputStream;
}

/** A folder for each variant, by its build: its title, as far as it can stand in the name of a folder, and unlike all others. */
function foldersFor(sites: readonly Site[]): ReadonlyMap<string, string> {
  const taken = new Set<string>();
  return new Map(
    sites.map(({ build, title }) => {
      const plain =
        title
          .replace(/[\\/:*?"<>|\p{Cc}]+/gu, ' ')
          .replace(/\s+/g, ' ')
          .replace(/^[ .]+|[ .]+$/g, '')
          .slice(0, 100) || 'variant';
      let name = plain;
      for (let number = 2; taken.has(name.toLowerCase()); number += 1) name = `${plain} ${number}`;
      taken.add(name.toLowerCase());
      return [build, name];
    }),
  );
}
