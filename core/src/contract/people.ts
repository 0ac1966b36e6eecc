import * as z from 'zod';
import { roles, type Role } from './roles.js';

/** What crosses HTTP about people: who they are, how they come in, what they set for themselves. */

const nameSchema = z.string().trim().min(1, 'A name is needed.').max(200);
const signInNameSchema = z
  .string()
  .trim()
  .toLowerCase()
  .min(2, 'The name to sign in with has at least two signs.')
  .max(80)
  .regex(/^[\p{L}\p{N}][\p{L}\p{N}._@+-]*$/u, 'The name to sign in with is made of letters, digits and “. _ @ + -”.');

/** Long rather than complicated (NIST SP 800-63B, section 5.1.1: length, no rules of composition). */
export const passwordSchema = z
  .string()
  .min(10, 'A password has at least ten signs; a few words do well.')
  .max(500)
  .refine((password) => new Set(password).size > 3, 'This password is the same few signs over and over.');

export const signInSchema = z.object({ name: z.string().trim().min(1).max(200), password: z.string().min(1).max(500) });

export const appearances = ['system', 'light', 'dark'] as const;

/** What a person sets for themselves. */
export const ownSettingsSchema = z.object({
  /** The colour that others see the person in: a number of the palette. */
  colour: z.number().int().min(0).max(7).default(0),
  appearance: z.enum(appearances).default('system'),
  /** In which language dates, numbers and lists are written (BCP 47); the empty string: the browser's. */
  language: z
    .string()
    .max(35)
    .regex(/^$|^[A-Za-z]{2,8}(-[A-Za-z0-9]{1,8})*$/, 'A language tag such as “en-GB” is needed.')
    .default(''),
  /** The keys that the person chose instead of ours, by the name of what they do. */
  keys: z.record(z.string().max(40), z.string().max(40)).default({}),
});
export type OwnSettings = z.infer<typeof ownSettingsSchema>;

export interface SignedIn {
  readonly id: string;
  readonly name: string;
  readonly signIn: string;
  readonly role: Role;
  readonly settings: OwnSettings;
}

export interface SessionInfo {
  readonly person: SignedIn | null;
  readonly workspace: string;
  /** Whether writers may change outlines; keepers may always. */
  readonly writersOutline: boolean;
}

/** Gives writers the right to change outlines, or takes it. */
export const writersOutlineSchema = z.object({ allowed: z.boolean() });

export const saveOwnSchema = z.object({ name: nameSchema, settings: ownSettingsSchema });
export const changePasswordSchema = z.object({ current: z.string().min(1).max(500), password: passwordSchema });

export interface PersonRow {
  readonly id: string;
  readonly name: string;
  readonly signIn: string;
  readonly role: Role;
  readonly isActive: boolean;
  readonly colour: number;
  readonly addedAt: string;
  /** When the person last did anything; null: never. */
  readonly lastSeenAt: string | null;
  readonly sessions: number;
}

export const savePersonSchema = z.object({ name: nameSchema, role: z.enum(roles), isActive: z.boolean() });

/** One place where a person is signed in. */
export interface SessionRow {
  readonly id: string;
  readonly startedAt: string;
  readonly lastSeenAt: string;
  readonly address: string;
  readonly browser: string;
  /** Whether it is the one that asks. */
  readonly isThis: boolean;
}

export const inviteSchema = z.object({
  name: nameSchema,
  role: z.enum(roles),
  /** Where the invitation is sent to; the empty string: the link is handed over in another way. */
  mail: z.union([z.literal(''), z.email('This is not a mail address.').max(200)]).default(''),
});

/** A link by which somebody comes in once. */
export interface EntryLink {
  readonly address: string;
  readonly expiresAt: string;
}

export interface InvitationRow {
  readonly id: string;
  readonly name: string;
  readonly role: Role;
  /** Whether it sets a new password for somebody who is there, instead of adding a person. */
  readonly isReset: boolean;
  readonly madeBy: string;
  readonly expiresAt: string;
}

const tokenSchema = z.string().min(20).max(100);
/** The token goes in the body, so that no log and no address bar of a server holds it. */
export const invitationSchema = z.object({ token: tokenSchema });

/** What somebody who follows an invitation is told. */
export interface Invitation {
  readonly workspace: string;
  readonly name: string;
  readonly role: Role;
  /** The name of the person whose password is set anew; null: the person chooses one. */
  readonly signIn: string | null;
  readonly isFirst: boolean;
}

export const acceptInvitationSchema = z.object({
  token: tokenSchema,
  name: nameSchema,
  signIn: signInNameSchema,
  password: passwordSchema,
});

/** For the command line. */
export const newPersonSchema = z.object({
  name: nameSchema,
  signIn: signInNameSchema,
  role: z.enum(roles),
  password: passwordSchema,
});

/** A letter that would have been sent. */
export interface OutboxRow {
  readonly id: string;
  readonly to: string;
  readonly subject: string;
  readonly text: string;
  readonly at: string;
}

export const auditListSchema = z.object({
  find: z.string().max(200).default(''),
  person: z.uuid().optional(),
  /** Only what is older than this entry. */
  before: z.coerce.number<number | string>().int().positive().max(Number.MAX_SAFE_INTEGER).optional(),
});

export interface AuditRow {
  readonly id: number;
  readonly at: string;
  /** Empty for what no person of the workspace did: the command line, a refused sign-in. */
  readonly person: string;
  readonly action: string;
  readonly subject: string;
  readonly detail: Readonly<Record<string, unknown>>;
}

export interface AuditList {
  readonly items: readonly AuditRow[];
  readonly hasMore: boolean;
}
