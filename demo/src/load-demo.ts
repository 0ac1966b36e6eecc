import type { Database } from '../../server/src/db/database.js';
import { acceptBody, insertComponents } from '../../server/src/library/components.js';
import { addPerson } from '../../server/src/people/people.js';
import { insertPublication, insertVariant } from '../../server/src/publications/publications.js';
import { writeAxis, writeProfile } from '../../server/src/variation/variation.js';
import { axes, components, people, profiles, publications, variants } from './library.js';

/** Fills a new workspace with the demo library and its people, all or nothing. */
export async function loadDemo(db: Database, workspace: string): Promise<void> {
  await db.transaction(async (client) => {
    const actor = { workspace, person: null };
    for (const person of people) await addPerson(client, workspace, person);
    for (const axis of axes) await writeAxis(client, actor, axis);
    for (const profile of profiles) await writeProfile(client, actor, profile);
    await insertComponents(
      client,
      actor,
      components.map((each) => ({ ...each, revision: 1, body: acceptBody(each.kind, each.body) })),
    );
    for (const publication of publications) await insertPublication(client, actor, { ...publication, values: {} });
    for (const { publication, recipe } of variants) await insertVariant(client, actor, publication, recipe);
  });
  console.log('The demo library was loaded. Sign in as:');
  for (const person of people)
    console.log(`  ${person.signIn.padEnd(8)} ${person.password.padEnd(16)} ${person.name}, ${person.role}`);
}
