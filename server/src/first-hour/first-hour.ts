import {
  freeKey,
  keyFromTitle,
  makeNode,
  makeText,
  newRecipe,
  planFirst,
  routes,
  type FirstHour,
  type FirstHourMade,
  type OutlineEntry,
  type PlannedDocument,
} from '@allomorph/core';
import type { Router } from 'express';
import type { Actor } from '../audit/audit.js';
import type { Database, Queryable } from '../db/database.js';
import { actorOf, serve } from '../http/context.js';
import { HttpProblem } from '../http/problem.js';
import { createComponent, lockLibrary, takenKeys } from '../library/components.js';
import { insertPublication } from '../publications/publications.js';
import { insertVariant, readVariants } from '../publications/variants.js';
import { readAxes, readProfiles, writeAxis, writeProfile } from '../variation/vocabulary.js';

/** The first hour: a library is made of what somebody tells of the documents that are handed over. */
export function firstHourRoutes(router: Router, db: Database): void {
  serve(router, routes.firstHour, ({ person, body }) =>
    db.transaction((client) => makeFirst(client, actorOf(person), body)),
  );
}

async function makeFirst(client: Queryable, actor: Actor, told: FirstHour): Promise<FirstHourMade> {
  const { workspace } = actor;
  // In turn with whoever makes a vocabulary or a library at the same time.
  await client.query('select from workspaces where id = $1 for update', [workspace]);
  await lockLibrary(client, workspace);
  const plan = planFirst(told.axes, told.documents, {
    axes: await readAxes(client, workspace),
    profiles: await readProfiles(client, workspace),
    takenKeys: await keysInBin(client, workspace),
  });
  const [fault] = plan.faults;
  if (fault !== undefined) throw new HttpProblem(422, fault);
  for (const axis of plan.axes) await writeAxis(client, actor, axis);
  for (const profile of plan.profiles) await writeProfile(client, actor, profile);
  const { topics, entries, first } = await makeTopics(client, actor, told);
  const publications: string[] = [];
  const variants: string[] = [];
  for (const document of plan.documents) {
    const key = await publicationFor(client, actor, document, entries);
    publications.push(key);
    variants.push(...(await makeVariants(client, actor, key, document)));
  }
  const { length: axes } = plan.axes;
  return { axes, profiles: plan.profiles.length, topic: first, topics, publications, variants };
}

async function keysInBin(client: Queryable, workspace: string): Promise<readonly string[]> {
  const { rows } = await client.query<{ key: string }>(
    `select key from axes where workspace = $1 and deleted_at is not null
     union select key from profiles where workspace = $1 and deleted_at is not null`,
    [workspace],
  );
  return rows.map(({ key }) => key);
}

/** The topics that were told, those that are there already by their titles, in an outline. */
async function makeTopics(
  client: Queryable,
  actor: Actor,
  { topic, further }: FirstHour,
): Promise<{ readonly topics: number; readonly entries: readonly OutlineEntry[]; readonly first: string | null }> {
  const { rows } = await client.query<{ key: string; title: string }>(
    `select key, title from components where workspace = $1 and kind = 'topic' and deleted_at is null order by key`,
    [actor.workspace],
  );
  const known = new Map(rows.map(({ key, title }) => [title.toLowerCase(), key]));
  const told = [
    ...(topic.title === '' ? [] : [{ title: topic.title, text: topic.text }]),
    ...further.map((title) => ({ title, text: '' })),
  ];
  let topics = 0;
  const keys: string[] = [];
  for (const { title, text } of told) {
    let key = known.get(title.toLowerCase());
    if (key === undefined) {
      const paragraphs = text
        .split(/\n+/)
        .map((line) => line.trim())
        .filter((line, at) => line !== '' || at === 0)
        .map((line) => makeNode('paragraph', null, line === '' ? [] : [makeText(line)]));
      const body = makeNode('topic', null, [makeNode('title', null, [makeText(title)]), ...paragraphs]);
      ({ key } = await createComponent(client, actor, { kind: 'topic', title, body }));
      known.set(title.toLowerCase(), key);
      topics += 1;
    }
    if (!keys.includes(key)) keys.push(key);
  }
  const entries = keys.map((key, at) => ({ id: `e${at + 1}`, topic: key }));
  return { topics, entries, first: topic.title === '' ? null : (keys[0] ?? null) };
}

/** The publication of a document: a new one with the first outline, or the one of that title as it is. */
async function publicationFor(
  client: Queryable,
  actor: Actor,
  { title }: PlannedDocument,
  entries: readonly OutlineEntry[],
): Promise<string> {
  const { rows } = await client.query<{ key: string }>(
    `select key from publications where workspace = $1 and lower(title) = lower($2) and deleted_at is null order by key limit 1`,
    [actor.workspace, title],
  );
  const [found] = rows;
  if (found) return found.key;
  const taken = await takenKeys(client, actor.workspace);
  const key = freeKey(keyFromTitle(title), (each) => taken.has(each));
  await insertPublication(client, actor, { key, title, values: {}, entries: [...entries] });
  return key;
}

async function makeVariants(
  client: Queryable,
  actor: Actor,
  publication: string,
  { formats, variants }: PlannedDocument,
): Promise<readonly string[]> {
  const known = new Set((await readVariants(client, actor.workspace, publication)).map(({ title }) => title));
  const made: string[] = [];
  for (const { title, profile, language } of variants) {
    if (known.has(title)) continue;
    const recipe = { ...newRecipe, title, profile: profile.key, language, formats: [...formats] };
    made.push(await insertVariant(client, actor, publication, recipe));
  }
  return made;
}
