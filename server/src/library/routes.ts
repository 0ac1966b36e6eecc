import { referencesOf, routes, type RevisionRow, type SavedSearch } from '@allomorph/core';
import type { Router } from 'express';
import type { Database } from '../db/database.js';
import { actorOf, serve } from '../http/context.js';
import { HttpProblem } from '../http/problem.js';
import { actOnMany, takeStepsBack } from './act-on-many.js';
import { changeKey } from './change-key.js';
import { readClosure } from './closure.js';
import { knownCollections, renameCollection } from './collections.js';
import {
  createComponent,
  deleteComponent,
  isArchived,
  labelComponent,
  readComponent,
  requireComponent,
  restoreComponent,
  saveComponent,
} from './components.js';
import { bringUpToDate, readHolders } from './holders.js';
import { offersFor } from './offers.js';
import { findPassages, replaceText, takeBack } from './passages.js';
import { findPlaces } from './places.js';
import { listComponents } from './search.js';
import { listVariables } from './variables.js';
import { whereUsed } from './where-used.js';

const mostSearches = 100;

export function libraryRoutes(router: Router, db: Database): void {
  serve(router, routes.components, ({ person, query }) => listComponents(db, person.workspace, query));

  serve(router, routes.places, ({ person, query }) => findPlaces(db, person.workspace, query.find));

  serve(router, routes.offers, ({ person, body }) => offersFor(db, person.workspace, body.line));

  serve(router, routes.createComponent, ({ person, body }) =>
    db.transaction((client) => createComponent(client, actorOf(person), body)),
  );

  serve(router, routes.actOnMany, ({ person, body }) => actOnMany(db, actorOf(person), body));
  serve(router, routes.takeStepsBack, ({ person, body }) => takeStepsBack(db, actorOf(person), body.steps));

  serve(router, routes.passages, ({ person, query: { find, matchesCase, wholeWords } }) =>
    findPassages(db, person.workspace, {
      find,
      matchesCase: matchesCase === 'yes',
      wholeWords: wholeWords === 'yes',
    }),
  );

  serve(router, routes.replaceText, ({ person, body }) => replaceText(db, actorOf(person), body));

  serve(router, routes.takeBack, ({ person, body }) => takeBack(db, actorOf(person), body.components));

  serve(router, routes.holders, ({ person, params }) => readHolders(db, person.workspace, params.key));

  serve(router, routes.bringUp, ({ person, params, body }) =>
    bringUpToDate(db, actorOf(person), params.key, body.holders),
  );

  serve(router, routes.component, ({ person, params }) => requireComponent(db, person.workspace, params.key));

  serve(router, routes.saveComponent, ({ person, params, body }) =>
    db.transaction((client) => saveComponent(client, actorOf(person), params.key, body)),
  );

  serve(router, routes.changeKey, ({ person, params, body }) =>
    db.transaction((client) => changeKey(client, actorOf(person), params.key, body)),
  );

  serve(router, routes.labelComponent, ({ person, params, body }) =>
    db.transaction((client) => labelComponent(client, actorOf(person), params.key, body)),
  );

  serve(router, routes.titles, async ({ person, body }) => {
    const { rows } = await db.query<{ key: string; title: string }>(
      'select key, title from components where workspace = $1 and key = any($2) and deleted_at is null',
      [person.workspace, body.keys],
    );
    return Object.fromEntries(rows.map(({ key, title }) => [key, title]));
  });

  serve(router, routes.labels, async ({ person }) => {
    const { rows: tags } = await db.query<{ tag: string; value: string }>(
      `select distinct t.key as tag, v as value from components c, jsonb_each(c.tags) t, jsonb_array_elements_text(t.value) v
        where c.workspace = $1 and c.deleted_at is null order by tag, value`,
      [person.workspace],
    );
    const { rows: people } = await db.query<{ id: string; name: string }>(
      `select p.id, p.name from people p where p.workspace = $1 and exists (
         select from components c where c.workspace = $1 and c.changed_by = p.id and c.deleted_at is null) order by p.name`,
      [person.workspace],
    );
    return { collections: await knownCollections(db, person.workspace), tags, people };
  });

  serve(router, routes.renameCollection, ({ person, body }) => renameCollection(db, actorOf(person), body));

  const searchesOf = async (id: string): Promise<readonly SavedSearch[]> =>
    (await db.query<SavedSearch>('select name, query from saved_searches where person = $1 order by lower(name)', [id]))
      .rows;

  serve(router, routes.savedSearches, ({ person }) => searchesOf(person.id));

  serve(router, routes.saveSearch, async ({ person, body }) => {
    await db.transaction(async (client) => {
      await client.query(
        `insert into saved_searches (person, name, query) values ($1, $2, $3)
         on conflict (person, name) do update set query = excluded.query`,
        [person.id, body.name, body.query],
      );
      const { rows } = await client.query('select from saved_searches where person = $1', [person.id]);
      if (rows.length > mostSearches)
        throw new HttpProblem(422, `No more than ${mostSearches} searches are kept. Delete one first.`);
    });
    return searchesOf(person.id);
  });

  serve(router, routes.deleteSearch, async ({ person, body }) => {
    await db.query('delete from saved_searches where person = $1 and name = $2', [person.id, body.name]);
    return searchesOf(person.id);
  });

  serve(router, routes.deleteComponent, async ({ person, params }) => {
    await db.transaction((client) => deleteComponent(client, actorOf(person), params.key));
  });

  serve(router, routes.restoreComponent, ({ person, params }) =>
    db.transaction((client) => restoreComponent(client, actorOf(person), params.key)),
  );

  serve(router, routes.revisions, async ({ person, params }) => {
    const { rows } = await db.query<Omit<RevisionRow, 'savedAt'> & { savedAt: Date }>(
      `select r.revision, r.title, coalesce(p.name, '') as "savedBy", r.saved_at as "savedAt"
         from revisions r left join people p on p.id = r.saved_by
        where r.workspace = $1 and r.key = $2 order by r.revision desc limit 200`,
      [person.workspace, params.key],
    );
    return rows.map((row) => ({ ...row, savedAt: row.savedAt.toISOString() }));
  });

  serve(router, routes.revision, async ({ person, params }) => {
    const component = await readComponent(db, person.workspace, params.key, params.revision);
    if (!component) throw new HttpProblem(404, `There is no revision ${params.revision} of “${params.key}”.`);
    return component;
  });

  serve(router, routes.uses, ({ person, params, query }) => whereUsed(db, person.workspace, params.key, query));

  serve(router, routes.variables, ({ person }) => db.snapshot((client) => listVariables(client, person.workspace)));

  /** The component and everything it refers to, as far as it goes: what it takes to show it. */
  serve(router, routes.closure, ({ person, params }) =>
    db.snapshot(async (client) => {
      const component = await requireComponent(client, person.workspace, params.key);
      const { components, held } = await readClosure(client, person.workspace, referencesOf(component.body));
      const archived = await isArchived(client, person.workspace, params.key);
      return { component, components, held, ...(archived ? { archived } : {}) };
    }),
  );
}
