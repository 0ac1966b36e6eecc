import { profilesFileSchema, routes } from '@allomorph/core';
import type { Router } from 'express';
import type { z } from 'zod';
import type { Database } from '../db/database.js';
import { serve } from '../http/context.js';
import { HttpProblem } from '../http/problem.js';
import { actorOf } from '../library/routes.js';
import { importPublication } from './import-publication.js';
import { unzip } from './unzip.js';

/** Imports of uploaded archives. */
export function importRoutes(router: Router, db: Database): void {
  serve(router, routes.importDocbook, async ({ person, body, file }) => {
    if (!file) throw new HttpProblem(400, 'A ZIP file is needed.');
    const files = unzip(file.buffer);
    const main = body.main || findBook(files);
    const profiles = body.profiles === '' ? null : parseProfiles(body.profiles);
    return importPublication(db, actorOf(person), { main, folder: null, files }, body.title, profiles);
  });
}

/** The file of an archive that holds a book: the one whose root element says so, nearest to the top. */
function findBook(files: ReadonlyMap<string, Uint8Array>): string {
  const decoder = new TextDecoder();
  const books = [...files]
    .filter(([path, bytes]) => path.endsWith('.xml') && /<(\w+:)?(book|article|set)[\s>]/.test(decoder.decode(bytes)))
    .map(([path]) => path)
    .sort((a, b) => a.split('/').length - b.split('/').length || a.localeCompare(b));
  const [first] = books;
  if (first === undefined)
    throw new HttpProblem(422, 'No file of the archive holds a <book> or an <article>; name the file.');
  return first;
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
