import type { Queryable } from '../db/database.js';

/** The languages that a team writes: those of its variants, and English. */
export async function languagesOf(db: Queryable, workspace: string): Promise<readonly string[]> {
  const { rows } = await db.query<{ language: string }>(
    `select distinct split_part(lower(recipe ->> 'language'), '-', 1) as language from variants
      where workspace = $1 and deleted_at is null`,
    [workspace],
  );
  return [...new Set(['en', ...rows.map(({ language }) => language)])];
}
