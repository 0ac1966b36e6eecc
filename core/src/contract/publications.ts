import * as z from 'zod';
import type { ConditionFinding } from '../reach/condition-findings.js';
import type { CoverageRow } from '../reach/coverage.js';
import type { ImportNote } from '../interchange/import-result.js';
import { entryRoles, type OutlineEntry, type VariableValues } from '../model/publication.js';
import { isFormat } from '../output/format-facts.js';
import { keySchema, type Revised, titleSchema, valuesSchema, whenSchema } from './parts.js';

/** Publications, their outlines and their variants. */

const entrySchema: z.ZodType<OutlineEntry, OutlineEntry> = z.lazy(() =>
  z.object({
    id: z.string().min(1).max(80),
    topic: z.string().max(80).optional(),
    publication: z.string().max(80).optional(),
    link: z.string().max(80).optional(),
    title: z.string().max(300).nullable().optional(),
    when: whenSchema.nullable().optional(),
    role: z.enum(entryRoles).optional(),
    values: valuesSchema.optional(),
    entries: z.array(entrySchema).max(5000).optional(),
  }),
);

export const newPublicationSchema = z.object({
  title: titleSchema,
  /** The publication that it is another outline over; it begins with the entries of that. */
  outlineOf: keySchema.optional(),
});

export const savePublicationSchema = z.object({
  base: z.number().int().positive(),
  title: titleSchema,
  values: valuesSchema,
  entries: z.array(entrySchema).max(5000),
});

/** What somebody tells in the first hour: what differs, what is handed over, and the first topics. */
export const firstHourSchema = z.object({
  axes: z.array(z.object({ title: z.string().trim().max(300), values: z.string().max(20_000) })).max(20),
  documents: z
    .array(
      z.object({
        title: z.string().trim().max(300),
        languages: z.array(z.string().max(35)).max(20),
        formats: z.array(z.string().refine(isFormat, 'There is no such format.')).max(20),
        madeFor: z.record(
          z.string().max(300),
          z.union([z.literal('each'), z.literal('all'), z.array(z.string().max(300)).max(500)]),
        ),
      }),
    )
    .max(20),
  topic: z.object({ title: z.string().trim().max(300), text: z.string().max(20_000) }),
  /** Titles of further topics, which are written later. */
  further: z.array(z.string().trim().min(1).max(300)).max(200),
});

export type FirstHour = z.infer<typeof firstHourSchema>;

/** What was made of it. */
export interface FirstHourMade {
  readonly axes: number;
  readonly profiles: number;
  /** The first topic; null: there is none. */
  readonly topic: string | null;
  readonly topics: number;
  readonly publications: readonly string[];
  /** The variants that are new. */
  readonly variants: readonly string[];
}

export interface PublicationRow {
  readonly key: string;
  readonly title: string;
  readonly revision: number;
  readonly entries: number;
  readonly variants: number;
  /** The publication that it is another outline over. */
  readonly outlineOf: string | null;
}

export interface StoredPublication {
  readonly key: string;
  readonly title: string;
  readonly revision: number;
  readonly values: VariableValues;
  readonly entries: readonly OutlineEntry[];
  /**
   * The publication that it is another outline over: deliverables have the title of that, and its values where this one says no
   * other. Its own title tells it from others in lists.
   */
  readonly outlineOf?: string;
}

/** From which problems on a build of a variant makes nothing. */
export const stopLevels = ['never', 'errors', 'warnings'] as const;

export type StopLevel = (typeof stopLevels)[number];

export const variantSchema = z.object({
  title: titleSchema,
  profile: keySchema,
  values: valuesSchema,
  language: z
    .string()
    .max(35)
    .regex(/^[A-Za-z]{2,8}(-[A-Za-z0-9]{1,8})*$/, 'A language tag such as “en” or “de-AT” is needed.'),
  design: keySchema,
  formats: z.array(z.string().refine(isFormat, 'There is no such format.')).min(1).max(20),
  leaveOutEmpty: z.boolean(),
  stopsAt: z.enum(stopLevels).default('never'),
});

export type VariantRecipe = z.infer<typeof variantSchema>;

export const saveVariantSchema = variantSchema.extend({ base: z.number().int().positive() });

/** What the recipe of a new variant begins with. */
export const newRecipe = {
  values: {},
  language: 'en',
  design: 'plain',
  formats: ['html'],
  leaveOutEmpty: true,
  stopsAt: 'never',
} satisfies Omit<VariantRecipe, 'title' | 'profile'>;

export interface StoredVariant extends VariantRecipe, Revised {
  readonly id: string;
  readonly publication: string;
}

/** Where a cross-reference stands, and where it leads. */
export const referencePlaceSchema = z.object({
  from: keySchema,
  to: keySchema,
  block: z.string().max(200).optional(),
});

/** What each variant of a publication has of each entry, and what is to be said of the conditions. */
export interface PublicationCoverage {
  /** The ids of the variants, in the order of the cells. */
  readonly variants: readonly string[];
  readonly rows: readonly CoverageRow[];
  readonly findings: readonly ConditionFinding[];
  /** The conditions that topics of the outline bear wherever they stand, by their keys. */
  readonly ownConditions: Readonly<Record<string, string>>;
}

/** What comes with the archive of a book. */
export const importDocbookSchema = z.object({
  title: z.string().trim().min(1, 'The publication needs a title.').max(300),
  /** The book's file inside the archive; found by its root element where it is not given. */
  main: z.string().max(500).default(''),
  profiles: z.string().max(5_000_000).default(''),
});

/** What an import brought into the library. */
export interface ImportSummary {
  readonly publication: string;
  readonly topics: number;
  readonly snippets: number;
  readonly variables: number;
  readonly images: number;
  readonly axes: number;
  readonly variants: readonly string[];
  readonly notes: readonly ImportNote[];
}
