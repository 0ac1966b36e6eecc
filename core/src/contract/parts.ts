import * as z from 'zod';
import { type ComponentBody, componentKinds } from '../model/component.js';
import type { VariableValues } from '../model/publication.js';
import { parseCondition } from '../variation/condition-syntax.js';
import type { ContentNode } from '../model/node.js';

/**
 * What several requests and answers are made of. The files beside this one hold everything that crosses HTTP: the server
 * checks requests with these schemas, and the interface takes its types from them.
 */

/** Keys name things in addresses, conditions and links: word signs of any script, and `. _ -` inside. */
export const keySchema = z
  .string()
  .min(1)
  .max(80)
  .regex(/^[\p{L}\p{N}_][\p{L}\p{N}._-]*$/u, 'A key is made of letters, digits, “.”, “_” and “-”.');

export const titleSchema = z.string().trim().min(1, 'A title is needed.').max(300);

export const whenSchema = z
  .string()
  .max(4000)
  .superRefine((when, context) => {
    const parsed = parseCondition(when);
    if (!parsed.ok) context.addIssue({ code: 'custom', message: `Condition: ${parsed.message}` });
  });

const nodeSchema = z.custom<ContentNode>(
  (value) => typeof value === 'object' && value !== null && typeof (value as { type?: unknown }).type === 'string',
  'Content is a node of the content schema.',
);

const imageFileSchema = z.object({
  digest: z.string().regex(/^[0-9a-f]{64}$/),
  mediaType: z.string().max(100),
  width: z.number().int().positive().nullable(),
  height: z.number().int().positive().nullable(),
});

// The content of topics and snippets is checked against the content schema where it is saved.
// eslint-disable-next-line @typescript-eslint/no-unsafe-type-assertion
export const bodySchema = z.discriminatedUnion('type', [
  z.object({
    type: z.literal('variable'),
    default: nodeSchema.nullable(),
    rules: z
      .array(z.object({ when: whenSchema.nullable(), language: z.string().max(35).nullable(), value: nodeSchema }))
      .max(500),
  }),
  z.object({
    type: z.literal('image'),
    alt: z.string().max(2000),
    file: imageFileSchema,
    versions: z.array(z.object({ when: whenSchema, file: imageFileSchema })).max(100),
  }),
  z.object({ type: z.literal('link'), href: z.string().max(4000), label: z.string().max(500) }),
  z.looseObject({ type: z.enum(['topic', 'fragment', 'phrase']) }),
]) as unknown as z.ZodType<ComponentBody, ComponentBody>;

export const componentKindSchema = z.enum(componentKinds);

export const labelSchema = z.string().trim().min(1, 'A name is needed.').max(80);

/** The way to a collection as it is kept, of what people type: “Legal / Europe” is “Legal/Europe”. */
export function collectionWay(typed: string): string {
  return typed
    .split('/')
    .map((name) => name.trim())
    .filter((name) => name !== '')
    .join('/');
}

/** The way to a collection from the top, with a slash between one and the next: “Legal/Europe”. */
export const collectionSchema = z
  .string()
  .max(200)
  .transform(collectionWay)
  .refine((way) => way !== '', 'A collection needs a name.');

/** A number that came in an address. */
export const countSchema = z.coerce.number<number | string>().int().min(0).max(1_000_000);

/** What is saved against the revision that was changed. */
export interface Revised {
  readonly revision: number;
}

/** The revision that was changed; 0: there is none yet. */
export const baseSchema = z.object({ base: z.number().int().min(0) });

export const valuesSchema = z.record(z.string().max(80), nodeSchema) as z.ZodType<VariableValues, VariableValues>;
