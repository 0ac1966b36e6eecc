import { profilesFileSchema, routes } from '@allomorph/core';
import type { Router } from 'express';
import type { z } from 'zod';
import type { Database } from '../db/database.js';
import { actorOf, serve } from '../http/context.js';
import { HttpProblem } from '../http/problem.js';
import { importPublication } from './import-publication.js';

/** Imports of uploaded archives. */
export function importRoutes(router: Router, db: Database): void {
  serve(router, routes.importDocbook, async ({ person, body, file }) => {
    if (!file) throw new HttpProblem(400, 'A ZIP file is needed.');
    const profiles = body.profiles === '' ? null : parseProfiles(body.profiles);
    const source = { main: body.main, from: { archive: file.path } };
    return importPublication(db, actorOf(person), source, body.title, profiles);
  });
}

function parseProfiles(text: string): z.infer<typeof profilesFileSchema> {
  let json: unknown;
  try {
    json = JSON.parse(text);
  } catch (error) {
    throw new HttpProblem(422, `The profiles are not JSON: ${error instanceof Error ? error.message : String(error)}`);
  }
  return profilesFileSchema.parse(json);
}
