import * as z from 'zod';
import { keySchema } from './parts.js';

/** The keys of all axes in the order in which they are to stand. */
export const orderAxesSchema = z.object({ keys: z.array(keySchema).max(500) });

/** A value, and the one of the same axis that is to stand for it; without one it is retired. */
export const givenUpSchema = z.object({ value: keySchema, into: keySchema.optional() });
export const giveUpSchema = givenUpSchema.extend({
  /** How many passages were shown that go with it: where there are others by now, nothing is done. */
  lost: z.number().int().min(0),
});

/** In how many components conditions name a value. */
export interface ValueUse {
  readonly axis: string;
  readonly value: string;
  readonly components: number;
}

/** Where something of the vocabulary is named. */
export interface NamingPlace {
  readonly kind: 'component' | 'publication' | 'variant' | 'stamp';
  /** Of variants: their id. */
  readonly key: string;
  readonly title: string;
}

/** What giving a value up would do. */
export interface ValueGivenUp {
  /** What names it, with the number of conditions there. */
  readonly named: readonly (NamingPlace & { readonly conditions: number })[];
  /** The titles of profiles in which the value is in and the other one out, or the other way round. */
  readonly differing: readonly { readonly title: string; readonly isIn: boolean }[];
  /** What is only for it and goes with it; at most 200 are listed. */
  readonly lost: readonly (NamingPlace & { readonly place: string | null; readonly text: string })[];
  readonly lostCount: number;
  /** What is wholly for it, and has to be deleted or changed before. */
  readonly blocked: readonly NamingPlace[];
  /** How many placements hold an earlier revision of what names it. */
  readonly held: number;
}

/** Something that was done to the vocabulary with everything that names it. */
export interface VocabularyAct {
  readonly id: string;
  readonly what: string;
  readonly by: string;
  readonly doneAt: string;
  readonly takenBack: boolean;
}

/** What of an act was not taken back, as it was changed since. */
export interface TakenBack {
  readonly refused: readonly { readonly title: string; readonly why: string }[];
}
