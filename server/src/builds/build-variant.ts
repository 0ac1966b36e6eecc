import { createHash } from 'node:crypto';
import {
  flattenPages,
  imageFileName,
  plainDesign,
  type ImageBody,
  type ImageFile,
  type Problem,
  type Component,
  type Recipe,
  type Reference,
  type Source,
  type StoredVariant,
} from '@allomorph/core';
import type { Queryable } from '../db/database.js';
import { sizesOfBlobs } from '../images/blobs.js';
import type { KnownComponent } from '../library/components.js';
import { readSource } from '../publications/read-source.js';
import { readDesigns, readProfiles } from '../variation/variation.js';
import type { DeliverableFile } from './deliverable-file.js';
import { KeptBuilds, type MadeSite } from './kept-builds.js';
import { readSiteFonts } from './site-assets.js';

/** What a build made. */
export interface Deliverable {
  readonly files: readonly DeliverableFile[];
  readonly problems: readonly Problem[];
  readonly pages: number;
  /** Of all files together, in bytes. */
  readonly size: number;
  /** SHA-256 over the names and digests of the files, sorted by name. */
  readonly digest: string;
  /** What tells later whether it is still up to date, and what the next build can begin from. */
  readonly made: MadeSite;
}

export type ReportProgress = (stage: string, progress: number) => void;

/**
 * Builds one variant from one state of the database.
 * @param buildDate what `@build-date` shows, as ISO 8601
 * @param kept earlier builds, to begin from
 */
export async function buildVariant(
  db: Queryable,
  workspace: string,
  variant: StoredVariant,
  buildDate: string,
  report: ReportProgress,
  kept = new KeptBuilds(),
): Promise<Deliverable> {
  report('reading', 0.05);
  const { source, recipe, images } = await readRecipe(db, workspace, variant, buildDate, kept.known(workspace));
  report('making pages', 0.3);
  const made = kept.build(variant.id, source, recipe);
  report('gathering files', 0.8);
  const shown = new Set(made.files.flatMap((page) => page.images));
  const pictures = new Map(images.map((file) => [imageFileName(file), file]));
  const sizes = await sizesOfBlobs(
    db,
    [...pictures.values()].map(({ digest }) => digest),
  );
  const files: DeliverableFile[] = [...made.files, ...readSiteFonts()];
  for (const [path, { digest, mediaType }] of pictures) {
    const size = sizes.get(digest);
    if (shown.has(path) && size !== undefined) files.push({ path, mediaType, digest, size, bytes: null });
  }
  files.sort((a, b) => (a.path < b.path ? -1 : 1));
  const { numbered } = made.site;
  return {
    files,
    problems: numbered.problems,
    pages: flattenPages(numbered.pages).length,
    size: files.reduce((sum, file) => sum + file.size, 0),
    digest: digestOfFiles(files),
    made,
  };
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
  readonly images: readonly ImageFile[];
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
  const { publication, source, components } = read;
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
  const images = components
    .filter((component) => component.kind === 'image')
    .flatMap(({ body }) => [(body as ImageBody).file, ...(body as ImageBody).versions.map((version) => version.file)]);
  return { source, recipes, components, images };
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
  return { ...read, recipe: read.recipes[0] as Recipe };
}
