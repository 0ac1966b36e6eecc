import type { Component } from '../model/component.js';
import type { Design } from '../number/design.js';
import type { Publication, VariableValues } from '../model/publication.js';
import type { Profile } from '../model/profile.js';

/** Something that an import could not take over as it was; its text is kept. */
export interface ImportNote {
  readonly message: string;
  readonly file: string;
  /** Counted from 1. */
  readonly line: number;
}

/** Why a whole import was refused: nothing of it is to be kept. */
export class ImportFault extends Error {
  constructor(
    message: string,
    readonly file: string,
    readonly line: number,
  ) {
    super(`${file}, line ${line}: ${message}`);
    this.name = 'ImportFault';
  }
}

/** An image that an import refers to; the caller reads the file and gives it its digest. */
export interface ImportedImage {
  readonly key: string;
  readonly title: string;
  readonly alt: string;
  readonly path: string;
}

export interface ImportedProfile {
  readonly title: string;
  readonly profile: Profile;
  readonly values: VariableValues;
}

/** What an importer made of its source. Keys are already free of those the library had taken. */
export interface ImportResult {
  readonly publication: Publication;
  readonly components: readonly Component[];
  readonly images: readonly ImportedImage[];
  /** The axes and values that conditions name, in the order of their first use. */
  readonly axes: readonly { readonly key: string; readonly values: readonly string[] }[];
  readonly profiles: readonly ImportedProfile[];
  readonly notes: readonly ImportNote[];
  /** How the book numbers and lists what is in it. */
  readonly design: Design;
}
