import * as z from 'zod';
import type { EntryChange } from '../compare/compare.js';
import type { ConditionFinding } from '../reach/condition-findings.js';
import type { CoverageRow } from '../reach/coverage.js';
import type { StaleCause } from '../reach/freshness.js';
import type { AlteredTopic } from '../reach/reach.js';
import type { ImportNote } from '../interchange/import-result.js';
import { checkKinds, type CheckSettings } from '../checks/checks.js';
import { componentKinds, type Component, type ComponentKind, type ComponentBody } from '../model/component.js';
import { referenceKinds } from '../model/references.js';
import { entryRoles, type OutlineEntry, type VariableValues } from '../model/publication.js';
import { problemCodes } from '../model/problem.js';
import type { Axis, AxisValue } from '../model/axis.js';
import { stampPlaces, type Stamp } from '../model/stamp.js';
import { stampAxis } from '../variation/stamps.js';
import type { Span } from '../search/passage.js';
import { parseCondition } from '../variation/condition-syntax.js';
import { isFormat } from '../output/format-facts.js';
import type { ContentNode } from '../model/node.js';
import type { ListedDesign } from './designs.js';

/** Everything that crosses HTTP. The server checks requests with these; the interface takes its types from them. */

/** Keys name things in addresses, conditions and links: word signs of any script, and `. _ -` inside. */
export const keySchema = z
  .string()
  .min(1)
  .max(80)
  .regex(/^[\p{L}\p{N}_][\p{L}\p{N}._-]*$/u, 'A key is made of letters, digits, “.”, “_” and “-”.');

const titleSchema = z.string().trim().min(1, 'A title is needed.').max(300);

