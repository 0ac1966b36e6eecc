import { readFile } from 'node:fs/promises';
import {
  freeKey,
  isShippedFamily,
  keyFromTitle,
  routes,
  settingOf,
  type FontFace,
  type FontRow,
} from '@allomorph/core';
import type { Router } from 'express';
import { audit, type Actor } from '../audit/audit.js';
import { oneRow, type Database, type Queryable } from '../db/database.js';
import { actorOf, serve } from '../http/context.js';
import { HttpProblem } from '../http/problem.js';
import { storeBlob } from '../images/blobs.js';
import { readDesigns } from './designs.js';
import { readFonts } from './font-families.js';
import { readFontFile, type FontFile } from './font-file.js';

interface NewFont {
  readonly title: string;
  readonly key: string;
  readonly licence: string;
}

/** Adds a file to a family, in place of one of the same weight and slope; a family of its own where none is named. */
async function addFont(db: Queryable, actor: Actor, file: FontFile, given: NewFont): Promise<FontRow> {
  const { workspace } = actor;
  await db.query('select from workspaces where id = $1 for update', [workspace]);
  const families = await readFonts(db, workspace);
  const family = families.find(({ key }) => key === given.key);
  if (given.key !== '' && !family) throw new HttpProblem(404, `There is no family “${given.key}”.`);
  if (family && family.name !== file.name)
    throw new HttpProblem(422, `This file is of the family “${file.name}”, not of “${family.name}”.`);
  const digest = await storeBlob(db, file.bytes);
  const face: FontFace & { readonly name: string } = {
    digest,
    mediaType: file.mediaType,
    weight: file.weight,
    isItalic: file.isItalic,
    name: file.name,
  };
  const others = (family?.faces ?? []).filter(
    ({ weight, isItalic }) => weight !== face.weight || isItalic !== face.isItalic,
  );
  const faces = [...others.map((each) => ({ ...each, name: file.name })), face].sort(
    (a, b) => a.weight - b.weight || Number(a.isItalic) - Number(b.isItalic),
  );
  const title = family?.title ?? (given.title || file.name);
  // What was deleted keeps its key: shipped deliverables are made of it.
  const { rows: all } = await db.query<{ key: string }>('select key from fonts where workspace = $1', [workspace]);
  const taken = (key: string): boolean => isShippedFamily(key) || all.some((each) => each.key === key);
  const key = family?.key ?? freeKey(keyFromTitle(title), taken);
  await db.query(
    `insert into fonts (workspace, key, title, licence, faces, uploaded_by) values ($1, $2, $3, $4, $5, $6)
     on conflict (workspace, key) do update set licence = excluded.licence, faces = excluded.faces`,
    [workspace, key, title, given.licence, JSON.stringify(faces), actor.person],
  );
  await audit(db, actor, 'upload font', key, { name: file.name, weight: file.weight });
  return {
    key,
    title,
    licence: given.licence,
    name: file.name,
    faces: faces.map((each) => ({
      digest: each.digest,
      mediaType: each.mediaType,
      weight: each.weight,
      isItalic: each.isItalic,
    })),
  };
}

/** The uploaded families of fonts. */
export function fontRoutes(router: Router, db: Database): void {
  serve(router, routes.fonts, ({ person }) => readFonts(db, person.workspace));

  serve(router, routes.uploadFont, async ({ person, body, file }) => {
    if (!file) throw new HttpProblem(400, 'A file is needed.');
    const font = await readFontFile(await readFile(file.path), file.originalname);
    return db.transaction((client) => addFont(client, actorOf(person), font, body));
  });

  serve(router, routes.deleteFont, async ({ person, params }) => {
    await db.transaction(async (client) => {
      await client.query('select from workspaces where id = $1 for update', [person.workspace]);
      const user = (await readDesigns(client, person.workspace)).find(({ settings }) =>
        Object.entries(settings).some(
          ([name, value]) => settingOf(name)?.setting.kind === 'font' && value === params.key,
        ),
      );
      if (user) throw new HttpProblem(409, `The design “${user.title}” uses this family. Give it another one first.`);
      const gone = await oneRow(
        client,
        'update fonts set deleted_at = now() where workspace = $1 and key = $2 and deleted_at is null returning key',
        [person.workspace, params.key],
      );
      if (!gone) throw new HttpProblem(404, 'There is no such family.');
      await audit(client, actorOf(person), 'delete font', params.key);
    });
  });
}
