import { readFileSync } from 'node:fs';
import { componentFrom, type ImageBody } from '@allomorph/core';
import type { Queryable } from '../../server/src/db/database.js';
import { writeDesign } from '../../server/src/designs/designs.js';
import { storeImage } from '../../server/src/images/images.js';
import { acceptBody } from '../../server/src/library/accept-body.js';
import { insertComponents, saveComponent } from '../../server/src/library/components.js';
import { addPerson } from '../../server/src/people/person.js';
import { ownFile } from '../../server/src/own-file.js';
import { insertPublication } from '../../server/src/publications/publications.js';
import { insertVariant } from '../../server/src/publications/variants.js';
import { storeRecording } from '../../server/src/recordings/recordings.js';
import { writeAxis, writeProfile, writeStamp } from '../../server/src/variation/vocabulary.js';
import { designs } from './designs.js';
import { publications, variants } from './publications.js';
import { components } from './components.js';
import { sounds, soundFile } from './sounds.js';
import { revised } from './snippets.js';
import { axes, people, profiles, stamps } from './vocabulary.js';

const pictures = [
  {
    key: 'picture-station',
    title: 'Station and console',
    file: 'station.svg',
    alt: 'A mast with rain gauge, anemometer and shield, linked to a console.',
  },
  {
    key: 'picture-bracket',
    title: 'Bracket on a mast',
    file: 'bracket-mast.svg',
    alt: 'Two clamps hold an arm to a mast; their bolts are marked A.',
  },
  {
    key: 'picture-display',
    title: 'The display',
    file: 'display.svg',
    alt: 'Temperature and humidity above, wind and rain below, pressure at the foot.',
  },
  {
    key: 'picture-network',
    title: 'Stations, gateway and server',
    file: 'network.svg',
    alt: 'Three stations send to a gateway, which sends to a server.',
  },
  {
    key: 'picture-siting',
    title: 'Distances to obstacles',
    file: 'siting.svg',
    alt: 'A station between a house and a tree, twice as far away as each is high.',
  },
  // Without alternative text: one of the faults that checks find.
  { key: 'picture-gauge', title: 'Rain gauge, cut open', file: 'gauge.svg', alt: '' },
] as const;

/** Fills a new workspace with the demo library and its people, inside a transaction. */
export async function loadDemo(db: Queryable, workspace: string): Promise<void> {
  const ids = new Map<string, string>();
  for (const person of people) ids.set(person.signIn, await addPerson(db, workspace, person));
  const keeper = { workspace, person: ids.get('tomasz') ?? null };
  const writer = { workspace, person: ids.get('ines') ?? null };
  for (const axis of axes) await writeAxis(db, keeper, axis);
  for (const stamp of stamps) await writeStamp(db, keeper, stamp);
  for (const profile of profiles) await writeProfile(db, keeper, profile);
  for (const { key, title, file, alt } of pictures) {
    const stored = await storeImage(db, workspace, readFileSync(ownFile(`demo/src/pictures/${file}`)), file);
    const body: ImageBody = { type: 'image', alt, file: stored, versions: [] };
    await insertComponents(db, writer, [{ key, kind: 'image', title, revision: 1, body }]);
  }
  for (const name of sounds) await storeRecording(db, workspace, soundFile(name), name);
  await insertComponents(
    db,
    writer,
    components.map((each) => componentFrom({ ...each, revision: 1, body: acceptBody(each.kind, each.body) })),
  );
  for (const { key, title, body } of revised) await saveComponent(db, keeper, key, { base: 1, title, body });
  for (const design of designs) await writeDesign(db, keeper, design);
  for (const publication of publications) await insertPublication(db, keeper, publication);
  for (const { publication, recipe } of variants) await insertVariant(db, keeper, publication, recipe);
}

/** The sign-ins of the demo people who are in a database, one a line. */
export async function demoSignIns(db: Queryable): Promise<readonly string[]> {
  const { rows } = await db.query<{ sign_in: string }>('select sign_in from people');
  const there = new Set(rows.map((row) => row.sign_in));
  return people
    .filter((person) => there.has(person.signIn))
    .map((person) => `  ${person.signIn.padEnd(8)} ${person.password.padEnd(16)} ${person.name}, ${person.role}`);
}