const whenSchema = z
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
const bodySchema = z.discriminatedUnion('type', [
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

const labelSchema = z.string().trim().min(1, 'A name is needed.').max(80);

/** The way to a collection as it is kept, of what people type: “Legal / Europe” is “Legal/Europe”. */
export function collectionWay(typed: string): string {
  return typed
    .split('/')
    .map((name) => name.trim())
    .filter((name) => name !== '')
    .join('/');
}

/** The way to a collection from the top, with a slash between one and the next: “Legal/Europe”. */
const collectionSchema = z
  .string()
  .max(200)
  .transform(collectionWay)
  .refine((way) => way !== '', 'A collection needs a name.');

export const labelsSchema = z.object({
  collection: collectionSchema.nullable(),
  tags: z.record(labelSchema, z.array(labelSchema).max(50)),
});

/** A collection, by its way from the top, and how many components are in it itself. */
export interface KnownCollection {
  readonly name: string;
  readonly count: number;
}

/** A collection gets another name, or another place in the tree, with all that is in it and below. */
export const renameCollectionSchema = z.object({ from: collectionSchema, to: collectionSchema });
export type RenameCollection = z.infer<typeof renameCollectionSchema>;

/** The collections and tags in use, to choose from. */
export interface KnownLabels {
  readonly collections: readonly KnownCollection[];
  readonly tags: readonly { readonly tag: string; readonly value: string }[];
  /** Who changed components last. */
  readonly people: readonly { readonly id: string; readonly name: string }[];
}

export const newComponentSchema = z.object({
  kind: componentKindSchema,
  title: titleSchema,
  key: keySchema.optional(),
  body: bodySchema,
  labels: labelsSchema.optional(),
});

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

export const saveComponentSchema = z.object({
  /** The revision that was edited; a newer one in the library refuses the save. */
  base: z.number().int().positive(),
  title: titleSchema,
  body: bodySchema,
});
export type SaveComponent = z.infer<typeof saveComponentSchema>;

/** A component gets another key, with everything that refers to it. */
export const changeKeySchema = z.object({
  /** The revision that was looked at; a newer one in the library refuses it. */
  base: z.number().int().positive(),
  to: keySchema,
});
export type ChangeKey = z.infer<typeof changeKeySchema>;

export interface KeyChanged {
  readonly component: Component;
  /** How many components, publications, designs and variants refer to it by the new key now. */
  readonly rewritten: number;
}
export type NewComponent = z.infer<typeof newComponentSchema>;

/** What comes with the file of an image. */
export const newImageSchema = z.object({
  title: z.string().trim().max(300).default(''),
  alt: z.string().max(2000).default(''),
  /** Whether an image that has the same file already is taken instead of a new one. */
  once: z.enum(['yes', 'no']).default('no'),
});

/** What comes with a file that takes the place of an image's. */
export const replaceFileSchema = z.object({
  /** The revision that was edited; a newer one in the library refuses the file. */
  base: z.coerce.number<number | string>().int().positive(),
});

export const archivedFilters = ['no', 'only', 'too'] as const;
export const usageFilters = ['any', 'unused', 'once', 'often'] as const;

/** A number that came in an address. */
const countSchema = z.coerce.number<number | string>().int().min(0).max(1_000_000);

export const componentListSchema = z.object({
  find: z.string().max(200).default(''),
  kind: componentKindSchema.optional(),
  /** Only what is in this collection or in one below it. */
  collection: collectionSchema.optional(),
  /** What is archived is only listed where it is asked for. */
  archived: z.enum(archivedFilters).default('no'),
  /** Only what bears this stamp. */
  stamp: keySchema.optional(),
  /** Only what bears this tag: “tag=value”. */
  tag: z.string().max(161).optional(),
  /** Only what has content limited to a value: “axis=value”. */
  value: z.string().max(161).optional(),
  /** Only what this person changed last. */
  by: z.uuid().optional(),
  /** Only what was changed in the last days. */
  days: z.coerce.number<number | string>().int().min(1).max(3650).optional(),
  usage: z.enum(usageFilters).default('any'),
  offset: countSchema.default(0),
  limit: z.coerce.number<number | string>().int().min(1).max(500).default(100),
});

export interface ComponentRow {
  readonly key: string;
  readonly kind: (typeof componentKinds)[number];
  readonly title: string;
  readonly revision: number;
  readonly uses: number;
  /** The text forms of the conditions that stand in it, distinct. */
  readonly conditions: readonly string[];
  /** The beginning of its text, or the passage that has what was looked for; what it uses stands in it as it reads. */
  readonly excerpt: string;
  /** What of the title and of the excerpt was looked for. */
  readonly titleMarks: readonly Span[];
  readonly excerptMarks: readonly Span[];
  /** The component that it places or uses and that says what was looked for, where it does not do so itself. */
  readonly through: string | null;
  readonly changedBy: string;
  readonly changedAt: string;
  readonly archived: boolean;
}

export interface ComponentList {
  readonly total: number;
  readonly items: readonly ComponentRow[];
  /** Words that are nowhere in the library, each with the words near it that were looked for instead; none: it was passed over. */
  readonly mended: readonly { readonly word: string; readonly as: readonly string[] }[];
}

/** What a person looks for often: the library's address, from the question mark on, under a name. */
export const savedSearchSchema = z.object({
  name: z.string().trim().min(1, 'A name is needed.').max(80),
  query: z.string().max(1000),
});
export type SavedSearch = z.infer<typeof savedSearchSchema>;

export interface Use {
  readonly sourceKind: 'component' | 'publication' | 'design';
  readonly source: string;
  readonly title: string;
  /** The kind of the source component; null for publications. */
  readonly componentKind: (typeof componentKinds)[number] | null;
  readonly kind: (typeof referenceKinds)[number];
  readonly place: string | null;
  readonly held: number | null;
  /** The components on the way, nearest to the used one first; empty for a direct use. */
  readonly through: readonly { readonly key: string; readonly title: string }[];
}

export const usesListSchema = z.object({
  /** Only uses in what has this in its title. */
  find: z.string().max(200).default(''),
  kind: z.enum(referenceKinds).optional(),
  /** How many of each list to pass over: direct ones, and those through others. */
  direct: countSchema.default(0),
  further: countSchema.default(0),
  order: z.enum(['nearest', 'title', 'kind']).default('nearest'),
});

/** Where a component is used: all that fit counted, a page of them told. */
export interface Uses {
  readonly direct: readonly Use[];
  readonly directTotal: number;
  /** Through other components, nearest first. */
  readonly further: readonly Use[];
  readonly furtherTotal: number;
}

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

/** What is saved against the revision that was changed. */
export interface Revised {
  readonly revision: number;
}
/** The revision that was changed; 0: there is none yet. */
const baseSchema = z.object({ base: z.number().int().min(0) });
export const saveAxisSchema = axisSchema.and(baseSchema);
export const saveProfileSchema = profileSchema.extend(baseSchema.shape);
export const saveStampSchema = stampSchema.extend(baseSchema.shape);

const valuesSchema = z.record(z.string().max(80), nodeSchema) as z.ZodType<VariableValues, VariableValues>;

const entrySchema: z.ZodType<OutlineEntry, OutlineEntry> = z.lazy(() =>
  z.object({
    id: z.string().min(1).max(80),
    topic: z.string().max(80).optional(),
    publication: z.string().max(80).optional(),
    link: z.string().max(80).optional(),
    title: z.string().max(300).nullable().optional(),
    when: whenSchema.nullable().optional(),
    role: z.enum(entryRoles).optional(),
    values: valuesSchema.optional(),
    entries: z.array(entrySchema).max(5000).optional(),
  }),
);

export const newPublicationSchema = z.object({
  title: titleSchema,
  /** The publication that it is another outline over; it begins with the entries of that. */
  outlineOf: keySchema.optional(),
});

export const savePublicationSchema = z.object({
  base: z.number().int().positive(),
  title: titleSchema,
  values: valuesSchema,
  entries: z.array(entrySchema).max(5000),
});

/** What somebody tells in the first hour: what differs, what is handed over, and the first topics. */
export const firstHourSchema = z.object({
  axes: z.array(z.object({ title: z.string().trim().max(300), values: z.string().max(20_000) })).max(20),
  documents: z
    .array(
      z.object({
        title: z.string().trim().max(300),
        languages: z.array(z.string().max(35)).max(20),
        formats: z.array(z.string().refine(isFormat, 'There is no such format.')).max(20),
        madeFor: z.record(
          z.string().max(300),
          z.union([z.literal('each'), z.literal('all'), z.array(z.string().max(300)).max(500)]),
        ),
      }),
    )
    .max(20),
  topic: z.object({ title: z.string().trim().max(300), text: z.string().max(20_000) }),
  /** Titles of further topics, which are written later. */
  further: z.array(z.string().trim().min(1).max(300)).max(200),
});
export type FirstHour = z.infer<typeof firstHourSchema>;

/** What was made of it. */
export interface FirstHourMade {
  readonly axes: number;
  readonly profiles: number;
  /** The first topic; null: there is none. */
  readonly topic: string | null;
  readonly topics: number;
  readonly publications: readonly string[];
  /** The variants that are new. */
  readonly variants: readonly string[];
}

export interface PublicationRow {
  readonly key: string;
  readonly title: string;
  readonly revision: number;
  readonly entries: number;
  readonly variants: number;
  /** The publication that it is another outline over. */
  readonly outlineOf: string | null;
}

export interface StoredPublication {
  readonly key: string;
  readonly title: string;
  readonly revision: number;
  readonly values: VariableValues;
  readonly entries: readonly OutlineEntry[];
  /**
   * The publication that it is another outline over: deliverables have the title of that, and its values where this one says no
   * other. Its own title tells it from others in lists.
   */
  readonly outlineOf?: string;
}

/** From which problems on a build of a variant makes nothing. */
export const stopLevels = ['never', 'errors', 'warnings'] as const;
export type StopLevel = (typeof stopLevels)[number];

export const variantSchema = z.object({
  title: titleSchema,
  profile: keySchema,
  values: valuesSchema,
  language: z
    .string()
    .max(35)
    .regex(/^[A-Za-z]{2,8}(-[A-Za-z0-9]{1,8})*$/, 'A language tag such as “en” or “de-AT” is needed.'),
  design: keySchema,
  formats: z.array(z.string().refine(isFormat, 'There is no such format.')).min(1).max(20),
  leaveOutEmpty: z.boolean(),
  stopsAt: z.enum(stopLevels).default('never'),
});
export type VariantRecipe = z.infer<typeof variantSchema>;
export const saveVariantSchema = variantSchema.extend({ base: z.number().int().positive() });

/** What the recipe of a new variant begins with. */
export const newRecipe = {
  values: {},
  language: 'en',
  design: 'plain',
  formats: ['html'],
  leaveOutEmpty: true,
  stopsAt: 'never',
} satisfies Omit<VariantRecipe, 'title' | 'profile'>;

export interface StoredVariant extends VariantRecipe, Revised {
  readonly id: string;
  readonly publication: string;
}

/** Where a cross-reference stands, and where it leads. */
export const referencePlaceSchema = z.object({
  from: keySchema,
  to: keySchema,
  block: z.string().max(200).optional(),
});

export const buildStates = ['queued', 'running', 'done', 'failed', 'broken off'] as const;
export type BuildState = (typeof buildStates)[number];

export const startBuildsSchema = z.object({ variants: z.array(z.uuid()).min(1).max(500) });

export const storedProblemSchema = z.object({
  severity: z.enum(['error', 'warning']),
  code: z.enum(problemCodes),
  message: z.string(),
  place: z.object({ component: z.string().nullable(), block: z.string().nullable(), entry: z.string().nullable() }),
});

export interface BuildRow {
  readonly id: string;
  readonly variant: string;
  readonly variantTitle: string;
  readonly publication: string;
  readonly publicationTitle: string;
  readonly state: BuildState;
  readonly stage: string;
  /** Share of the work done, 0 to 1. */
  readonly progress: number;
  readonly startedBy: string;
  readonly queuedAt: string;
  readonly endedAt: string | null;
  readonly pages: number;
  readonly bytes: number;
  readonly digest: string | null;
  readonly errors: number;
  readonly warnings: number;
  readonly message: string | null;
  /** In the order of the recipe; empty until it is done. */
  readonly formats: readonly BuiltFormat[];
  /** Null: it was not handed over. */
  readonly shipped: Shipped | null;
  /** Whether its files are still there. */
  readonly hasFiles: boolean;
}

/** That a deliverable was handed over: it is kept for good. */
export interface Shipped {
  readonly version: string;
  readonly note: string;
  readonly by: string;
  readonly at: string;
}

export const shipSchema = z.object({
  version: z.string().trim().min(1, 'A version is needed.').max(100),
  note: z.string().trim().max(2000).default(''),
});

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

export const saveStorageSchema = z.object({ kept: z.number().int().min(1).max(1000) });

/** What deliverables take. */
export interface Storage {
  /** How many deliverables of each variant are kept, besides those that were shipped. */
  readonly kept: number;
  /** How many are there now. */
  readonly deliverables: number;
  readonly bytes: number;
  readonly shippedBytes: number;
}

/** What a build made of one format. */
export interface BuiltFormat {
  readonly format: string;
  readonly state: 'done' | 'failed';
  readonly bytes: number;
  /** Of paper; null for formats without. */
  readonly pages: number | null;
  /** Null for builds of before formats were timed. */
  readonly milliseconds: number | null;
  /** Whether it is more than one file. */
  readonly hasSeveralFiles: boolean;
  readonly message: string | null;
}

export const buildListSchema = z.object({
  /** Only builds of variants or publications that have this in their title. */
  find: z.string().max(200).default(''),
  state: z.enum(buildStates).optional(),
  publication: z.string().max(80).optional(),
  /** Only what was handed over. */
  shipped: z.enum(['yes']).optional(),
  order: z.enum(['newest', 'variant', 'problems']).default('newest'),
  offset: countSchema.default(0),
  limit: z.coerce.number<number | string>().int().min(1).max(500).default(100),
});

export interface BuildList {
  readonly total: number;
  readonly items: readonly BuildRow[];
}

export interface BuildDetail extends BuildRow {
  readonly problems: readonly z.infer<typeof storedProblemSchema>[];
  /** Whether it can be made again from its record. */
  readonly canBeMadeAgain: boolean;
  /** The build from whose record it was made, and whether it came out the same, byte for byte; null: from the library. */
  readonly again: { readonly of: string; readonly isSame: boolean } | null;
  readonly recipe: {
    readonly profile: string;
    readonly design: string;
    readonly language: string;
    readonly formats: readonly string[];
  };
}

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
]);
export type ServerEvent = z.infer<typeof serverEventSchema>;

