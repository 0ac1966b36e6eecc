import { othersText, type OtherSite } from '@allomorph/core';
import type { Queryable } from '../db/database.js';

/** A site among those that are put together. */
export interface Site {
  readonly build: string;
  readonly title: string;
  readonly language: string;
}

/** So many variants are offered on a page. */
const mostOffered = 100;

/** The newest deliverable of each variant of a publication, of those that are kept. */
export async function newestOf(db: Queryable, workspace: string, publication: string): Promise<readonly Site[]> {
  const { rows } = await db.query<Site>(
    `select distinct on (b.variant) b.id as build, b.variant_title as title, b.recipe ->> 'language' as language
       from variants v join builds b on b.variant = v.id and b.state = 'done' and not b.files_dropped
      where v.workspace = $1 and v.publication = $2 and v.deleted_at is null
      order by b.variant, b.queued_at desc`,
    [workspace, publication],
  );
  return [...rows].sort((a, b) => a.title.localeCompare(b.title));
}

/** The sites of a build's publication: of each variant the newest one whose files are kept, that of the build itself left out. */
export async function otherSites(db: Queryable, build: string): Promise<readonly Site[]> {
  const { rows } = await db.query<Site>(
    `select distinct on (o.variant) o.id as build, o.variant_title as title, o.recipe ->> 'language' as language
       from builds b
       join variants own on own.id = b.variant
       join variants v on v.workspace = own.workspace and v.publication = own.publication and v.id <> own.id
        and v.deleted_at is null
       join builds o on o.variant = v.id and o.state = 'done' and not o.files_dropped
      where b.id = $1 and exists (select from deliverable_files f where f.build = o.id and f.format = 'html')
      order by o.variant, o.queued_at desc`,
    [build],
  );
  return [...rows].sort((a, b) => a.title.localeCompare(b.title)).slice(0, mostOffered);
}

/**
 * The file of a site that says which others lie beside it.
 * @param folderOf the address of another site's folder, as seen from the pages of the site
 */
export async function othersFileText(
  db: Queryable,
  build: string,
  others: readonly Site[],
  folderOf: (site: Site) => string,
): Promise<string> {
  const { rows } = await db.query<{ build: string; lacks: string[] }>(
    `select o.build, array(
        select f.path from deliverable_files f where f.build = $1 and f.format = 'html' and f.path like '%.html'
        except select g.path from deliverable_files g where g.build = o.build and g.format = 'html') as lacks
       from unnest($2::uuid[]) as o (build)`,
    [build, others.map((site) => site.build)],
  );
  const lacks = new Map(rows.map((row) => [row.build, row.lacks]));
  return othersText(
    others.map((site): OtherSite => ({
      title: site.title,
      language: site.language,
      folder: folderOf(site),
      lacks: [...(lacks.get(site.build) ?? [])].sort(),
    })),
  );
}
