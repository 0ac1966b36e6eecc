import * as z from 'zod';
import type { LeftOutOutline, Origin, OriginEntry } from '../origin/origin.js';

/** What is asked of a page of a build. */
export const originOrderSchema = z.object({
  /** The entry whose page is shown; null: the first one. */
  entry: z.string().max(2000).nullable(),
  /** Whether what the variant leaves out is shown in its place. */
  leftOut: z.boolean(),
  /** Whether the pages of the build are listed, too. */
  outline: z.boolean(),
});
export type OriginOrder = z.infer<typeof originOrderSchema>;

/** A page of a build that can be asked where its passages come from. */
export interface OriginPageRow {
  readonly entry: string;
  /** The file that links of other pages lead to. */
  readonly file: string;
  /** Its number and title. */
  readonly title: string;
  readonly depth: number;
}

export interface OriginAnswer {
  /** Where the page is shown. */
  readonly address: string;
  readonly entry: string;
  /** The entries from the top of the outline down to the page. */
  readonly way: readonly OriginEntry[];
  /** By the names of passages; that of the page itself by the empty name. */
  readonly origins: Readonly<Record<string, Origin>>;
  /** Null where it was not asked for. */
  readonly outline: {
    readonly pages: readonly OriginPageRow[];
    /** At most `limits.leftOutEntries` of them. */
    readonly leftOut: readonly LeftOutOutline[];
  } | null;
}
