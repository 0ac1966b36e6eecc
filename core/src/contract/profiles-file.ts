import * as z from 'zod';

const values = z.record(z.string(), z.array(z.string()));

/** The file that names the profiles of an import: which values are in or out, and the variables that differ. */
export const profilesFileSchema = z.object({
  axes: z.record(z.string(), z.object({ default: z.enum(['in', 'out']) })),
  profiles: z.array(
    z.object({
      profile: z.string().min(1),
      in: values.optional(),
      out: values.optional(),
      variables: z.record(z.string(), z.string()).optional(),
    }),
  ),
});
export type ProfilesFile = z.infer<typeof profilesFileSchema>;