/** A component and everything it refers to, as far as it goes: what it takes to show it. */
export interface ComponentClosure {
  readonly component: Component;
  /** Whether it is offered nowhere any more. */
  readonly archived?: boolean;
  readonly components: readonly Component[];
  /** Older revisions that held placements stay at. */
  readonly held: readonly Component[];
}

export const placesSchema = z.object({ find: z.string().max(200) });

/** What a cross-reference can lead to inside a component: a section, figure, table, example or step. */
export interface PlaceRow {
  readonly component: string;
  readonly componentTitle: string;
  readonly id: string;
  readonly kind: string;
  /** A step's are its first words. */
  readonly title: string;
}

/** What stands in a line up to where it is written. */
export const writtenLineSchema = z.object({ line: z.string().min(1).max(1000) });

/** A component that says what was just written. */
export interface WrittenOffer {
  readonly key: string;
  readonly kind: 'variable' | 'snippet';
  readonly title: string;
  /** What it would come in the place of: the last words of the line, or the whole line. */
  readonly words: string;
  readonly covers: 'words' | 'line';
}

export const titlesSchema = z.object({ keys: z.array(z.string().max(80)).max(10_000) });

/** All variables, with what their values hold. */
export interface VariableList {
  readonly variables: readonly { readonly component: Component; readonly uses: number }[];
  readonly components: readonly Component[];
}

