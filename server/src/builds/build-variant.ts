import { createHash } from 'node:crypto';
import {
  assemblePublication,
  flattenPages,
  formatsOf,
  numberPublication,
  plainDesign,
  recordBuild,
  referencesOfDesign,
  type BuildRecord,
  renditionDigest,
  uncoveredCharacters,
  type Component,
  type Format,
  type Problem,
  type Recipe,
  type Reference,
  type Rendition,
  type Source,
  type StoredDesign,
  type StoredVariant,
} from '@allomorph/core';
import type { Queryable } from '../db/database.js';
import type { KnownComponent } from '../library/components.js';
import { readSource } from '../publications/read-source.js';
import { coverageOf } from '../designs/coverage.js';
import { designForBuild, readDesigns } from '../designs/designs.js';
import { readFamilies } from '../designs/font-families.js';
import { readProfiles, readStamps } from '../variation/vocabulary.js';
import type { DeliverableFile } from './deliverable-file.js';
import { BuildMemory } from './build-memory.js';
import { keepSource, readKeptSource } from './build-source.js';
import { pack, type PackingTools } from './pack.js';
import { Typesetter } from '../typesetting/typesetter.js';

/** What a build made of one format. */
export interface FormatDeliverable {
  readonly format: string;
  /** Why there is nothing of it; null: it is there. */
  readonly failed: string | null;
  readonly files: readonly DeliverableFile[];
  /** Of all files together, in bytes. */
  readonly size: number;
  /** SHA-256 over the names and digests of the files, sorted by name. */
  readonly digest: string;
  /** Of paper; null for formats without. */
  readonly pages: number | null;
  /** Of this format only. */
  readonly problems: readonly Problem[];
  readonly milliseconds: number;
}

/** What a build made. */
export interface Deliverable {
  readonly formats: readonly FormatDeliverable[];
  /** Of the publication, in every format. */
  readonly problems: readonly Problem[];
  /** How many topics and headings stand in it. */
  readonly pages: number;
  /** Of all files together, in bytes. */
  readonly size: number;
  /** SHA-256 over the digests of the formats. */
  readonly digest: string;
  /** What tells later whether it is still up to date. */
  readonly record: BuildRecord;
  /** What it was made of, packed. */
  readonly source: Buffer;
}

export type ReportProgress = (stage: string, progress: number) => void;

/**
 * Builds one variant from one state of the database.
 * @param buildDate what `@build-date` shows, as ISO 8601
 * @param memory what is kept of earlier builds; bringing a deliverable up to date is building it whole with it
 * @param kept what an earlier build was made of: it is made again, on its day, whatever the library is by now
 */
export async function buildVariant(
  db: Queryable,
  workspace: string,
  variant: StoredVariant,
  buildDate: string,
  report: ReportProgress,
  memory = new BuildMemory(),
  kept: Buffer | null = null,
): Promise<Deliverable> {
  report('reading', 0.05);
  const read = kept
    ? await readKeptSource(db, workspace, kept)
    : await readRecipe(db, workspace, variant, buildDate, memory.known(workspace));
  const { source, recipe } = read;
  // What was kept of earlier says nothing of the library as it is.
  if (!kept) memory.keepLibrary(workspace, variant.publication, source.library);
  report('making pages', 0.3);
  const assembled = assemblePublication(source, recipe, memory.engine(workspace));
  const numbered = numberPublication(assembled, recipe);
  const made: { format: Format; rendition: Rendition }[] = [];
  const formats: FormatDeliverable[] = [];
  const wanted = formatsOf(variant.formats);
  for (const [at, format] of wanted.entries()) {
    report(`making ${format.title}`, 0.4 + (0.5 * at) / wanted.length);
    const begun = performance.now();
    const rendition = format.render(numbered);
    made.push({ format, rendition });
    const packed = await packedOrFailed(format, rendition, {
      db,
      memory,
      typesetter,
      buildDate: recipe.buildDate,
      start: format.start,
    });
    formats.push({ ...packed, milliseconds: Math.round(performance.now() - begun) });
  }
  const isSeen = wanted.some(({ capabilities }) => capabilities.hasLooks);
  const uncovered = isSeen ? uncoveredCharacters(numbered, await coverageOf(db, recipe.design)) : [];
  const problems = [...numbered.problems, ...uncovered];
  return {
    formats,
    problems,
    pages: flattenPages(numbered.pages).length,
    size: formats.reduce((sum, each) => sum + each.size, 0),
    digest: digestOfLines(formats.map(({ format, digest }) => `${format}\0${digest}`)),
    record: recordBuild(assembled, recipe, made, hashOf),
    source: kept ?? keepSource(read),
  };
}

