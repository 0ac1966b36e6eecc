import { freeKey, keyFromTitle, routes } from '@allomorph/core';
import type { Router } from 'express';
import { oneRow, type Database, type Queryable } from '../db/database.js';
import { actorOf, serve } from '../http/context.js';
import { HttpProblem } from '../http/problem.js';
import { lockLibrary, takenKeys } from '../library/components.js';
import type { Person } from '../people/person.js';
import type { Analyses } from '../threads/analyses.js';
import {
  deletePublication,
  insertPublication,
  listPublications,
  readImportNotes,
  requirePublication,
  savePublication,
} from './publications.js';
import { deleteVariant, insertVariant, readVariants, saveVariant } from './variants.js';

/** Refuses writers to change outlines where keepers keep that to themselves. */
async function refuseOutline(db: Queryable, { role, workspace }: Person): Promise<void> {
  if (role === 'keeper') return;
  const row = await oneRow<{ allowed: boolean }>(
    db,
    'select writers_outline as allowed from workspaces where id = $1',
    [workspace],
  );
  if (!row?.allowed) throw new HttpProblem(403, 'Keepers keep outlines to themselves. Ask one of them.');
}

/** Publications, their outlines and their variants. */
export function publicationRoutes(router: Router, db: Database, analyses: Analyses): void {
  serve(router, routes.coverage, ({ person, params, signal }) =>
    analyses.coverage(person.workspace, params.key, signal),
  );

  serve(router, routes.referenceReadings, async ({ person, params, query: { from, to, block = null }, signal }) => ({
    readings: await analyses.reference(person.workspace, { variant: params.id, from, to, block }, signal),
  }));

  serve(router, routes.importNotes, ({ person, params }) => readImportNotes(db, person.workspace, params.key));

  serve(router, routes.publications, ({ person }) => listPublications(db, person.workspace));

  serve(router, routes.createPublication, ({ person, body }) =>
    db.transaction(async (client) => {
      await lockLibrary(client, person.workspace);
      const taken = await takenKeys(client, person.workspace);
      const key = freeKey(keyFromTitle(body.title), (each) => taken.has(each));
      const over =
        body.outlineOf === undefined ? null : await requirePublication(client, person.workspace, body.outlineOf);
      const publication = {
        key,
        title: body.title,
        values: {},
        entries: over?.entries ?? [],
        // One over another outline is over the same publication.
        ...(over ? { outlineOf: over.outlineOf ?? over.key } : {}),
      };
      await insertPublication(client, actorOf(person), publication);
      return { ...publication, revision: 1 };
    }),
  );

  serve(router, routes.publication, ({ person, params }) => requirePublication(db, person.workspace, params.key));

  serve(router, routes.savePublication, ({ person, params, body }) =>
    db.transaction(async (client) => {
      await refuseOutline(client, person);
      return savePublication(client, actorOf(person), params.key, body);
    }),
  );

  serve(router, routes.deletePublication, async ({ person, params }) => {
    await db.transaction((client) => deletePublication(client, actorOf(person), params.key));
  });

  serve(router, routes.variants, ({ person }) => readVariants(db, person.workspace));

  serve(router, routes.createVariant, ({ person, params, body }) =>
    db.transaction(async (client) => {
      await requirePublication(client, person.workspace, params.key);
      const id = await insertVariant(client, actorOf(person), params.key, body);
      return { ...body, id, publication: params.key, revision: 1 };
    }),
  );

  serve(router, routes.saveVariant, ({ person, params, body }) =>
    db.transaction((client) => saveVariant(client, actorOf(person), params.id, body)),
  );

  serve(router, routes.deleteVariant, async ({ person, params }) => {
    await db.transaction((client) => deleteVariant(client, actorOf(person), params.id));
  });
}
