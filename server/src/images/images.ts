import { readFile } from 'node:fs/promises';
import {
  freeKey,
  isImageBody,
  keyFromTitle,
  routes,
  type Component,
  type ImageBody,
  type ImageFile,
} from '@allomorph/core';
import type { Router } from 'express';
import { imageSize } from 'image-size';
import { oneRow, type Database, type Queryable } from '../db/database.js';
import { actorOf, handled, serve } from '../http/context.js';
import { HttpProblem } from '../http/problem.js';
import { createComponent, lockLibrary, requireComponent, saveComponent, takenKeys } from '../library/components.js';
import { readBlob, storeBlob } from './blobs.js';

const mediaTypes: Readonly<Record<string, string>> = {
  png: 'image/png',
  jpg: 'image/jpeg',
  gif: 'image/gif',
  webp: 'image/webp',
  svg: 'image/svg+xml',
};

/**
 * Stores a picture after looking at its bytes; its name is not trusted.
 * @throws HttpProblem 422 for anything but PNG, JPEG, GIF, WebP and SVG
 */
export async function storeImage(
  db: Queryable,
  workspace: string,
  bytes: Uint8Array,
  name: string,
): Promise<ImageFile> {
  const read = ((): { type?: string | undefined; width?: number; height?: number } | null => {
    try {
      return imageSize(bytes);
    } catch {
      return null;
    }
  })();
  const mediaType = mediaTypes[read?.type ?? ''];
  if (!read || !mediaType) throw new HttpProblem(422, `“${name}” is not a PNG, JPEG, GIF, WebP or SVG picture.`);
  const digest = await storeBlob(db, bytes);
  const file = {
    digest,
    mediaType,
    width: Math.round(read.width ?? 0) || null,
    height: Math.round(read.height ?? 0) || null,
  };
  await db.query(
    `insert into image_files (workspace, digest, media_type, width, height) values ($1, $2, $3, $4, $5)
     on conflict do nothing`,
    [workspace, digest, mediaType, file.width, file.height],
  );
  return file;
}

/** The image that shows a file in any case: of several, the one that was there first by its key. */
async function imageOf(db: Queryable, workspace: string, digest: string): Promise<Component | undefined> {
  const row = await oneRow<{ key: string }>(
    db,
    `select c.key from components c
       join revisions r on r.workspace = c.workspace and r.key = c.key and r.revision = c.revision
      where c.workspace = $1 and c.kind = 'image' and c.deleted_at is null
        and r.body->'file'->>'digest' = $2 and r.body->'versions' = '[]'::jsonb
      order by c.key limit 1`,
    [workspace, digest],
  );
  return row && requireComponent(db, workspace, row.key);
}

/** Pictures: what may show them, and nothing that runs. */
export const pictureHeaders = {
  'Content-Security-Policy': "default-src 'none'; style-src 'unsafe-inline'; sandbox",
  'X-Content-Type-Options': 'nosniff',
  'Cache-Control': 'private, max-age=31536000, immutable',
};

export function imageRoutes(router: Router, db: Database): void {
  serve(router, routes.uploadImage, async ({ person, body, file }) => {
    if (!file) throw new HttpProblem(400, 'A file is needed.');
    const title = body.title || file.originalname;
    return db.transaction(async (client) => {
      const stored = await storeImage(client, person.workspace, await readFile(file.path), file.originalname);
      const image: ImageBody = { type: 'image', alt: body.alt, file: stored, versions: [] };
      await lockLibrary(client, person.workspace);
      const known = body.once === 'yes' ? await imageOf(client, person.workspace, stored.digest) : undefined;
      if (known) return known;
      const taken = await takenKeys(client, person.workspace);
      const key = freeKey(keyFromTitle(title.replace(/\.[a-z0-9]+$/i, '')), (each) => taken.has(each));
      return createComponent(client, actorOf(person), { kind: 'image', title, key, body: image });
    });
  });

  serve(router, routes.storePicture, async ({ person, file }) => {
    if (!file) throw new HttpProblem(400, 'A file is needed.');
    const bytes = await readFile(file.path);
    return db.transaction((client) => storeImage(client, person.workspace, bytes, file.originalname));
  });

  serve(router, routes.replaceFile, async ({ person, params, body, file }) => {
    if (!file) throw new HttpProblem(400, 'A file is needed.');
    return db.transaction(async (client) => {
      const stored = await storeImage(client, person.workspace, await readFile(file.path), file.originalname);
      const { title, body: image } = await requireComponent(client, person.workspace, params.key);
      if (!isImageBody(image)) throw new HttpProblem(422, `“${title}” is no image.`);
      const changed: ImageBody = { ...image, file: stored };
      return saveComponent(client, actorOf(person), params.key, { base: body.base, title, body: changed });
    });
  });

  serve(router, routes.picture, async ({ person, params, response }) => {
    const image = await oneRow<{ type: string }>(
      db,
      'select media_type as type from image_files where workspace = $1 and digest = $2',
      [person.workspace, params.digest],
    );
    const bytes = image && (await readBlob(db, params.digest));
    if (!bytes) throw new HttpProblem(404, 'There is no such picture.');
    response.set(pictureHeaders).type(image.type).send(bytes);
    return handled;
  });
}
