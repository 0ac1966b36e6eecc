import type { ImageFile } from '../model/component.js';
import { recordingTypes, type Recording } from '../model/recording.js';
import { digestOf } from '../model/digest.js';

/** Names that some disks keep for themselves (Windows: “Naming Files, Paths, and Namespaces”), whatever their ending. */
const reserved = /^(con|prn|aux|nul|com\d|lpt\d|conin\$|conout\$)$/;
const longest = 80;
const entryTail = /^e\d{1,9}(\.e\d{1,9}){0,3}$/;

/**
 * A file name, without ending, for a page's name: the same for the same page, and unlike that of every other, also
 * on disks that do not tell capitals from small letters or one way to write an accent from another. What cannot stand
 * in such a name as it is gets a digest of the whole behind an underscore, which no plain name has.
 * @param name the name of a page: a topic, or a topic and an entry
 * @param taken names that the format uses itself
 */
export function fileNameFor(name: string, taken: ReadonlySet<string>): string {
  const [topic = '', entry] = name.split(' ');
  const plain = slugOf(topic);
  const isPlain =
    plain === topic && plain.length <= longest && plain !== '' && !reserved.test(plain) && !taken.has(plain);
  if (isPlain && entry === undefined) return plain;
  if (isPlain && entry !== undefined && entryTail.test(entry)) return `${plain}_${entry.replaceAll('.', '_')}`;
  const short = plain.slice(0, longest).replace(/^-+|-+$/g, '');
  return `${short === '' ? 'page' : short}_x${digestOf(name).slice(0, 16)}`;
}

function slugOf(text: string): string {
  return text
    .normalize('NFKD')
    .replace(/\p{M}/gu, '')
    .toLowerCase()
    .replace(/[^a-z0-9-]+/g, '-');
}

const endings: Readonly<Record<string, string>> = {
  'image/svg+xml': 'svg',
  'image/png': 'png',
  'image/jpeg': 'jpg',
  'image/gif': 'gif',
  'image/webp': 'webp',
};

/** File name of an image in a deliverable. */
export function imageFileName(file: ImageFile): string {
  return `images/${file.digest.slice(0, 16)}.${endings[file.mediaType] ?? 'bin'}`;
}

const endingOfRecording = new Map(
  Object.entries(recordingTypes)
    .reverse()
    .map(([ending, type]) => [type, ending]),
);

/** File name of a recording in a deliverable. */
export function recordingFileName({ digest, mediaType }: Recording): string {
  return `recordings/${digest.slice(0, 16)}.${endingOfRecording.get(mediaType) ?? 'bin'}`;
}
