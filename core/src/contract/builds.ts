import * as z from 'zod';
import type { EntryChange } from '../compare/compare.js';
import type { StaleCause } from '../reach/freshness.js';
import type { AlteredTopic } from '../reach/reach.js';
import { problemCodes } from '../model/problem.js';
import { countSchema } from './parts.js';

/** Builds and their deliverables: how they are made, kept, compared, and which are stale. */

export const buildStates = ['queued', 'running', 'done', 'failed', 'broken off'] as const;

export type BuildState = (typeof buildStates)[number];

export const startBuildsSchema = z.object({ variants: z.array(z.uuid()).min(1).max(500) });

export const storedProblemSchema = z.object({
  severity: z.enum(['error', 'warning']),
  code: z.enum(problemCodes),
  message: z.string(),
  place: z.object({ component: z.string().nullable(), block: z.string().nullable(), entry: z.string().nullable() }),
});

export interface BuildRow {
  readonly id: string;
  readonly variant: string;
  readonly variantTitle: string;
  readonly publication: string;
  readonly publicationTitle: string;
  readonly state: BuildState;
  readonly stage: string;
  /** Share of the work done, 0 to 1. */
  readonly progress: number;
  readonly startedBy: string;
  readonly queuedAt: string;
  readonly endedAt: string | null;
  readonly pages: number;
  readonly bytes: number;
  readonly digest: string | null;
  readonly errors: number;
  readonly warnings: number;
  readonly message: string | null;
  /** In the order of the recipe; empty until it is done. */
  readonly formats: readonly BuiltFormat[];
  /** Null: it was not handed over. */
  readonly shipped: Shipped | null;
  /** Whether its files are still there. */
  readonly hasFiles: boolean;
}

/** That a deliverable was handed over: it is kept for good. */
export interface Shipped {
  readonly version: string;
  readonly note: string;
  readonly by: string;
  readonly at: string;
}

export const shipSchema = z.object({
  version: z.string().trim().min(1, 'A version is needed.').max(100),
  note: z.string().trim().max(2000).default(''),
});

export const saveStorageSchema = z.object({ kept: z.number().int().min(1).max(1000) });

/** What deliverables take. */
export interface Storage {
  /** How many deliverables of each variant are kept, besides those that were shipped. */
  readonly kept: number;
  /** How many are there now. */
  readonly deliverables: number;
  readonly bytes: number;
  readonly shippedBytes: number;
}

/** What a build made of one format. */
export interface BuiltFormat {
  readonly format: string;
  readonly state: 'done' | 'failed';
  readonly bytes: number;
  /** Of paper; null for formats without. */
  readonly pages: number | null;
  /** Null for builds of before formats were timed. */
  readonly milliseconds: number | null;
  /** Whether it is more than one file. */
  readonly hasSeveralFiles: boolean;
  readonly message: string | null;
}

export const buildListSchema = z.object({
  /** Only builds of variants or publications that have this in their title. */
  find: z.string().max(200).default(''),
  state: z.enum(buildStates).optional(),
  publication: z.string().max(80).optional(),
  /** Only what was handed over. */
  shipped: z.enum(['yes']).optional(),
  order: z.enum(['newest', 'variant', 'problems']).default('newest'),
  offset: countSchema.default(0),
  limit: z.coerce.number<number | string>().int().min(1).max(500).default(100),
});

export interface BuildList {
  readonly total: number;
  readonly items: readonly BuildRow[];
}

export interface BuildDetail extends BuildRow {
  readonly problems: readonly z.infer<typeof storedProblemSchema>[];
  /** Whether it can be made again from its record. */
  readonly canBeMadeAgain: boolean;
  /** The build from whose record it was made, and whether it came out the same, byte for byte; null: from the library. */
  readonly again: { readonly of: string; readonly isSame: boolean } | null;
  readonly recipe: {
    readonly profile: string;
    readonly design: string;
    readonly language: string;
    readonly formats: readonly string[];
  };
}

/** Whether the last deliverable of a variant is what building it now would give. */
export interface VariantFreshness {
  readonly variant: string;
  readonly title: string;
  readonly publication: string;
  readonly publicationTitle: string;
  /** The last build that made a deliverable; null: there is none. */
  readonly build: string | null;
  readonly builtAt: string | null;
  readonly state: 'fresh' | 'stale' | 'no deliverable';
  readonly causes: readonly NamedCause[];
  /** What that build made, format by format. */
  readonly formats: readonly BuiltFormat[];
  /** Those of its formats that would come out differently, or were not made by that build. */
  readonly staleFormats: readonly string[];
}

/** Why a deliverable is stale, with the title of the component, where it is one. */
export type NamedCause = StaleCause & { readonly title: string };

/** The variants that a change of a component would alter, and how: equal changes together. */
export interface ReachReport {
  /** How many variants there are to look at. */
  readonly variants: number;
  readonly groups: readonly {
    readonly variants: readonly { readonly id: string; readonly title: string; readonly publicationTitle: string }[];
    readonly topics: readonly AlteredTopic[];
  }[];
}

export const deliverableZipSchema = z.object({
  /** Only the files of this format; without it those of all. */
  format: z.string().min(1).max(40).optional(),
});

/** Two variants, or what a build was made of and a variant as it is now. */
export const compareSchema = z.object({ before: z.uuid().optional(), build: z.uuid().optional(), after: z.uuid() });

/** Two variants side by side, entry by entry. Entries that are the same carry no passages. */
export interface Comparison {
  readonly entries: readonly EntryChange[];
}
