import type { Queryable } from '../../server/src/db/database.js';
import { acceptBody, insertComponents } from '../../server/src/library/components.js';
import { addPerson } from '../../server/src/people/people.js';
import { insertPublication, insertVariant } from '../../server/src/publications/publications.js';
import { writeAxis, writeProfile } from '../../server/src/variation/variation.js';
import { axes, components, people, profiles, publications, variants } from './library.js';

/** Fills a new workspace with the demo library and its people, inside a transaction. */
export async function loadDemo(db: Queryable, workspace: string): Promise<void> {
  const actor = { workspace, person: null };
  for (const person of people) await addPerson(db, workspace, person);
  for (const axis of axes) await writeAxis(db, actor, axis);
  for (const profile of profiles) await writeProfile(db, actor, profile);
  await insertComponents(
    db,
    actor,
    components.map((each) => ({ ...each, revision: 1, body: acceptBody(each.kind, each.body) })),
  );
  for (const publication of publications) await insertPublication(db, actor, { ...publication, values: {} });
  for (const { publication, recipe } of variants) await insertVariant(db, actor, publication, recipe);
}

/** The sign-ins of the demo people who are in a database, one a line. */
export async function demoSignIns(db: Queryable): Promise<readonly string[]> {
  const { rows } = await db.query<{ sign_in: string }>('select sign_in from people');
  const there = new Set(rows.map((row) => row.sign_in));
  return people
    .filter((person) => there.has(person.signIn))
    .map((person) => `  ${person.signIn.padEnd(8)} ${person.password.padEnd(16)} ${person.name}, ${person.role}`);
}
