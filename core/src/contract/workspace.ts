import * as z from 'zod';
import { checkKinds, type CheckSettings } from '../checks/checks.js';
import type { Revised } from './parts.js';
import { buildStates } from './builds.js';

/** What concerns a workspace as a whole: its checks, its bin, and what its open pages are told. */

/** What a team wants to be told of when something is saved. */
export const saveChecksSchema = z.object({
  base: z.number().int().min(0),
  off: z.partialRecord(z.enum(checkKinds), z.string().trim().min(1, 'Say why this is switched off.').max(500)),
  mostLevels: z.number().int().min(1).max(9),
  mostWords: z.number().int().min(5).max(200),
  avoid: z.array(z.object({ words: z.string().trim().min(1).max(100), better: z.string().trim().max(100) })).max(500),
});

export type SaveChecks = z.infer<typeof saveChecksSchema>;

export interface StoredChecks extends CheckSettings, Revised {}

export const binKinds = ['component', 'publication', 'variant', 'axis', 'profile', 'stamp', 'design'] as const;

export type BinKind = (typeof binKinds)[number];

/** Something that was deleted and can come back. */
export interface BinRow {
  readonly kind: BinKind;
  /** The key, or the id of a variant. */
  readonly key: string;
  readonly title: string;
  /** What more tells it apart: the kind of a component, the publication of a variant. */
  readonly detail: string;
  readonly deletedBy: string;
  readonly deletedAt: string;
}

export const restoreSchema = z.object({ kind: z.enum(binKinds), key: z.string().min(1).max(80) });

/** What the server tells all open pages. */
export const serverEventSchema = z.discriminatedUnion('type', [
  z.object({
    type: z.literal('build'),
    id: z.string(),
    state: z.enum(buildStates),
    stage: z.string(),
    progress: z.number(),
  }),
  z.object({ type: z.literal('component'), key: z.string(), revision: z.number(), by: z.string() }),
  z.object({ type: z.literal('publication'), key: z.string(), revision: z.number(), by: z.string() }),
  // An axis, a profile, a stamp, a design or a variant is another one now.
  z.object({ type: z.literal('variation') }),
  // Something may have happened that was not heard of: what is shown has to be read anew.
  z.object({ type: z.literal('missed') }),
]);

export type ServerEvent = z.infer<typeof serverEventSchema>;
