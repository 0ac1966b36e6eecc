import { basename } from 'node:path';
import { recordingTypes, routes, type Recording } from '@allomorph/core';
import type { Router } from 'express';
import { fileTypeFromFile } from 'file-type';
import { oneRow, type Database, type Queryable } from '../db/database.js';
import { handled, serve } from '../http/context.js';
import { HttpProblem } from '../http/problem.js';
import { sendBlob } from '../http/send-blob.js';
import { storeBlobOfFile } from '../images/blobs.js';

/**
 * Stores a film or a sound after looking at its bytes; its name is only kept to be shown.
 * @param path where the file lies
 * @throws HttpProblem 422 for what browsers do not play
 */
export async function storeRecording(db: Queryable, workspace: string, path: string, name: string): Promise<Recording> {
  const found = await fileTypeFromFile(path);
  const mediaType = recordingTypes[found?.ext ?? ''];
  if (!mediaType)
    throw new HttpProblem(
      422,
      `“${name}” is not a film or sound that browsers play: MP4, WebM, Ogg, MP3, M4A, AAC, WAV or FLAC.`,
    );
  const digest = await storeBlobOfFile(db, path);
  await db.query('insert into recordings (workspace, digest, media_type) values ($1, $2, $3) on conflict do nothing', [
    workspace,
    digest,
    mediaType,
  ]);
  return { digest, mediaType, name: basename(name).slice(0, 200) };
}

/** What may play a recording, and nothing that runs. */
const recordingHeaders = {
  'Content-Security-Policy': "default-src 'none'; sandbox",
  'X-Content-Type-Options': 'nosniff',
  'Cache-Control': 'private, max-age=31536000, immutable',
};

export function recordingRoutes(router: Router, db: Database): void {
  serve(router, routes.storeRecording, async ({ person, file }) => {
    if (!file) throw new HttpProblem(400, 'A file is needed.');
    return db.transaction((client) => storeRecording(client, person.workspace, file.path, file.originalname));
  });

  serve(router, routes.recording, async ({ person, params, request, response }) => {
    const recording = await oneRow<{ type: string }>(
      db,
      'select media_type as type from recordings where workspace = $1 and digest = $2',
      [person.workspace, params.digest],
    );
    if (!recording) throw new HttpProblem(404, 'There is no such recording.');
    await sendBlob(db, params.digest, request, response.set(recordingHeaders).type(recording.type));
    return handled;
  });
}
