import * as z from 'zod';
import type { componentKinds } from '../model/component.js';
import { type Component } from '../model/component.js';
import { referenceKinds } from '../model/references.js';
import type { Span } from '../search/passage.js';
import {
  bodySchema,
  collectionSchema,
  componentKindSchema,
  countSchema,
  keySchema,
  labelSchema,
  titleSchema,
} from './parts.js';

/** Components of the library, their labels, and where they are used. */

export const labelsSchema = z.object({
  collection: collectionSchema.nullable(),
  tags: z.record(labelSchema, z.array(labelSchema).max(50)),
});

/** A collection, by its way from the top, and how many components are in it itself. */
export interface KnownCollection {
  readonly name: string;
  readonly count: number;
}

/** A collection gets another name, or another place in the tree, with all that is in it and below. */
export const renameCollectionSchema = z.object({ from: collectionSchema, to: collectionSchema });

export type RenameCollection = z.infer<typeof renameCollectionSchema>;

/** The collections and tags in use, to choose from. */
export interface KnownLabels {
  readonly collections: readonly KnownCollection[];
  readonly tags: readonly { readonly tag: string; readonly value: string }[];
  /** Who changed components last. */
  readonly people: readonly { readonly id: string; readonly name: string }[];
}

export const newComponentSchema = z.object({
  kind: componentKindSchema,
  title: titleSchema,
  key: keySchema.optional(),
  body: bodySchema,
  labels: labelsSchema.optional(),
});

export const saveComponentSchema = z.object({
  /** The revision that was edited; a newer one in the library refuses the save. */
  base: z.number().int().positive(),
  title: titleSchema,
  body: bodySchema,
});

export type SaveComponent = z.infer<typeof saveComponentSchema>;

/** A component gets another key, with everything that refers to it. */
export const changeKeySchema = z.object({
  /** The revision that was looked at; a newer one in the library refuses it. */
  base: z.number().int().positive(),
  to: keySchema,
});

export type ChangeKey = z.infer<typeof changeKeySchema>;

export interface KeyChanged {
  readonly component: Component;
  /** How many components, publications, designs and variants refer to it by the new key now. */
  readonly rewritten: number;
}

export type NewComponent = z.infer<typeof newComponentSchema>;

/** What comes with the file of an image. */
export const newImageSchema = z.object({
  title: z.string().trim().max(300).default(''),
  alt: z.string().max(2000).default(''),
  /** Whether an image that has the same file already is taken instead of a new one. */
  once: z.enum(['yes', 'no']).default('no'),
});

/** What comes with a file that takes the place of an image's. */
export const replaceFileSchema = z.object({
  /** The revision that was edited; a newer one in the library refuses the file. */
  base: z.coerce.number<number | string>().int().positive(),
});

export const archivedFilters = ['no', 'only', 'too'] as const;

export const usageFilters = ['any', 'unused', 'once', 'often'] as const;

export const componentListSchema = z.object({
  find: z.string().max(200).default(''),
  kind: componentKindSchema.optional(),
  /** Only what is in this collection or in one below it. */
  collection: collectionSchema.optional(),
  /** What is archived is only listed where it is asked for. */
  archived: z.enum(archivedFilters).default('no'),
  /** Only what bears this stamp. */
  stamp: keySchema.optional(),
  /** Only what bears this tag: “tag=value”. */
  tag: z.string().max(161).optional(),
  /** Only what has content limited to a value: “axis=value”. */
  value: z.string().max(161).optional(),
  /** Only what this person changed last. */
  by: z.uuid().optional(),
  /** Only what was changed in the last days. */
  days: z.coerce.number<number | string>().int().min(1).max(3650).optional(),
  usage: z.enum(usageFilters).default('any'),
  offset: countSchema.default(0),
  limit: z.coerce.number<number | string>().int().min(1).max(500).default(100),
});

