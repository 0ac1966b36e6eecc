import {
  givenUpSchema,
  giveUpSchema,
  orderAxesSchema,
  type TakenBack,
  type ValueGivenUp,
  type ValueUse,
  type VocabularyAct,
} from './vocabulary.js';
import * as z from 'zod';
import type { ImportNote } from '../interchange/import-result.js';
import type { Axis } from '../model/axis.js';
import type { Stamp } from '../model/stamp.js';
import type { Component, ImageFile } from '../model/component.js';
import type { Recording } from '../model/recording.js';
import type { ReferenceReadings } from '../output/reference-readings.js';
import {
  actOnManySchema,
  bringUpSchema,
  passagesSchema,
  type HolderRow,
  replaceTextSchema,
  stepsBackSchema,
  takeBackSchema,
  type PassageList,
  type ReplacedText,
  type ManyDone,
} from './many.js';
import {
  buildListSchema,
  compareSchema,
  deliverableZipSchema,
  saveStorageSchema,
  shipSchema,
  startBuildsSchema,
  type BuildDetail,
  type BuildList,
  type Comparison,
  type ReachReport,
  type Storage,
  type VariantFreshness,
} from './builds.js';
import {
  componentListSchema,
  labelsSchema,
  renameCollectionSchema,
  savedSearchSchema,
  type SavedSearch,
  newComponentSchema,
  placesSchema,
  newImageSchema,
  replaceFileSchema,
  saveComponentSchema,
  titlesSchema,
  writtenLineSchema,
  type WrittenOffer,
  usesListSchema,
  type ComponentClosure,
  type ComponentList,
  type KnownLabels,
  type PlaceRow,
  changeKeySchema,
  type KeyChanged,
  type RevisionRow,
  type Uses,
  type VariableList,
} from './components.js';
import {
  firstHourSchema,
  importDocbookSchema,
  type FirstHourMade,
  referencePlaceSchema,
  newPublicationSchema,
  savePublicationSchema,
  saveVariantSchema,
  variantSchema,
  type ImportSummary,
  type PublicationCoverage,
  type PublicationRow,
  type StoredPublication,
  type StoredVariant,
} from './publications.js';
import {
  saveAxisSchema,
  saveProfileSchema,
  saveStampSchema,
  type StampUse,
  type StoredProfile,
  type Variation,
} from './variation.js';
import { saveChecksSchema, type StoredChecks, restoreSchema, type BinRow } from './workspace.js';
import type { Revised } from './parts.js';
import {
  newFontSchema,
  previewSchema,
  saveDesignSchema,
  type FontRow,
  type ListedDesign,
  type Preview,
} from './designs.js';
import { originOrderSchema, type OriginAnswer } from './origin.js';
import { draftNameSchema, draftsOfSchema, keepDraftSchema, type KeptDraft } from './drafts.js';
import {
  acceptInvitationSchema,
  auditListSchema,
  changePasswordSchema,
  invitationSchema,
  inviteSchema,
  saveOwnSchema,
  savePersonSchema,
  signInSchema,
  type AuditList,
  type EntryLink,
  type Invitation,
  type InvitationRow,
  type OutboxRow,
  type PersonRow,
  type SessionInfo,
  type SessionRow,
  writersOutlineSchema,
} from './people.js';
import type { Role } from './roles.js';

/** What may stand in the address of a route, by the name it has there. */
const partSchemas = {
  key: z.string().min(1).max(80),
  id: z.uuid(),
  revision: z.coerce.number().int().positive().max(2_147_483_647),
  digest: z.string().regex(/^[0-9a-f]{64}$/),
  /** The name of a format. */
  format: z.string().min(1).max(40),
  /** The rest of the address, segment by segment. */
  path: z.array(z.string()).min(1),
};
type PartName = keyof typeof partSchemas;

/** The names of the parts in an address: `:name` is one segment, `*name` all that follow. */
type PartsIn<Path> = Path extends `${infer Segment}/${infer Rest}` ? PartIn<Segment> | PartsIn<Rest> : PartIn<Path>;
type PartIn<Segment> = Segment extends `:${infer Name extends PartName}`
  ? Name
  : Segment extends `*${infer Name extends PartName}`
    ? Name
    : never;
