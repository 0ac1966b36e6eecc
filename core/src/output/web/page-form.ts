import type { ImageFile } from '../../model/component.js';
import type { Recording } from '../../model/recording.js';
import type { AssembledNode } from '../../model/node.js';
import { imageFileName, recordingFileName } from '../file-names.js';
import type { Capabilities } from '../format.js';
import type { Attributes } from '../markup.js';
import { addressOf } from './addresses.js';
import { capabilities } from './capabilities.js';

/** A page, or a place on it. */
export interface PagePlace {
  readonly page: string;
  readonly anchor: string | null;
}

/** What differs between the formats whose pages are HTML: where things are found, and what is said of them besides. */
export interface PageForm {
  readonly capabilities: Capabilities;
  /** The address of a page or of a place on it, as links have it. */
  address(place: PagePlace): string;
  /** Where a picture is found. */
  picture(file: ImageFile): string;
  /** Where a recording that is handed over is found. */
  recording(file: Recording): string;
  /** The id of an occurrence on a page. */
  id(page: string, anchor: string): string;
  /** The level of headings of pages at a depth, from 1. */
  level(depth: number): number;
  /** What is said of each block besides, by the place where it stands; formats for readers say nothing. */
  readonly tell?: (node: AssembledNode, placements: readonly string[]) => Attributes;
  /** Said of the call of a footnote, and of the footnote. */
  readonly noteCall?: Attributes;
  readonly note?: Attributes;
  /** Said of what may be wider than its place, so that the keyboard comes to it; sites have a script for that. */
  readonly wide?: Attributes;
}

/** A site: each page is a file. */
export const siteForm: PageForm = {
  capabilities,
  address: addressOf,
  picture: imageFileName,
  recording: recordingFileName,
  id: (_page, anchor) => anchor,
  level: () => 1,
};
