import type { FontFace, FontFamily, FontRow } from '@allomorph/core';
import type { Queryable } from '../db/database.js';

/** The uploaded families of a workspace, by title. */
export async function readFonts(db: Queryable, workspace: string): Promise<readonly FontRow[]> {
  const { rows } = await db.query<{
    key: string;
    title: string;
    licence: string;
    faces: readonly (FontFace & { readonly name: string })[];
  }>(
    'select key, title, licence, faces from fonts where workspace = $1 and deleted_at is null order by lower(title), key',
    [workspace],
  );
  return rows.map(({ faces, ...row }) => ({
    ...row,
    name: faces[0]?.name ?? row.title,
    faces: faces.map(({ digest, mediaType, weight, isItalic }) => ({ digest, mediaType, weight, isItalic })),
  }));
}

/** The same as builds take them, by key. */
export async function readFamilies(db: Queryable, workspace: string): Promise<ReadonlyMap<string, FontFamily>> {
  return new Map((await readFonts(db, workspace)).map(({ key, name, faces }) => [key, { name, faces }]));
}
