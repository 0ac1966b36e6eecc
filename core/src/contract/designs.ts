import * as z from 'zod';
import { faultsOf, type StoredDesign } from '../design/resolve.js';
import { keySchema, type Revised } from './parts.js';

/** What crosses HTTP of designs and their fonts. */

const settingValueSchema = z.union([z.string(), z.number(), z.boolean(), z.array(z.string()).max(20).readonly()]);

const settingsSchema = z.record(z.string().max(120), settingValueSchema).superRefine((own, context) => {
  for (const message of faultsOf(own)) context.addIssue({ code: 'custom', message });
});

export const designSchema = z.object({
  key: keySchema,
  title: z.string().trim().min(1, 'A title is needed.').max(300),
  from: keySchema.nullable(),
  settings: settingsSchema,
});

/** @member base the revision that was changed; 0: there is none yet */
export const saveDesignSchema = designSchema.extend({ base: z.number().int().min(0) });

/** A design as the interface has it. */
export interface ListedDesign extends StoredDesign, Revised {
  /** Whether it comes with the application and cannot be changed. */
  readonly isShipped: boolean;
}

/** The first line of a file that holds a design. */
export const designFileFormat = 'allomorph-design';

/** A design as a file: with what it takes from others said in it, so that it reads the same elsewhere. */
export const designFileSchema = z.object({
  format: z.literal(designFileFormat),
  version: z.literal(1),
  title: z.string().trim().min(1).max(300),
  settings: settingsSchema,
});
export type DesignFile = z.infer<typeof designFileSchema>;

export const previewSchema = z.object({
  design: designSchema,
  /** The variant that is shown in it. */
  variant: z.uuid(),
  medium: z.enum(['web', 'paper']),
  /** Which of the first pages of a site is shown. */
  at: z.number().int().min(0).max(50).default(0),
});
export type PreviewOrder = z.infer<typeof previewSchema>;

/** What a design would look like. */
export interface Preview {
  /** Where it is shown. */
  readonly address: string;
  /** The titles of the first pages, the start page first; only of sites. */
  readonly pages: readonly string[];
  /** What of the design could not be shown, sentence by sentence. */
  readonly problems: readonly string[];
}

export const newFontSchema = z.object({
  title: z.string().trim().max(300).default(''),
  /** The key of a family that the file belongs to; empty: a new one. */
  key: z.string().max(80).default(''),
  licence: z.string().trim().min(1, 'A note on the licence is needed.').max(1000),
});

/** An uploaded family of fonts. */
export interface FontRow {
  readonly key: string;
  readonly title: string;
  readonly licence: string;
  readonly name: string;
  readonly faces: readonly {
    readonly digest: string;
    readonly mediaType: string;
    readonly weight: number;
    readonly isItalic: boolean;
  }[];
}