type Parts<Path> = { readonly [Name in PartsIn<Path>]: z.output<(typeof partSchemas)[Name]> };

/**
 * One route of the API: where it is, who may call it, what it takes and what it answers. The server makes its handlers
 * of these and the interface its calls, so that neither can know a route that the other does not.
 */
export interface Route<
  Path extends string = string,
  Access extends Role | null = Role | null,
  Query = unknown,
  Body = unknown,
  Answer = unknown,
> {
  readonly method: 'get' | 'post' | 'put' | 'delete';
  /** Below `/api`. */
  readonly path: Path;
  /** The least role that may call it; null: one need not have signed in. */
  readonly role: Access;
  readonly params: z.ZodType;
  readonly query: Query;
  readonly body: Body;
  /** The file that comes with the body, as a form: its greatest size in bytes; null: the body is JSON. */
  readonly upload: number | null;
  /** Never there: carries the type of the answer. */
  readonly answer?: Answer;
}

/** A value that whoever takes it leaves as it is. */
type Fixed<T> = T extends readonly (infer Item)[]
  ? readonly Fixed<Item>[]
  : T extends object
    ? { readonly [Name in keyof T]: Fixed<T[Name]> }
    : T;

type OutputOf<Schema> = Schema extends z.ZodType ? z.output<Schema> : undefined;

/** What a handler is given of a request, after it was checked. */
export interface Received<R extends Route> {
  readonly params: R extends Route<infer Path> ? Parts<Path> : never;
  readonly query: OutputOf<R['query']>;
  readonly body: OutputOf<R['body']>;
}

/** What a caller gives: only what the route takes. */
export type Given<R extends Route> = (R extends Route<infer Path>
  ? [PartsIn<Path>] extends [never]
    ? unknown
    : { readonly params: Parts<Path> }
  : never) &
  (R['query'] extends z.ZodType ? { readonly query: Fixed<z.input<R['query']>> } : unknown) &
  (R['body'] extends z.ZodType ? { readonly body: Fixed<z.input<R['body']>> } : unknown);

/** What the route answers; void where it answers with nothing. */
export type AnswerOf<R> = R extends Route<string, Role | null, unknown, unknown, infer Answer> ? Answer : never;

function route<
  Path extends string,
  Access extends Role | null,
  Query extends z.ZodType | null = null,
  Body extends z.ZodType | null = null,
>(
  method: Route['method'],
  path: Path,
  role: Access,
  takes: { readonly query?: Query; readonly body?: Body; readonly upload?: number } = {},
): { answers<Answer>(): Route<Path, Access, Query, Body, Answer> } {
  const shape: Record<string, z.ZodType> = {};
  for (const [name, schema] of Object.entries(partSchemas))
    if (new RegExp(`[:*]${name}(/|$)`).test(path)) shape[name] = schema;
  const { query = null, body = null, upload = null } = takes;
  // What is not given is null, as the defaults of the types say.
  // eslint-disable-next-line @typescript-eslint/no-unsafe-type-assertion
  const given = { query, body } as { query: Query; body: Body };
  return { answers: () => ({ method, path, role, params: z.object(shape), ...given, upload }) };
}

const megabyte = 1 << 20;

