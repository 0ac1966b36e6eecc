import type { ImageFile } from '../model/component.js';
import type { Recording } from '../model/recording.js';
import type { NumberedPublication } from '../number/numbered.js';
import type { FormatFacts } from './format-facts.js';

/** What a format can do. The rest of the engine asks for this, never for a format's name. */
export interface Capabilities {
  /** Whether it has pages with numbers, to which references can lead. */
  readonly pageNumbers: boolean;
  /** Whether all candidates of a slot can stand in it, one of which is shown; otherwise the stated one stands. */
  readonly allCandidates: boolean;
  /** Whether it plays recordings from elsewhere; otherwise it says where they are found. */
  readonly playsRecordings: boolean;
  /** Whether the file of a recording is handed over and played with it. */
  readonly carriesRecording: (mediaType: string) => boolean;
  /** Whether it lies in a folder with other files, so that relative addresses can lead somewhere. */
  readonly relativeAddresses: boolean;
  /** Whether it looks as a design says, in fonts that come with it. */
  readonly hasLooks: boolean;
}

/** One file that a format made of a publication. */
export interface FormatFile {
  readonly path: string;
  readonly mediaType: string;
  readonly text: string;
  /** Whether it says nothing but what follows from the other files: it is the same where these are, and made when it is read. */
  readonly isDerived?: true;
  /** The pictures that it shows. */
  readonly pictures: readonly Picture[];
  /** The recordings that it plays. */
  readonly recordings?: readonly CarriedRecording[];
}

/** A picture under the path that the files of a format use. */
export interface Picture {
  readonly path: string;
  readonly file: ImageFile;
}

/** A recording under the path that the files of a format use. */
export interface CarriedRecording {
  readonly path: string;
  readonly file: Recording;
}

/** A font under the path that the files of a format use: one that comes with the application, or an uploaded one. */
export type FontFile = { readonly path: string } & (
  { readonly font: string } | { readonly file: { readonly digest: string; readonly mediaType: string } }
);

/** What a format made of a publication. */
export interface Rendition {
  readonly files: readonly FormatFile[];
  readonly fonts: readonly FontFile[];
  /** The path of the script that the files are read with, where they need one: the same for every publication. */
  readonly script?: string;
  /** What a document that is made of the files claims to keep, such as `ua-1`. */
  readonly standard?: string;
}

/** A format: a guest of the engine, which knows it only through this. */
export interface Format extends FormatFacts {
  readonly capabilities: Capabilities;
  /** Grows when the same publication comes out otherwise than before: what was built before is stale then. */
  readonly version: number;
  /**
   * Makes the files of a publication. Files that come out the same as in an earlier call may be the very same
   * objects.
   */
  render(publication: NumberedPublication): Rendition;
}
