import { HttpClient, HttpContext, HttpErrorResponse, HttpParams } from '@angular/common/http';
import { inject, Injectable } from '@angular/core';
import {
  addressOfRoute,
  routes,
  type ActOnMany,
  type ChangeKey,
  type RenameCollection,
  type AnswerOf,
  type Axis,
  type BinKind,
  type ChangedComponent,
  type ComponentLabels,
  type FirstHour,
  type Given,
  type ListedDesign,
  type NewComponent,
  type OwnSettings,
  type PreviewOrder,
  type ReplaceText,
  type Revised,
  type Route,
  type SaveChecks,
  type SaveComponent,
  type SavedSearch,
  type Stamp,
  type StepBack,
  type StoredProfile,
  type StoredPublication,
  type VariantRecipe,
} from '@allomorph/core';
import type { Observable } from 'rxjs';
import { askedQuietly } from './sign-in-again';

/** What the library list is narrowed to. */
export type LibraryFilter = Given<typeof routes.components>['query'];

/** The server: its routes as methods, with what they take and answer from the contract. */
@Injectable({ providedIn: 'root' })
export class Api {
  private readonly http = inject(HttpClient);

  private call<R extends Route>(
    route: R,
    given: Given<R>,
    more: { readonly file?: File; readonly quietly?: boolean; readonly keepalive?: boolean } = {},
  ): Observable<AnswerOf<R>> {
    const { params = {}, query = {}, body } = given as Partial<Record<'params' | 'query' | 'body', object>>;
    const { file, quietly = false, keepalive = false } = more;
    return this.http.request<AnswerOf<R>>(route.method, addressOfRoute(route, params), {
      params: new HttpParams({ fromObject: withoutEmpty(query) }),
      body: file ? formOf(file, body ?? {}) : body,
      context: new HttpContext().set(askedQuietly, quietly),
      keepalive,
    });
  }

  session = () => this.call(routes.session, {});
  signIn = (name: string, password: string) => this.call(routes.signIn, { body: { name, password } });
  signOut = () => this.call(routes.signOut, {});

  saveOwn = (name: string, settings: OwnSettings) => this.call(routes.saveOwn, { body: { name, settings } });
  changePassword = (current: string, password: string) =>
    this.call(routes.changePassword, { body: { current, password } });
  ownSessions = () => this.call(routes.ownSessions, {});
  endOtherSessions = () => this.call(routes.endOtherSessions, {});

  drafts = (thing: string) => this.call(routes.drafts, { query: { thing } }, { quietly: true });
  keepDraft = (body: Given<typeof routes.keepDraft>['body'], keepalive: boolean) =>
    this.call(routes.keepDraft, { body }, { quietly: true, keepalive });
  dropDraft = (thing: string, window: string, keepalive: boolean) =>
    this.call(routes.dropDraft, { query: { thing, window } }, { quietly: true, keepalive });

  people = () => this.call(routes.people, {});
  savePerson = (id: string, body: Given<typeof routes.savePerson>['body']) =>
    this.call(routes.savePerson, { params: { id }, body });
  resetPerson = (id: string) => this.call(routes.resetPerson, { params: { id } });
  sessionsOf = (id: string) => this.call(routes.sessionsOf, { params: { id } });
  endSessions = (id: string) => this.call(routes.endSessions, { params: { id } });
  invitations = () => this.call(routes.invitations, {});
  invite = (body: Given<typeof routes.invite>['body']) => this.call(routes.invite, { body });
  withdrawInvitation = (id: string) => this.call(routes.withdrawInvitation, { params: { id } });
  outbox = () => this.call(routes.outbox, {});
  readInvitation = (token: string) => this.call(routes.readInvitation, { body: { token } });
  acceptInvitation = (body: Given<typeof routes.acceptInvitation>['body']) =>
    this.call(routes.acceptInvitation, { body });
  audit = (query: Given<typeof routes.audit>['query']) => this.call(routes.audit, { query });