/** All routes of the API. */
export const routes = {
  session: route('get', '/session', null).answers<SessionInfo>(),
  signIn: route('post', '/session', null, { body: signInSchema }).answers<SessionInfo>(),
  signOut: route('delete', '/session', null).answers<void>(),
  events: route('get', '/events', 'reader').answers<void>(),

  saveOwn: route('put', '/me', 'reader', { body: saveOwnSchema }).answers<SessionInfo>(),
  changePassword: route('put', '/me/password', 'reader', { body: changePasswordSchema }).answers<void>(),
  ownSessions: route('get', '/me/sessions', 'reader').answers<readonly SessionRow[]>(),
  endOtherSessions: route('delete', '/me/sessions', 'reader').answers<void>(),

  drafts: route('get', '/me/drafts', 'writer', { query: draftsOfSchema }).answers<readonly KeptDraft[]>(),
  keepDraft: route('put', '/me/drafts', 'writer', { body: keepDraftSchema }).answers<void>(),
  dropDraft: route('delete', '/me/drafts', 'writer', { query: draftNameSchema }).answers<void>(),

  people: route('get', '/people', 'keeper').answers<readonly PersonRow[]>(),
  savePerson: route('put', '/people/:id', 'keeper', { body: savePersonSchema }).answers<PersonRow>(),
  resetPerson: route('post', '/people/:id/reset', 'keeper').answers<EntryLink>(),
  sessionsOf: route('get', '/people/:id/sessions', 'keeper').answers<readonly SessionRow[]>(),
  endSessions: route('delete', '/people/:id/sessions', 'keeper').answers<void>(),
  saveWritersOutline: route('put', '/writers-outline', 'keeper', { body: writersOutlineSchema }).answers<SessionInfo>(),
  invitations: route('get', '/invitations', 'keeper').answers<readonly InvitationRow[]>(),
  invite: route('post', '/invitations', 'keeper', { body: inviteSchema }).answers<EntryLink>(),
  withdrawInvitation: route('delete', '/invitations/:id', 'keeper').answers<void>(),
  outbox: route('get', '/outbox', 'keeper').answers<readonly OutboxRow[]>(),
  readInvitation: route('post', '/invitation', null, { body: invitationSchema }).answers<Invitation>(),
  acceptInvitation: route('post', '/invitation/accept', null, {
    body: acceptInvitationSchema,
  }).answers<SessionInfo>(),
  audit: route('get', '/audit', 'keeper', { query: auditListSchema }).answers<AuditList>(),

  components: route('get', '/components', 'reader', { query: componentListSchema }).answers<ComponentList>(),
  /** What cross-references can lead to inside components, found by words. */
  places: route('get', '/places', 'reader', { query: placesSchema }).answers<readonly PlaceRow[]>(),
  offers: route('post', '/offers', 'writer', { body: writtenLineSchema }).answers<readonly WrittenOffer[]>(),
  createComponent: route('post', '/components', 'writer', { body: newComponentSchema }).answers<Component>(),
  actOnMany: route('post', '/components/acts', 'writer', { body: actOnManySchema }).answers<ManyDone>(),
  takeStepsBack: route('post', '/components/acts/back', 'writer', { body: stepsBackSchema }).answers<ManyDone>(),
  /** Where components say some words, place by place. */
  passages: route('get', '/passages', 'reader', { query: passagesSchema }).answers<PassageList>(),
  replaceText: route('post', '/passages/replace', 'writer', { body: replaceTextSchema }).answers<ReplacedText>(),
  /** Takes changes back: what was saved again since is left. */
  takeBack: route('post', '/components/take-back', 'writer', { body: takeBackSchema }).answers<ReplacedText>(),
  /** Who holds a component at a revision before its newest. */
  holders: route('get', '/components/:key/holders', 'reader').answers<readonly HolderRow[]>(),
  bringUp: route('post', '/components/:key/bring-up', 'writer', { body: bringUpSchema }).answers<ReplacedText>(),
  component: route('get', '/components/:key', 'reader').answers<Component>(),
  saveComponent: route('put', '/components/:key', 'writer', { body: saveComponentSchema }).answers<Component>(),
  deleteComponent: route('delete', '/components/:key', 'writer').answers<void>(),
  restoreComponent: route('post', '/components/:key/restore', 'writer').answers<Component>(),
  bin: route('get', '/bin', 'writer').answers<readonly BinRow[]>(),
  restore: route('post', '/bin/restore', 'writer', { body: restoreSchema }).answers<void>(),
  changeKey: route('put', '/components/:key/key', 'writer', { body: changeKeySchema }).answers<KeyChanged>(),
  labelComponent: route('put', '/components/:key/labels', 'writer', { body: labelsSchema }).answers<Component>(),
  variables: route('get', '/variables', 'reader').answers<VariableList>(),
  /** The titles of components, by key. */
  titles: route('post', '/titles', 'reader', { body: titlesSchema }).answers<Readonly<Record<string, string>>>(),
  savedSearches: route('get', '/me/searches', 'reader').answers<readonly SavedSearch[]>(),
  saveSearch: route('put', '/me/searches', 'reader', { body: savedSearchSchema }).answers<readonly SavedSearch[]>(),
  deleteSearch: route('post', '/me/searches/delete', 'reader', {
    body: savedSearchSchema.pick({ name: true }),
  }).answers<readonly SavedSearch[]>(),
  labels: route('get', '/labels', 'reader').answers<KnownLabels>(),
  /** How many components moved with it. */
  renameCollection: route('put', '/collections', 'writer', { body: renameCollectionSchema }).answers<{
    readonly moved: number;
  }>(),
  revisions: route('get', '/components/:key/revisions', 'reader').answers<readonly RevisionRow[]>(),
  revision: route('get', '/components/:key/revisions/:revision', 'reader').answers<Component>(),
  uses: route('get', '/components/:key/uses', 'reader', { query: usesListSchema }).answers<Uses>(),
  closure: route('get', '/components/:key/closure', 'reader').answers<ComponentClosure>(),
  reach: route('post', '/components/:key/reach', 'writer', { body: saveComponentSchema }).answers<ReachReport>(),

  uploadImage: route('post', '/images', 'writer', {
    body: newImageSchema,
    upload: 25 * megabyte,
  }).answers<Component>(),
  storePicture: route('post', '/images/files', 'writer', { upload: 25 * megabyte }).answers<ImageFile>(),
  replaceFile: route('post', '/components/:key/file', 'writer', {
    body: replaceFileSchema,
    upload: 25 * megabyte,
  }).answers<Component>(),
  picture: route('get', '/images/:digest', 'reader').answers<void>(),
  storeRecording: route('post', '/recordings', 'writer', { upload: 200 * megabyte }).answers<Recording>(),
  recording: route('get', '/recordings/:digest', 'reader').answers<void>(),

  variation: route('get', '/variation', 'reader').answers<Variation>(),
  saveAxis: route('put', '/axes/:key', 'keeper', { body: saveAxisSchema }).answers<Axis & Revised>(),
  deleteAxis: route('delete', '/axes/:key', 'keeper').answers<void>(),
  orderAxes: route('put', '/axes', 'keeper', { body: orderAxesSchema }).answers<void>(),
  /** In how many components each value is named. */
  valueUses: route('get', '/values/uses', 'reader').answers<readonly ValueUse[]>(),
  /** What retiring a value, or merging it into another one, would do. */
  valueGivenUp: route('get', '/axes/:key/given-up', 'keeper', {
    query: givenUpSchema,
  }).answers<ValueGivenUp>(),
  giveUpValue: route('post', '/axes/:key/give-up', 'keeper', {
    body: giveUpSchema,
  }).answers<VocabularyAct>(),
  vocabularyActs: route('get', '/vocabulary-acts', 'keeper').answers<readonly VocabularyAct[]>(),
  takeVocabularyActBack: route('post', '/vocabulary-acts/:id/take-back', 'keeper').answers<TakenBack>(),
  saveProfile: route('put', '/profiles/:key', 'keeper', {
    body: saveProfileSchema,
  }).answers<StoredProfile & Revised>(),
  deleteProfile: route('delete', '/profiles/:key', 'keeper').answers<void>(),
  /** Makes axes, profiles, topics, outlines and variants of what was told, all or nothing; what is there stays. */
  firstHour: route('post', '/first-hour', 'keeper', { body: firstHourSchema }).answers<FirstHourMade>(),
  saveStamp: route('put', '/stamps/:key', 'keeper', { body: saveStampSchema }).answers<Stamp & Revised>(),
  deleteStamp: route('delete', '/stamps/:key', 'keeper').answers<void>(),
  stampUses: route('get', '/stamps/uses', 'reader').answers<readonly StampUse[]>(),

  saveDesign: route('put', '/designs/:key', 'keeper', { body: saveDesignSchema }).answers<ListedDesign>(),
  deleteDesign: route('delete', '/designs/:key', 'keeper').answers<void>(),
  previewDesign: route('post', '/design-preview', 'reader', { body: previewSchema }).answers<Preview>(),
  fonts: route('get', '/fonts', 'reader').answers<readonly FontRow[]>(),
  uploadFont: route('post', '/fonts', 'keeper', { body: newFontSchema, upload: 20 * megabyte }).answers<FontRow>(),
  deleteFont: route('delete', '/fonts/:key', 'keeper').answers<void>(),

  publications: route('get', '/publications', 'reader').answers<readonly PublicationRow[]>(),
  createPublication: route('post', '/publications', 'keeper', {
    body: newPublicationSchema,
  }).answers<StoredPublication>(),
  publication: route('get', '/publications/:key', 'reader').answers<StoredPublication>(),
  /** By writers only where keepers let them. */
  savePublication: route('put', '/publications/:key', 'writer', {
    body: savePublicationSchema,
  }).answers<StoredPublication>(),
  deletePublication: route('delete', '/publications/:key', 'keeper').answers<void>(),
  importNotes: route('get', '/publications/:key/import-notes', 'reader').answers<readonly ImportNote[]>(),
  /** What a cross-reference reads in a variant; null: it leads nowhere there. */
  referenceReadings: route('get', '/variants/:id/reference', 'reader', { query: referencePlaceSchema }).answers<{
    readonly readings: ReferenceReadings | null;
  }>(),
  coverage: route('get', '/publications/:key/coverage', 'reader').answers<PublicationCoverage>(),
  variants: route('get', '/variants', 'reader').answers<readonly StoredVariant[]>(),
  createVariant: route('post', '/publications/:key/variants', 'keeper', {
    body: variantSchema,
  }).answers<StoredVariant>(),
  saveVariant: route('put', '/variants/:id', 'keeper', { body: saveVariantSchema }).answers<StoredVariant>(),
  deleteVariant: route('delete', '/variants/:id', 'keeper').answers<void>(),
  compare: route('get', '/compare', 'reader', { query: compareSchema }).answers<Comparison>(),

  builds: route('get', '/builds', 'reader', { query: buildListSchema }).answers<BuildList>(),
  startBuilds: route('post', '/builds', 'writer', {
    body: startBuildsSchema,
  }).answers<{ readonly builds: readonly string[] }>(),
  build: route('get', '/builds/:id', 'reader').answers<BuildDetail>(),
  /** Stops a build that waits or is being made. */
  stopBuild: route('delete', '/builds/:id', 'writer').answers<void>(),
  shipBuild: route('put', '/builds/:id/shipped', 'writer', { body: shipSchema }).answers<void>(),
  unshipBuild: route('delete', '/builds/:id/shipped', 'keeper').answers<void>(),
  /** Builds again from the record of a build, whatever became of the library since. */
  buildOrigin: route('post', '/builds/:id/origin', 'reader', { body: originOrderSchema }).answers<OriginAnswer>(),
  buildAgain: route('post', '/builds/:id/again', 'writer').answers<{ readonly builds: readonly string[] }>(),
  checks: route('get', '/checks', 'reader').answers<StoredChecks>(),
  saveChecks: route('put', '/checks', 'keeper', { body: saveChecksSchema }).answers<StoredChecks>(),
  storage: route('get', '/storage', 'reader').answers<Storage>(),
  saveStorage: route('put', '/storage', 'keeper', { body: saveStorageSchema }).answers<Storage>(),
  deliverableZip: route('get', '/builds/:id/zip', 'reader', { query: deliverableZipSchema }).answers<void>(),
  /** The newest deliverables of all variants of a publication, together. */
  publicationZip: route('get', '/publications/:key/zip', 'reader').answers<void>(),
  deliverableFile: route('get', '/deliverables/:id/:format/*path', 'reader').answers<void>(),
  freshness: route('get', '/freshness', 'reader').answers<readonly VariantFreshness[]>(),

  importDocbook: route('post', '/imports/docbook', 'keeper', {
    body: importDocbookSchema,
    upload: 100 * megabyte,
  }).answers<ImportSummary>(),
};

/**
 * The address of a route on its server.
 * @param params the parts of the address, by name
 */
export function addressOfRoute<Path extends string>(route: Route<Path>, params: Parts<Path>): string {
  const given: Readonly<Partial<Record<string, string | number | readonly string[]>>> = params;
  return `/api${route.path.replace(/[:*](\w+)/g, (_match, name: string) =>
    [given[name] ?? ''].flat().map(encodeURIComponent).join('/'),
  )}`;
}