/** What the formats of all builds of a process are typeset by. */
const typesetter = new Typesetter();

/** One format that fails does not take the others away. */
async function packedOrFailed(
  format: Format,
  rendition: Rendition,
  tools: PackingTools,
): Promise<Omit<FormatDeliverable, 'milliseconds'>> {
  const name = [format.name, format.version, tools.buildDate, renditionDigest(rendition, hashOf)].join(' ');
  try {
    const packed = tools.memory.packed(name) ?? (await pack(format.container, rendition, tools));
    tools.memory.keepPacked(name, packed);
    const files = packed.files.toSorted((a, b) => (a.path < b.path ? -1 : 1));
    return {
      format: format.name,
      failed: null,
      files,
      size: files.reduce((sum, file) => sum + file.size, 0),
      digest: digestOfLines(files.map(({ path, digest }) => `${path}\0${digest}`)),
      pages: packed.pages,
      problems: packed.problems,
    };
  } catch (error) {
    const failed = error instanceof Error ? error.message : String(error);
    return { format: format.name, failed, files: [], size: 0, digest: '', pages: null, problems: [] };
  }
}

/** By which records of builds compare files: quick, as every build reads all of them. */
export function hashOf(text: string): string {
  return createHash('sha256').update(text).digest('hex').slice(0, 32);
}

/**
 * Why a build makes nothing for its problems: the variant stops at some of them.
 * @param problems those of the content and those of each format
 * @returns a sentence, or null: it makes what it can
 */
export function reasonToStop({ stopsAt }: Pick<StoredVariant, 'stopsAt'>, problems: readonly Problem[]): string | null {
  if (stopsAt === 'never') return null;
  if (problems.some(({ severity }) => severity === 'error'))
    return 'The variant stops at errors, and the build has some.';
  return stopsAt === 'warnings' && problems.length > 0
    ? 'The variant stops at warnings, and the build has some.'
    : null;
}

function digestOfLines(lines: readonly string[]): string {
  return createHash('sha256')
    .update(lines.map((line) => `${line}\n`).join(''))
    .digest('hex');
}

/** What it takes to assemble variants of one publication. */
export interface RecipeSource {
  readonly source: Source;
  /** One for each variant, in their order. */
  readonly recipes: readonly Recipe[];
  readonly components: readonly Component[];
  /** Older revisions that held placements stay at. */
  readonly held: readonly Component[];
  /** All that was looked for on the way, whether it is there or not. */
  readonly references: readonly string[];
}

/**
 * Everything that it takes to assemble some variants of one publication, from one state of the database.
 * @param more further references to follow
 * @param known what was read before
 * @param designs those of the workspace as they would be; not given: as they are
 */
export async function readRecipes(
  db: Queryable,
  workspace: string,
  variants: readonly StoredVariant[],
  buildDate: string,
  more: readonly Reference[] = [],
  known?: KnownComponent,
  designs?: readonly StoredDesign[],
): Promise<RecipeSource> {
  const key = variants[0]?.publication ?? '';
  const values = variants.map((variant) => variant.values);
  const all = designs ?? (await readDesigns(db, workspace));
  const families = await readFamilies(db, workspace);
  const stamps = await readStamps(db, workspace);
  const looks = variants.map(({ design, language }) =>
    designForBuild({ key: design, language }, all, families, stamps),
  );
  const references = [...more, ...looks.flatMap(referencesOfDesign)];
  const read = await readSource(db, workspace, key, values, references, known);
  if (!read) throw new Error(`The publication “${key}” does not exist any more.`);
  const { publication, source, components, held, references: looked } = read;
  const profiles = await readProfiles(db, workspace);
  const recipes = variants.map((variant, at): Recipe => {
    const profile = profiles.find((each) => each.key === variant.profile);
    if (!profile) throw new Error(`The profile “${variant.profile}” does not exist any more.`);
    return {
      publication,
      variantTitle: variant.title,
      profile,
      values: variant.values,
      language: variant.language,
      design: looks[at] ?? plainDesign,
      buildDate,
      leaveOutEmpty: variant.leaveOutEmpty,
    };
  });
  return { source, recipes, components, held, references: looked };
}

/** The same for one variant. */
export async function readRecipe(
  db: Queryable,
  workspace: string,
  variant: StoredVariant,
  buildDate: string,
  known?: KnownComponent,
  designs?: readonly StoredDesign[],
): Promise<RecipeSource & { readonly recipe: Recipe }> {
  const read = await readRecipes(db, workspace, [variant], buildDate, [], known, designs);
  const [recipe] = read.recipes;
  if (!recipe) throw new Error('A variant has a recipe.');
  return { ...read, recipe };
}