  components = (query: LibraryFilter) => this.call(routes.components, { query });
  places = (find: string) => this.call(routes.places, { query: { find } });
  createComponent = (body: NewComponent) => this.call(routes.createComponent, { body });
  component = (key: string) => this.call(routes.component, { params: { key } });
  offers = (line: string) => this.call(routes.offers, { body: { line } }, { quietly: true });
  holders = (key: string) => this.call(routes.holders, { params: { key } });
  bringUp = (key: string, holders: { key: string; revision: number }[]) =>
    this.call(routes.bringUp, { params: { key }, body: { holders } });
  passages = (query: Given<typeof routes.passages>['query']) => this.call(routes.passages, { query });
  replaceText = (body: ReplaceText) => this.call(routes.replaceText, { body });
  takeBack = (components: ChangedComponent[]) => this.call(routes.takeBack, { body: { components } });
  actOnMany = (body: ActOnMany) => this.call(routes.actOnMany, { body });
  takeStepsBack = (steps: readonly StepBack[]) => this.call(routes.takeStepsBack, { body: { steps: [...steps] } });
  closure = (key: string) => this.call(routes.closure, { params: { key } });
  saveComponent = (key: string, body: SaveComponent) => this.call(routes.saveComponent, { params: { key }, body });
  deleteComponent = (key: string) => this.call(routes.deleteComponent, { params: { key } });
  restoreComponent = (key: string) => this.call(routes.restoreComponent, { params: { key } });
  bin = () => this.call(routes.bin, {});
  restore = (kind: BinKind, key: string) => this.call(routes.restore, { body: { kind, key } });
  label = (key: string, body: ComponentLabels) => this.call(routes.labelComponent, { params: { key }, body });
  changeKey = (key: string, body: ChangeKey) => this.call(routes.changeKey, { params: { key }, body });
  renameCollection = (body: RenameCollection) => this.call(routes.renameCollection, { body });
  labels = () => this.call(routes.labels, {});
  savedSearches = () => this.call(routes.savedSearches, {});
  saveSearch = (body: SavedSearch) => this.call(routes.saveSearch, { body });
  deleteSearch = (name: string) => this.call(routes.deleteSearch, { body: { name } });
  reach = (key: string, body: SaveComponent) => this.call(routes.reach, { params: { key }, body });
  freshness = () => this.call(routes.freshness, {});
  uses = (key: string, query: Given<typeof routes.uses>['query'] = {}) =>
    this.call(routes.uses, { params: { key }, query });
  referenceReadings = (id: string, query: Given<typeof routes.referenceReadings>['query']) =>
    this.call(routes.referenceReadings, { params: { id }, query });
  variables = () => this.call(routes.variables, {});
  titles = (keys: readonly string[]) => this.call(routes.titles, { body: { keys } });
  revisions = (key: string) => this.call(routes.revisions, { params: { key } });
  revision = (key: string, revision: number) => this.call(routes.revision, { params: { key, revision } });
  uploadImage = (file: File, alt: string) => this.call(routes.uploadImage, { body: { alt } }, { file });
  /** An image with the file: one that is there already, or a new one. */
  takeIn = (file: File, title: string, alt: string) =>
    this.call(routes.uploadImage, { body: { title, alt, once: 'yes' } }, { file });
  /** Keeps the bytes of a picture, for an image that shows them in some case. */
  storePicture = (file: File) => this.call(routes.storePicture, {}, { file });
  storeRecording = (file: File) => this.call(routes.storeRecording, {}, { file });
  replaceFile = (key: string, file: File, base: number) =>
    this.call(routes.replaceFile, { params: { key }, body: { base } }, { file });

  variation = () => this.call(routes.variation, {});
  saveAxis = ({ revision, ...axis }: Axis & Revised) =>
    this.call(routes.saveAxis, { params: { key: axis.key }, body: { ...axis, base: revision } });
  deleteAxis = (key: string) => this.call(routes.deleteAxis, { params: { key } });
  saveProfile = ({ revision, ...profile }: StoredProfile & Revised) =>
    this.call(routes.saveProfile, { params: { key: profile.key }, body: { ...profile, base: revision } });
  saveStamp = ({ revision, ...stamp }: Stamp & Revised) =>
    this.call(routes.saveStamp, { params: { key: stamp.key }, body: { ...stamp, base: revision } });
  deleteStamp = (key: string) => this.call(routes.deleteStamp, { params: { key } });
  orderAxes = (keys: readonly string[]) => this.call(routes.orderAxes, { body: { keys: [...keys] } });
  valueUses = () => this.call(routes.valueUses, {});
  valueGivenUp = (key: string, value: string, into?: string) =>
    this.call(routes.valueGivenUp, { params: { key }, query: { value, ...(into ? { into } : {}) } });
  giveUpValue = (key: string, body: Given<typeof routes.giveUpValue>['body']) =>
    this.call(routes.giveUpValue, { params: { key }, body });
  vocabularyActs = () => this.call(routes.vocabularyActs, {});
  takeVocabularyActBack = (id: string) => this.call(routes.takeVocabularyActBack, { params: { id } });
  stampUses = () => this.call(routes.stampUses, {});
  deleteProfile = (key: string) => this.call(routes.deleteProfile, { params: { key } });

