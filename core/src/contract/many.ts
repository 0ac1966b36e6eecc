import * as z from 'zod';
import type { ComponentKind } from '../model/component.js';
import { collectionSchema, keySchema, labelSchema, whenSchema } from './parts.js';
import { labelsSchema } from './components.js';

/** What is done with many components at once, and how it is taken back. */

/** One act on many components of the library. */
export const actOnManySchema = z.object({
  keys: z.array(keySchema).min(1).max(500),
  act: z.discriminatedUnion('kind', [
    z.object({ kind: z.literal('collection'), collection: collectionSchema.nullable() }),
    z.object({ kind: z.literal('tag'), tag: labelSchema, value: labelSchema, on: z.boolean() }),
    /** The own condition of topics and snippets; null: none. */
    z.object({ kind: z.literal('limit'), when: whenSchema.nullable() }),
    z.object({ kind: z.literal('archive'), on: z.boolean() }),
    z.object({ kind: z.literal('delete') }),
  ]),
});

export type ActOnMany = z.infer<typeof actOnManySchema>;

/** Words that are looked for in what components say themselves. */
const textSearch = {
  find: z.string().min(1).max(200),
  matchesCase: z.boolean(),
  wholeWords: z.boolean(),
};

const yesOrNo = z.enum(['yes', 'no']).default('no');

export const passagesSchema = z.object({ find: textSearch.find, matchesCase: yesOrNo, wholeWords: yesOrNo });

/** A place where words stand, with what stands around them in their line. */
export interface FoundPassage {
  /** The block that it stands in; null: it has no name. */
  readonly block: string | null;
  /** Of a variable: the case that says it, from 1; 0: its default. Null: it is no variable. */
  readonly ofCase: number | null;
  readonly before: string;
  readonly found: string;
  readonly after: string;
}

export interface ComponentPassages {
  readonly key: string;
  readonly kind: ComponentKind;
  readonly title: string;
  readonly revision: number;
  readonly passages: readonly FoundPassage[];
}

export interface PassageList {
  readonly items: readonly ComponentPassages[];
  /** Whether there are more than are listed. */
  readonly more: boolean;
}

/** Puts other words, or a variable, in places that were found. */
export const replaceTextSchema = z.object({
  ...textSearch,
  becomes: z.union([z.object({ text: z.string().max(1000) }), z.object({ variable: keySchema })]),
  components: z
    .array(
      z.object({
        key: keySchema,
        /** The one in which the places were found. */
        revision: z.number().int().positive(),
        /** Which of the places, in their order, from 0. */
        places: z.array(z.number().int().nonnegative()).min(1).max(1000),
      }),
    )
    .min(1)
    .max(500),
});

export type ReplaceText = z.infer<typeof replaceTextSchema>;

/** A component that was changed: the revisions before and after. */
export const changedComponentSchema = z.object({
  key: keySchema,
  before: z.number().int().positive(),
  after: z.number().int().positive(),
});

export type ChangedComponent = z.infer<typeof changedComponentSchema>;

/** How what was done with one component among many is taken back, as long as nobody changed it since. */
export const stepBackSchema = z.discriminatedUnion('kind', [
  z.object({ kind: z.literal('labels'), key: keySchema, was: labelsSchema, is: labelsSchema }),
  changedComponentSchema.extend({ kind: z.literal('revision') }),
  z.object({ kind: z.literal('archive'), key: keySchema, on: z.boolean() }),
  z.object({ kind: z.literal('restore'), key: keySchema }),
  z.object({ kind: z.literal('delete'), key: keySchema }),
]);

export type StepBack = z.infer<typeof stepBackSchema>;

export const stepsBackSchema = z.object({ steps: z.array(stepBackSchema).min(1).max(500) });

/** What was done with many components. */
export interface ManyDone {
  readonly done: readonly string[];
  readonly refused: readonly { readonly key: string; readonly why: string }[];
  /** What takes back what was changed, in one act. */
  readonly back: readonly StepBack[];
}

export const takeBackSchema = z.object({ components: z.array(changedComponentSchema).min(1).max(500) });

/** A component that holds another one at a revision before the newest. */
export interface HolderRow {
  readonly key: string;
  readonly kind: ComponentKind;
  readonly title: string;
  readonly revision: number;
  /** In how many places. */
  readonly places: number;
}

/** The components in which what they hold is brought up to date, as they were looked at. */
export const bringUpSchema = z.object({
  holders: z
    .array(z.object({ key: keySchema, revision: z.number().int().positive() }))
    .min(1)
    .max(500),
});

export interface ReplacedText {
  readonly changed: readonly ChangedComponent[];
  readonly refused: ManyDone['refused'];
}
