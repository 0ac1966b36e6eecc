import { Unzip, UnzipInflate } from 'fflate';

/** What an uploaded archive may hold. */
const archiveLimits = { files: 20_000, bytes: 300 << 20 };

/** So many bytes are handed to the unpacker at a time: it goes one call deeper for each file that begins in them. */
const bytesAtOnce = 1 << 14;

/** Why an archive is refused. */
export class ArchiveFault extends Error {}

/**
 * Unpacks an archive piece by piece. What counts is what really comes out, whatever the archive says of itself. Nothing
 * is written to disk.
 * @param parts the bytes of the archive, in order
 * @returns the files by path
 * @throws ArchiveFault for what is no archive, too large, or has paths that lead out of it
 */
export function unzip(parts: Iterable<Uint8Array>, limits = archiveLimits): ReadonlyMap<string, Uint8Array> {
  const unpacked = new Map<string, Uint8Array>();
  let total = 0;
  let entries = 0;
  const unzipper = new Unzip((file) => {
    entries += 1;
    if (file.name.startsWith('/') || file.name.includes('\\') || file.name.split('/').includes('..'))
      throw new ArchiveFault(`The archive holds a path that leads out of it: “${file.name}”.`);
    if (entries > limits.files) throw new ArchiveFault(`The archive holds more than ${limits.files} files.`);
    if (file.name.endsWith('/')) return;
    const unpackedParts: Uint8Array[] = [];
    file.ondata = (error, part, isLast) => {
      if (error) throw error;
      total += part.length;
      if (total > limits.bytes) throw new ArchiveFault(`The archive unpacks to more than ${limits.bytes >> 20} MB.`);
      unpackedParts.push(part);
      if (isLast) unpacked.set(file.name, Buffer.concat(unpackedParts));
    };
    file.start();
  });
  unzipper.register(UnzipInflate);
  try {
    for (const part of parts)
      for (let at = 0; at < part.length; at += bytesAtOnce) unzipper.push(part.subarray(at, at + bytesAtOnce));
    unzipper.push(new Uint8Array(0), true);
  } catch (error) {
    if (error instanceof ArchiveFault) throw error;
    throw new ArchiveFault('The file is not a ZIP archive that can be read.');
  }
  if (unpacked.size === 0) throw new ArchiveFault('The file is not a ZIP archive that can be read.');
  return unpacked;
}