export interface RevisionRow {
  readonly revision: number;
  readonly title: string;
  readonly savedBy: string;
  readonly savedAt: string;
}

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

/** What each variant of a publication has of each entry, and what is to be said of the conditions. */
export interface PublicationCoverage {
  /** The ids of the variants, in the order of the cells. */
  readonly variants: readonly string[];
  readonly rows: readonly CoverageRow[];
  readonly findings: readonly ConditionFinding[];
  /** The conditions that topics of the outline bear wherever they stand, by their keys. */
  readonly ownConditions: Readonly<Record<string, string>>;
}

/** Whether the last deliverable of a variant is what building it now would give. */
export interface VariantFreshness {
  readonly variant: string;
  readonly title: string;
  readonly publication: string;
  readonly publicationTitle: string;
  /** The last build that made a deliverable; null: there is none. */
  readonly build: string | null;
  readonly builtAt: string | null;
  readonly state: 'fresh' | 'stale' | 'no deliverable';
  readonly causes: readonly NamedCause[];
  /** What that build made, format by format. */
  readonly formats: readonly BuiltFormat[];
  /** Those of its formats that would come out differently, or were not made by that build. */
  readonly staleFormats: readonly string[];
}

/** Why a deliverable is stale, with the title of the component, where it is one. */
export type NamedCause = StaleCause & { readonly title: string };

