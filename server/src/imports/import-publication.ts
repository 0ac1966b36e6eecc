import {
  flattenValues,
  freeKey,
  keyFromTitle,
  libraryOf,
  newRecipe,
  profileSchema,
  type Axis,
  type StoredDesign,
  type ImageBody,
  type ImportSummary,
  type ProfilesFile,
} from '@allomorph/core';
import type { ImportResult } from '@allomorph/core/interchange';
import type { Database, Queryable } from '../db/database.js';
import { HttpProblem } from '../http/problem.js';
import { storeImage } from '../images/images.js';
import { audit, type Actor } from '../audit/audit.js';
import { insertComponents, takenKeys } from '../library/components.js';
import { insertPublication } from '../publications/publications.js';
import { insertVariant } from '../publications/variants.js';
import { readDesigns, writeDesign } from '../designs/designs.js';
import { readAxes, readProfiles, writeAxis, writeProfile } from '../variation/vocabulary.js';
import { readImport } from '../threads/analyses.js';
import { isThreadLimit } from '../threads/thread-errors.js';
import type { ImportAnswer, ImportSource } from './import-thread.js';

type ImportedSource = Extract<ImportAnswer, { ok: true }>;

/**
 * Imports a DocBook source: all of it in one transaction, or nothing.
 * @throws HttpProblem 422 with file and line where the source is refused
 */
export async function importPublication(
  db: Database,
  actor: Actor,
  source: ImportSource,
  title: string,
  profiles: ProfilesFile | null,
): Promise<ImportSummary> {
  const taken = await takenKeys(db, actor.workspace);
  const order = { ...source, publication: title, profiles, taken };
  const answer = await readImport(order).catch((error: unknown): never => {
    if (isThreadLimit(error)) throw new HttpProblem(422, 'The source is larger than an import may be.');
    throw error;
  });
  if (!answer.ok) throw new HttpProblem(422, answer.message);
  return db.transaction((client) => keep(client, actor, answer, title));
}

async function keep(
  db: Queryable,
  actor: Actor,
  { result, pictures }: ImportedSource,
  title: string,
): Promise<ImportSummary> {
  const notes = [...result.notes];
  await mergeAxes(db, actor, result);
  await insertComponents(db, actor, result.components);
  for (const image of result.images) {
    const bytes = pictures.get(image.path);
    const file = bytes && (await storeImage(db, actor.workspace, bytes, image.path).catch(() => null));
    if (!file) {
      const message = `The picture “${image.path}” is missing or cannot be read.`;
      notes.push({ kind: 'missing file', message, file: image.path, line: 1 });
      continue;
    }
    const body: ImageBody = { type: 'image', alt: image.alt, file, versions: [] };
    await insertComponents(db, actor, [{ key: image.key, kind: 'image', title: image.title, revision: 1, body }]);
  }
  const { key, values, entries } = result.publication;
  await insertPublication(db, actor, { key, title, values, entries }, notes);
  const designs = await readDesigns(db, actor.workspace);
  const design = { ...result.design, key: freeDesignKey(result, designs) };
  if (!designs.some((each) => each.key === design.key)) await writeDesign(db, actor, design);
  const known = new Set((await readProfiles(db, actor.workspace)).map((profile) => profile.key));
  for (const profile of result.profiles) {
    const profileKey = freeKey(keyFromTitle(profile.title), (each) => known.has(each));
    known.add(profileKey);
    await writeProfile(db, actor, {
      key: profileKey,
      title: profile.title,
      axes: profileSchema.shape.axes.parse(profile.profile.axes),
    });
    await insertVariant(db, actor, key, {
      ...newRecipe,
      title: profile.title,
      profile: profileKey,
      values: profile.values,
      design: design.key,
      leaveOutEmpty: false,
    });
  }
  await audit(db, actor, 'import docbook', key, { components: result.components.length });
  const library = libraryOf(result.components);
  const count = (kind: string): number =>
    result.components.filter((each) => library.component(each.key)?.kind === kind).length;
  return {
    publication: key,
    topics: count('topic'),
    snippets: count('snippet'),
    variables: count('variable'),
    images: result.images.length,
    axes: result.axes.length,
    variants: result.profiles.map((profile) => profile.title),
    notes,
  };
}

/** The key of a design that is the same but for its key, or one for a new design. */
function freeDesignKey({ design }: ImportResult, designs: readonly StoredDesign[]): string {
  // The database keeps settings in an order of its own.
  const text = ({ title, from, settings }: StoredDesign): string =>
    JSON.stringify([title, from, Object.entries(settings).sort(([a], [b]) => (a < b ? -1 : 1))]);
  const same = designs.find((each) => text(each) === text(design));
  return same?.key ?? freeKey(design.key, (key) => designs.some((each) => each.key === key));
}

/** Adds the axes and values that the import names and the workspace lacks. */
async function mergeAxes(db: Queryable, actor: Actor, result: ImportResult): Promise<void> {
  const existing = new Map((await readAxes(db, actor.workspace)).map((axis) => [axis.key, axis]));
  for (const { key, values } of result.axes) {
    const axis: Axis = existing.get(key) ?? { key, title: key.charAt(0).toUpperCase() + key.slice(1), values: [] };
    const known = new Set(flattenValues(axis).map(({ value }) => value.key));
    const added = values
      .filter((value) => !known.has(value))
      .map((value, index) => ({
        key: value,
        title: value,
        code:
          value
            .replace(/[^\p{L}\p{N}]/gu, '')
            .slice(0, 2)
            .toUpperCase() || '?',
        colour: (known.size + index) % 8,
        pattern: (known.size + index) % 6,
      }));
    await writeAxis(db, actor, { ...axis, values: [...axis.values, ...added] });
  }
}
