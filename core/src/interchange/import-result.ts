import type { Component } from '../model/component.js';
import type { StoredDesign } from '../design/resolve.js';
import type { Publication, VariableValues } from '../model/publication.js';
import type { Profile } from '../model/profile.js';

/** What an import can have to say, and how it is told of many places at once. */
export const importNoteKinds = {
  'unknown element': 'Elements that are not known here: their text was kept',
  'lost reference': 'References that lead nowhere in the source',
  'repeated id': 'Ids that are used more than once',
  'missing file': 'Files that are missing or cannot be read: what they hold was left out',
  'unknown entity': 'Entities that are not declared: their names were kept',
  'resolved reuse': 'Reuse that has no place here: put in where it was referred to',
  'other structure': 'What stands in another structure than in the source',
  'text instead': 'Pictures and formulas for which their text stands',
  'left out': 'What a book does not print: left out',
} as const;
export type ImportNoteKind = keyof typeof importNoteKinds;

/** The most notes that one import keeps. */
export const mostImportNotes = 10_000;

/** Something that an import could not take over as it was; its text is kept where the kind does not say otherwise. */
export interface ImportNote {
  readonly kind: ImportNoteKind;
  readonly message: string;
  readonly file: string;
  /** Counted from 1. */
  readonly line: number;
}

/** Notes by kind, the most frequent kind first. */
export function groupImportNotes(
  notes: readonly ImportNote[],
): readonly { readonly kind: ImportNoteKind; readonly notes: readonly ImportNote[] }[] {
  const groups = new Map<ImportNoteKind, ImportNote[]>();
  for (const note of notes) {
    const known = groups.get(note.kind);
    if (known) known.push(note);
    else groups.set(note.kind, [note]);
  }
  return [...groups].map(([kind, of]) => ({ kind, notes: of })).sort((a, b) => b.notes.length - a.notes.length);
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
  readonly design: StoredDesign;
}