/** The variants that a change of a component would alter, and how: equal changes together. */
export interface ReachReport {
  /** How many variants there are to look at. */
  readonly variants: number;
  readonly groups: readonly {
    readonly variants: readonly { readonly id: string; readonly title: string; readonly publicationTitle: string }[];
    readonly topics: readonly AlteredTopic[];
  }[];
}

export const deliverableZipSchema = z.object({
  /** Only the files of this format; without it those of all. */
  format: z.string().min(1).max(40).optional(),
});

/** Two variants, or what a build was made of and a variant as it is now. */
export const compareSchema = z.object({ before: z.uuid().optional(), build: z.uuid().optional(), after: z.uuid() });

/** Two variants side by side, entry by entry. Entries that are the same carry no passages. */
export interface Comparison {
  readonly entries: readonly EntryChange[];
}

/** What comes with the archive of a book. */
export const importDocbookSchema = z.object({
  title: z.string().trim().min(1, 'The publication needs a title.').max(300),
  /** The book's file inside the archive; found by its root element where it is not given. */
  main: z.string().max(500).default(''),
  profiles: z.string().max(5_000_000).default(''),
});

/** What an import brought into the library. */
export interface ImportSummary {
  readonly publication: string;
  readonly topics: number;
  readonly snippets: number;
  readonly variables: number;
  readonly images: number;
  readonly axes: number;
  readonly variants: readonly string[];
  readonly notes: readonly ImportNote[];
}
