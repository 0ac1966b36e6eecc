import { createHash } from 'node:crypto';
import {
  assemblePublication,
  flattenPages,
  imageFileName,
  numberPublication,
  recordBuild,
  plainDesign,
  renderSite,
  type ImageBody,
  type ImageFile,
  type Problem,
  type BuildRecord,
  type Component,
  type Recipe,
  type Reference,
  type Source,
  type StoredVariant,
} from '@allomorph/core';
import type { Queryable } from '../db/database.js';
import { readBlob } from '../images/blobs.js';
import { readSource } from '../publications/read-source.js';
import { readDesigns, readProfiles } from '../variation/variation.js';
import { readSiteFonts } from './site-assets.js';

/** One file of a deliverable. */
export interface DeliverableFile {
  readonly path: string;
  readonly mediaType: string;
  readonly bytes: Buffer;
}

/** What a build made. */
export interface Deliverable {
  readonly files: readonly DeliverableFile[];
  readonly problems: readonly Problem[];
  readonly pages: number;
  /** SHA-256 over the names and digests of the files, sorted by name. */
  readonly digest: string;
  /** What tells later whether it is still up to date. */
  readonly record: BuildRecord;
}

export type ReportProgress = (stage: string, progress: number) => void;

/**
 * Builds one variant from one state of the database.
 * @param buildDate what `@build-date` shows, as ISO 8601
 */
export async function buildVariant(
  db: Queryable,
  workspace: string,
  variant: StoredVariant,
  buildDate: string,
  report: ReportProgress,
): Promise<Deliverable> {
  report('reading', 0.05);
  const { source, recipe, images } = await readRecipe(db, workspace, variant, buildDate);
  report('assembling', 0.3);
  const assembled = assemblePublication(source, recipe);
  report('numbering', 0.45);
  const numbered = numberPublication(assembled, { design: recipe.design, language: recipe.language, source });
  report('rendering', 0.55);
  const pages = renderSite(numbered);
  report('gathering files', 0.8);
  const files: DeliverableFile[] = pages.map((page) => ({
    path: page.path,
    mediaType: page.path.endsWith('.css') ? 'text/css; charset=utf-8' : 'text/html; charset=utf-8',
    bytes: Buffer.from(page.text),
  }));
  const used = new Set(
    pages.flatMap((page) => [...page.text.matchAll(/src="(images\/[^"]+)"/g)].map((match) => match[1])),
  );
  for (const file of images) {
    const path = imageFileName(file);
    if (!used.has(path)) continue;
    used.delete(path);
    const bytes = await readBlob(db, file.digest);
    if (bytes) files.push({ path, mediaType: file.mediaType, bytes });
  }
  for (const font of readSiteFonts()) files.push({ ...font, mediaType: 'font/woff2' });
  files.sort((a, b) => (a.path < b.path ? -1 : 1));
  return {
    files,
    problems: numbered.problems,
    pages: flattenPages(numbered.pages).length,
    digest: digestOfFiles(files),
    record: recordBuild(assembled, source, recipe),
  };
}

/** Whether the problems of a build make a strict variant fail. */
export function failsStrictly(variant: StoredVariant, problems: readonly Problem[]): boolean {
  return variant.strict && problems.some((problem) => problem.severity === 'error');
}

function digestOfFiles(files: readonly DeliverableFile[]): string {
  const hash = createHash('sha256');
  for (const file of files) {
    hash.update(`${file.path}\0${createHash('sha256').update(file.bytes).digest('hex')}\n`);
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
 */
export async function readRecipes(
  db: Queryable,
  workspace: string,
  variants: readonly StoredVariant[],
  buildDate: string,
  more: readonly Reference[] = [],
): Promise<RecipeSource> {
  const key = variants[0]?.publication ?? '';
  const values = variants.map((variant) => variant.values);
  const read = await readSource(db, workspace, key, values, more);
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
): Promise<RecipeSource & { readonly recipe: Recipe }> {
  const read = await readRecipes(db, workspace, [variant], buildDate);
  return { ...read, recipe: read.recipes[0] as Recipe };
}
