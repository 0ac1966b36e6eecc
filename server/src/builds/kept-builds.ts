import { isDeepStrictEqual } from 'node:util';
import { LRUCache } from 'lru-cache';
import {
  buildSite,
  recordBuild,
  updateSite,
  type BuildRecord,
  type Recipe,
  type SiteBuild,
  type SiteFile,
  type Source,
} from '@allomorph/core';
import { digestOf } from '../images/blobs.js';
import type { KnownComponent } from '../library/components.js';
import type { DeliverableFile } from './deliverable-file.js';

/** A page or the style sheet of a site; its bytes are null where an earlier build stored them. */
export interface PageFile extends DeliverableFile {
  /** The paths of the images that it shows. */
  readonly images: readonly string[];
}

/** A build of a variant with its files in order. */
export interface MadeSite {
  readonly site: SiteBuild;
  readonly record: BuildRecord;
  readonly files: readonly PageFile[];
}

interface KeptBuild extends MadeSite {
  readonly workspace: string;
}

/** How many builds are kept, and how many pages they have together. A thousand pages of 650 words took 56 MB, those of another variant 4 MB more. */
const limits = { max: 12, maxSize: 6000 };

/**
 * The last builds of a process, one for each variant. The next build of the variant reads the components
 * that changed since, and makes the pages that these alter; a first build of another variant finds the
 * pieces made that the two have in common.
 */
export class KeptBuilds {
  private readonly builds = new LRUCache<string, KeptBuild>({
    ...limits,
    sizeCalculation: ({ files }) => Math.max(1, files.length),
  });

  /** Finds components that the kept builds of a workspace hold. */
  known(workspace: string): KnownComponent {
    return (key, revision) => {
      for (const build of this.builds.values()) {
        if (build.workspace !== workspace) continue;
        const found = build.site.source.library.revision(key, revision);
        if (found) return found;
      }
      return undefined;
    };
  }

  /** Builds a variant, out of its last build where that is kept. */
  build(variant: string, source: Source, recipe: Recipe): MadeSite {
    const kept = this.builds.get(variant);
    const site = kept ? rebuild(kept.site, source, recipe) : buildSite(source, recipe);
    const record = recordBuild(site, kept && { ...kept.site, record: kept.record });
    const stored = new Map(kept?.files.map((file) => [file.path, file]));
    const made = new Map(site.files.map((file) => [file.path, pageFile(file)]));
    const files = site.paths.flatMap((path) => made.get(path) ?? stored.get(path) ?? []);
    return { site, record, files };
  }

  /** Keeps a build whose files are stored. */
  keep(workspace: string, variant: string, { site, record, files }: MadeSite): void {
    this.builds.set(variant, {
      workspace,
      record,
      site: { ...site, files: [] },
      files: files.map((file) => (file.bytes ? { ...file, bytes: null } : file)),
    });
  }
}

/** Equal parts stay the same objects, by which the engine tells that nothing changed. */
function rebuild(earlier: SiteBuild, source: Source, recipe: Recipe): SiteBuild {
  const axes = asBefore(earlier.source.axes, source.axes);
  const publications = asBefore(earlier.source.publications, source.publications);
  return updateSite(earlier, { ...source, axes, publications }, asBefore(earlier.recipe, recipe));
}

function asBefore<T>(before: T, now: T): T {
  return isDeepStrictEqual(before, now) ? before : now;
}

function pageFile({ path, text }: SiteFile): PageFile {
  const bytes = Buffer.from(text);
  return {
    path,
    mediaType: path.endsWith('.css') ? 'text/css; charset=utf-8' : 'text/html; charset=utf-8',
    digest: digestOf(bytes),
    size: bytes.length,
    images: [...text.matchAll(/src="(images\/[^"]+)"/g)].map((match) => match[1] ?? ''),
    bytes,
  };
}
