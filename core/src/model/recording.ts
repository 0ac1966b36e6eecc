/** A file of film or sound; the digest names its bytes in the store. */
export interface Recording {
  readonly digest: string;
  readonly mediaType: string;
  /** What the file was called when it was taken in. */
  readonly name: string;
}

/** The kinds of files that are taken in: those that browsers play, by the ending that is usual for them. */
export const recordingTypes: Readonly<Record<string, string>> = {
  mp4: 'video/mp4',
  m4v: 'video/mp4',
  webm: 'video/webm',
  ogv: 'video/ogg',
  mp3: 'audio/mpeg',
  m4a: 'audio/mp4',
  aac: 'audio/aac',
  ogg: 'audio/ogg',
  oga: 'audio/ogg',
  opus: 'audio/ogg',
  wav: 'audio/wav',
  flac: 'audio/flac',
};

/** The stored file that a `media` block plays; null where it only has an address, or nothing yet. */
export function recordingOf(node: {
  readonly attrs?: Readonly<Record<string, unknown>> | undefined;
}): Recording | null {
  const { recording, mediaType, name } = node.attrs ?? {};
  if (typeof recording !== 'string' || recording === '' || typeof mediaType !== 'string') return null;
  return { digest: recording, mediaType, name: typeof name === 'string' ? name : '' };
}
