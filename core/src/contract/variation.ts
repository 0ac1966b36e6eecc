import * as z from 'zod';
import type { Axis, AxisValue } from '../model/axis.js';
import { type Stamp, stampPlaces } from '../model/stamp.js';
import { stampAxis } from '../variation/stamps.js';
import type { ListedDesign } from './designs.js';
import { baseSchema, keySchema, type Revised, titleSchema, whenSchema } from './parts.js';

/** The vocabulary of a workspace: axes, profiles and stamps. */

const axisValueSchema: z.ZodType<AxisValue, AxisValue> = z.lazy(() =>
  z.object({
    key: keySchema,
    title: titleSchema,
    code: z.string().trim().min(1, 'A short code is needed.').max(3),
    colour: z.number().int().min(0).max(7),
    pattern: z.number().int().min(0).max(5),
    values: z.array(axisValueSchema).optional(),
  }),
);

export const axisSchema = z
  .object({ key: keySchema, title: titleSchema, values: z.array(axisValueSchema).max(500) })
  .superRefine((axis, context) => {
    const seen = new Set<string>();
    const check = (values: readonly AxisValue[]): void => {
      for (const value of values) {
        if (seen.has(value.key))
          context.addIssue({ code: 'custom', message: `The key “${value.key}” stands twice on this axis.` });
        seen.add(value.key);
        check(value.values ?? []);
      }
    };
    check(axis.values);
  });

const choiceSchema = z.object({
  default: z.enum(['in', 'out']),
  in: z.array(z.string().max(80)).max(500).optional(),
  out: z.array(z.string().max(80)).max(500).optional(),
});

export const profileSchema = z.object({
  key: keySchema,
  title: titleSchema,
  axes: z.record(keySchema, choiceSchema),
});

export type StoredProfile = z.infer<typeof profileSchema>;

export const stampSchema = z.object({
  key: keySchema,
  title: titleSchema,
  on: z.enum(stampPlaces),
  from: keySchema.nullable(),
  when: whenSchema.nullable().superRefine((when, context) => {
    if (when?.includes(stampAxis))
      context.addIssue({ code: 'custom', message: 'A standing condition names axes, not stamps.' });
  }),
}) satisfies z.ZodType<Stamp>;

export const saveAxisSchema = axisSchema.and(baseSchema);

export const saveProfileSchema = profileSchema.extend(baseSchema.shape);

export const saveStampSchema = stampSchema.extend(baseSchema.shape);

/** The vocabulary of a workspace. */
export interface Variation {
  readonly axes: readonly (Axis & Revised)[];
  readonly profiles: readonly (StoredProfile & Revised)[];
  readonly stamps: readonly (Stamp & Revised)[];
  /** Those of the team, and those that come with the application. */
  readonly designs: readonly ListedDesign[];
}

/** How many components bear a stamp. */
export interface StampUse {
  readonly stamp: string;
  readonly components: number;
}
