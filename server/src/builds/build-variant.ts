import { createHash } from 'node:crypto';
import {
  assemblePublication,
  flattenPages,
  formatsOf,
  numberPublication,
  plainDesign,
  recordBuild,
  type BuildRecord,
  type Component,
  type Problem,
  type Recipe,
  type Reference,
  type Rendition,
  type Source,
  type StoredVariant,
} from '@allomorph/core';
import type { Queryable } from '../db/database.js';
import { sizesOfBlobs } from '../images/blobs.js';
import type { KnownComponent } from '../library/components.js';
import { readSource } from '../publications/read-source.js';
import { readDesigns, readProfiles } from '../variation/variation.js';
import type { DeliverableFile } from './deliverable-file.js';
import { BuildMemory } from './build-memory.js';
import { readFonts } from './fonts.js';

/** What a build made. */
export interface Deliverable {
  readonly files: readonly DeliverableFile[];
  readonly problems: readonly Problem[];
  readonly pages: number;
  /** Of all files together, in bytes. */
  readonly size: number;
  /** SHA-256 over the names and digests of the files, sorted by name. */
  readonly digest: string;
  /** What tells later whether it is still up to date. */
  readonly record: BuildRecord;
}

export type ReportProgress = (stage: string, progress: number) => void;

/**
 * Builds one variant from one state of the database.
 * @param buildDate what `@build-date` shows, as ISO 8601
 * @param memory what is kept of earlier builds; bringing a deliverable up to date is building it whole with it
 */
export async function buildVariant(
  db: Queryable,
  workspace: string,
  variant: StoredVariant,
  buildDate: string,
  report: ReportProgress,
  memory = new BuildMemory(),
): Promise<Deliverable> {
  report('reading', 0.05);
  const { source, recipe } = await readRecipe(db, workspace, variant, buildDate, memory.known(workspace));
  memory.keepLibrary(workspace, variant.publication, source.library);
  report('making pages', 0.3);
  const assembled = assemblePublication(source, recipe, memory.engine(workspace));
  const numbered = numberPublication(assembled, recipe);
  const renditions = formatsOf(variant.formats).map((format) => ({ format, rendition: format.render(numbered) }));
  report('gathering files', 0.8);
  const files = (
    await Promise.all(renditions.map(({ format, rendition }) => filesOf(db, format.folder, rendition, memory)))
  ).flat();
  files.sort((a, b) => (a.path < b.path ? -1 : 1));
  return {
    files,
    problems: numbered.problems,
    pages: flattenPages(numbered.pages).length,
    size: files.reduce((sum, file) => sum + file.size, 0),
    digest: digestOfFiles(files),
    record: recordBuild(assembled, recipe, renditions, hashOf),
  };
}

async function filesOf(
  db: Queryable,
  folder: string,
  { files, fonts }: Rendition,
  memory: BuildMemory,
): Promise<readonly DeliverableFile[]> {
  const pictures = new Map(
    files.flatMap((file) => file.pictures.map((picture) => [picture.path, picture.file] as const)),
  );
  const sizes = await sizesOfBlobs(
    db,
    [...pictures.values()].map(({ digest }) => digest),
  );
  return [
    ...files.map((file) => ({ path: folder + file.path, mediaType: file.mediaType, ...memory.form(file) })),
    ...readFonts(fonts).map((font) => ({ ...font, path: folder + font.path })),
    ...[...pictures].flatMap(([path, { digest, mediaType }]) => {
      const size = sizes.get(digest);
      return size === undefined ? [] : [{ path: folder + path, mediaType, digest, size, bytes: null }];
    }),
  ];
}

/** By which records of builds compare files: quick, as every build reads all of them. */
export function hashOf(text: string): string {
  return createHash('sha256').update(text).digest('hex').slice(0, 32);
}

/** Whether the problems of a build make a strict variant fail. */
export function failsStrictly(variant: StoredVariant, problems: readonly Problem[]): boolean {
  return variant.strict && problems.some((problem) => problem.severity === 'error');
}

function digestOfFiles(files: readonly DeliverableFile[]): string {
  const hash = createHash('sha256');
  for (const file of files) {
    hash.update(`${file.path}\0${file.digest}\n`);
  }
  return hash.digest('hex');
}

/** What it takes to assemble variants of one publication. */
export interface RecipeSource {
  readonly source: Source;
  /** One for each variant, in their order. */
  readonly recipes: readonly Recipe[];
  readonly components: readonly Component[];
  /** All that was looked for on the way, whether it is there or not. */
  readonly references: readonly string[];
}

/**
 * Everything that it takes to assemble some variants of one publication, from one state of the database.
 * @param more further references to follow
 * @param known what was read before
 */
export async function readRecipes(
  db: Queryable,
  workspace: string,
  variants: readonly StoredVariant[],
  buildDate: string,
  more: readonly Reference[] = [],
  known?: KnownComponent,
): Promise<RecipeSource> {
  const key = variants[0]?.publication ?? '';
  const values = variants.map((variant) => variant.values);
  const read = await readSource(db, workspace, key, values, more, known);
  if (!read) throw new Error(`The publication “${key}” does not exist any more.`);
  const { publication, source, components, references } = read;
  const profiles = await readProfiles(db, workspace);
  const designs = await readDesigns(db, workspace);
  const recipes = variants.map((variant): Recipe => {
    const profile = profiles.find((each) => each.key === variant.profile);
    if (!profile) throw new Error(`The profile “${variant.profile}” does not exist any more.`);
    return {
      publication,
      variantTitle: variant.title,
      profile,
      values: variant.values,
      language: variant.language,
      design: designs.find((each) => each.key === variant.design) ?? plainDesign,
      buildDate,
      leaveOutEmpty: variant.leaveOutEmpty,
    };
  });
  return { source, recipes, components, references };
}

/** The same for one variant. */
export async function readRecipe(
  db: Queryable,
  workspace: string,
  variant: StoredVariant,
  buildDate: string,
  known?: KnownComponent,
): Promise<RecipeSource & { readonly recipe: Recipe }> {
  const read = await readRecipes(db, workspace, [variant], buildDate, [], known);
  const [recipe] = read.recipes;
  if (!recipe) throw new Error('A variant has a recipe.');
  return { ...read, recipe };
}