export interface ComponentRow {
  readonly key: string;
  readonly kind: (typeof componentKinds)[number];
  readonly title: string;
  readonly revision: number;
  readonly uses: number;
  /** The text forms of the conditions that stand in it, distinct. */
  readonly conditions: readonly string[];
  /** The beginning of its text, or the passage that has what was looked for; what it uses stands in it as it reads. */
  readonly excerpt: string;
  /** What of the title and of the excerpt was looked for. */
  readonly titleMarks: readonly Span[];
  readonly excerptMarks: readonly Span[];
  /** The component that it places or uses and that says what was looked for, where it does not do so itself. */
  readonly through: string | null;
  readonly changedBy: string;
  readonly changedAt: string;
  readonly archived: boolean;
}

export interface ComponentList {
  readonly total: number;
  readonly items: readonly ComponentRow[];
  /** Words that are nowhere in the library, each with the words near it that were looked for instead; none: it was passed over. */
  readonly mended: readonly { readonly word: string; readonly as: readonly string[] }[];
}

/** What a person looks for often: the library's address, from the question mark on, under a name. */
export const savedSearchSchema = z.object({
  name: z.string().trim().min(1, 'A name is needed.').max(80),
  query: z.string().max(1000),
});

export type SavedSearch = z.infer<typeof savedSearchSchema>;

export interface Use {
  readonly sourceKind: 'component' | 'publication' | 'design';
  readonly source: string;
  readonly title: string;
  /** The kind of the source component; null for publications. */
  readonly componentKind: (typeof componentKinds)[number] | null;
  readonly kind: (typeof referenceKinds)[number];
  readonly place: string | null;
  readonly held: number | null;
  /** The components on the way, nearest to the used one first; empty for a direct use. */
  readonly through: readonly { readonly key: string; readonly title: string }[];
}

export const usesListSchema = z.object({
  /** Only uses in what has this in its title. */
  find: z.string().max(200).default(''),
  kind: z.enum(referenceKinds).optional(),
  /** How many of each list to pass over: direct ones, and those through others. */
  direct: countSchema.default(0),
  further: countSchema.default(0),
  order: z.enum(['nearest', 'title', 'kind']).default('nearest'),
});

/** Where a component is used: all that fit counted, a page of them told. */
export interface Uses {
  readonly direct: readonly Use[];
  readonly directTotal: number;
  /** Through other components, nearest first. */
  readonly further: readonly Use[];
  readonly furtherTotal: number;
}

/** A component and everything it refers to, as far as it goes: what it takes to show it. */
export interface ComponentClosure {
  readonly component: Component;
  /** Whether it is offered nowhere any more. */
  readonly archived?: boolean;
  readonly components: readonly Component[];
  /** Older revisions that held placements stay at. */
  readonly held: readonly Component[];
}

export const placesSchema = z.object({ find: z.string().max(200) });

/** What a cross-reference can lead to inside a component: a section, figure, table, example or step. */
export interface PlaceRow {
  readonly component: string;
  readonly componentTitle: string;
  readonly id: string;
  readonly kind: string;
  /** A step's are its first words. */
  readonly title: string;
}

/** What stands in a line up to where it is written. */
export const writtenLineSchema = z.object({ line: z.string().min(1).max(1000) });

/** A component that says what was just written. */
export interface WrittenOffer {
  readonly key: string;
  readonly kind: 'variable' | 'snippet';
  readonly title: string;
  /** What it would come in the place of: the last words of the line, or the whole line. */
  readonly words: string;
  readonly covers: 'words' | 'line';
}

export const titlesSchema = z.object({ keys: z.array(z.string().max(80)).max(10_000) });

/** All variables, with what their values hold. */
export interface VariableList {
  readonly variables: readonly { readonly component: Component; readonly uses: number }[];
  readonly components: readonly Component[];
}

export interface RevisionRow {
  readonly revision: number;
  readonly title: string;
  readonly savedBy: string;
  readonly savedAt: string;
}
