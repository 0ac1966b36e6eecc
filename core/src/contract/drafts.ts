import * as z from 'zod';

/** What crosses HTTP about drafts: what a person has written in a window and not saved. */

/** Names what is being written, among all that the person can change. */
const thingSchema = z.string().min(1).max(200);
const windowSchema = z.string().min(1).max(80);

export const draftsOfSchema = z.object({ thing: thingSchema });
export const draftNameSchema = z.object({ thing: thingSchema, window: windowSchema });
export const keepDraftSchema = draftNameSchema.extend({
  /** The draft as JSON, which nobody but its window reads. */
  draft: z
    .string()
    .min(2)
    .max(6 << 20),
});

/** What was written in one window. */
export interface KeptDraft {
  readonly window: string;
  readonly draft: string;
  readonly at: string;
}
