import type { StoredVariant } from '@allomorph/core';
import type { Queryable } from '../db/database.js';
import { readVariants } from '../publications/variants.js';

/** The titles of a workspace's publications, by key. */
export async function titlesOfPublications(db: Queryable, workspace: string): Promise<ReadonlyMap<string, string>> {
  const { rows } = await db.query<{ key: string; title: string }>(
    'select key, title from publications where workspace = $1 and deleted_at is null',
    [workspace],
  );
  return new Map(rows.map((row) => [row.key, row.title]));
}

/** The variants of a workspace, publication by publication. */
export async function variantsByPublication(db: Queryable, workspace: string): Promise<readonly StoredVariant[][]> {
  const groups = new Map<string, StoredVariant[]>();
  for (const variant of await readVariants(db, workspace)) {
    groups.set(variant.publication, [...(groups.get(variant.publication) ?? []), variant]);
  }
  return [...groups.values()];
}