  saveDesign = ({ key, title, from, settings, revision }: ListedDesign) =>
    this.call(routes.saveDesign, { params: { key }, body: { key, title, from, settings, base: revision } });
  deleteDesign = (key: string) => this.call(routes.deleteDesign, { params: { key } });
  previewDesign = (body: PreviewOrder) => this.call(routes.previewDesign, { body }, { quietly: true });
  fonts = () => this.call(routes.fonts, {});
  uploadFont = (file: File, body: Given<typeof routes.uploadFont>['body']) =>
    this.call(routes.uploadFont, { body }, { file });
  deleteFont = (key: string) => this.call(routes.deleteFont, { params: { key } });

  publications = () => this.call(routes.publications, {});
  publication = (key: string) => this.call(routes.publication, { params: { key } });
  coverage = (key: string) => this.call(routes.coverage, { params: { key } });
  importNotes = (key: string) => this.call(routes.importNotes, { params: { key } });
  createPublication = (title: string, outlineOf?: string) =>
    this.call(routes.createPublication, { body: { title, ...(outlineOf === undefined ? {} : { outlineOf }) } });
  savePublication = ({ key, revision, title, values, entries }: StoredPublication) =>
    this.call(routes.savePublication, { params: { key }, body: { base: revision, title, values, entries } });
  deletePublication = (key: string) => this.call(routes.deletePublication, { params: { key } });

  variants = () => this.call(routes.variants, {});
  createVariant = (publication: string, body: VariantRecipe) =>
    this.call(routes.createVariant, { params: { key: publication }, body });
  saveVariant = (id: string, base: number, body: VariantRecipe) =>
    this.call(routes.saveVariant, { params: { id }, body: { ...body, base } });
  deleteVariant = (id: string) => this.call(routes.deleteVariant, { params: { id } });
  compare = (query: Given<typeof routes.compare>['query']) => this.call(routes.compare, { query });

  builds = (query: Given<typeof routes.builds>['query']) => this.call(routes.builds, { query });
  build = (id: string) => this.call(routes.build, { params: { id } });
  stopBuild = (id: string) => this.call(routes.stopBuild, { params: { id } });
  buildOrigin = (id: string, body: Given<typeof routes.buildOrigin>['body']) =>
    this.call(routes.buildOrigin, { params: { id }, body });
  shipBuild = (id: string, body: Given<typeof routes.shipBuild>['body']) =>
    this.call(routes.shipBuild, { params: { id }, body });
  unshipBuild = (id: string) => this.call(routes.unshipBuild, { params: { id } });
  buildAgain = (id: string) => this.call(routes.buildAgain, { params: { id } });
  storage = () => this.call(routes.storage, {});
  saveStorage = (kept: number) => this.call(routes.saveStorage, { body: { kept } });
  checks = () => this.call(routes.checks, {});
  saveChecks = (body: SaveChecks) => this.call(routes.saveChecks, { body });
  saveWritersOutline = (allowed: boolean) => this.call(routes.saveWritersOutline, { body: { allowed } });
  makeFirst = (body: FirstHour) => this.call(routes.firstHour, { body });
  startBuilds = (variants: readonly string[]) => this.call(routes.startBuilds, { body: { variants } });
  importDocbook = (file: File, title: string, main: string, profiles: string) =>
    this.call(routes.importDocbook, { body: { title, main, profiles } }, { file });
}

/** What of a query says something. */
function withoutEmpty(query: object): Record<string, string | number> {
  return Object.fromEntries(
    Object.entries(query).filter(([, value]) => value !== null && value !== undefined && value !== ''),
  );
}

function formOf(file: File, fields: object): FormData {
  const form = new FormData();
  form.set('file', file);
  for (const [name, value] of Object.entries(fields)) form.set(name, String(value));
  return form;
}

/** The one sentence that a failed request has for the person. */
export function problemText(error: unknown): string {
  if (error instanceof HttpErrorResponse) {
    const detail = (error.error as { detail?: unknown } | null)?.detail;
    if (typeof detail === 'string') return detail;
    if (error.status === 0) return 'The server cannot be reached; nothing was saved. Is it still running?';
    return `The server answered with ${error.status}.`;
  }
  return error instanceof Error ? error.message : String(error);
}
