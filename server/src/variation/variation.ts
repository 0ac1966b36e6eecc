import { flattenValues, routes, undefinedIn, type Axis, type Design, type StoredProfile } from '@allomorph/core';
import type { Router } from 'express';
import { oneRow, type Database, type Queryable } from '../db/database.js';
import { serve } from '../http/context.js';
import { HttpProblem } from '../http/problem.js';
import { audit, type Actor } from '../library/audit.js';
import { actorOf } from '../library/routes.js';

/** The axes of a workspace in their order. */
export async function readAxes(db: Queryable, workspace: string): Promise<readonly Axis[]> {
  const { rows } = await db.query<Axis>(
    'select key, title, axis_values as values from axes where workspace = $1 order by position, key',
    [workspace],
  );
  return rows;
}

/** Writes an axis; a new one comes last. */
export async function writeAxis(db: Queryable, actor: Actor, axis: Axis): Promise<void> {
  await db.query(
    `insert into axes (workspace, key, title, position, axis_values)
     values ($1, $2, $3, (select coalesce(max(position), 0) + 1 from axes where workspace = $1), $4)
     on conflict (workspace, key) do update set title = excluded.title, axis_values = excluded.axis_values`,
    [actor.workspace, axis.key, axis.title, JSON.stringify(axis.values)],
  );
  await audit(db, actor, 'save axis', axis.key);
}

export async function readProfiles(db: Queryable, workspace: string): Promise<readonly StoredProfile[]> {
  const { rows } = await db.query<StoredProfile>(
    'select key, title, axes from profiles where workspace = $1 order by title, key',
    [workspace],
  );
  return rows;
}

export async function writeProfile(db: Queryable, actor: Actor, profile: StoredProfile): Promise<void> {
  await db.query(
    `insert into profiles (workspace, key, title, axes) values ($1, $2, $3, $4)
     on conflict (workspace, key) do update set title = excluded.title, axes = excluded.axes`,
    [actor.workspace, profile.key, profile.title, JSON.stringify(profile.axes)],
  );
  await audit(db, actor, 'save profile', profile.key);
}

export async function readDesigns(db: Queryable, workspace: string): Promise<readonly Design[]> {
  const { rows } = await db.query<{ key: string; title: string; settings: Design }>(
    'select key, title, settings from designs where workspace = $1 order by title, key',
    [workspace],
  );
  return rows.map((row) => ({ ...row.settings, key: row.key, title: row.title }));
}

export async function writeDesign(db: Queryable, actor: Actor, design: Design): Promise<void> {
  await db.query(
    `insert into designs (workspace, key, title, settings) values ($1, $2, $3, $4)
     on conflict (workspace, key) do update set title = excluded.title, settings = excluded.settings`,
    [actor.workspace, design.key, design.title, JSON.stringify(design)],
  );
}

/** Axes, profiles and designs. */
export function variationRoutes(router: Router, db: Database): void {
  serve(router, routes.variation, async ({ person }) => ({
    axes: await readAxes(db, person.workspace),
    profiles: await readProfiles(db, person.workspace),
    designs: (await readDesigns(db, person.workspace)).map(({ key, title }) => ({ key, title })),
  }));

  serve(router, routes.saveAxis, async ({ person, params, body }) => {
    if (body.key !== params.key) throw new HttpProblem(400, 'The key of an axis cannot change.');
    await db.transaction(async (client) => {
      await refuseLoss(client, person.workspace, body);
      await writeAxis(client, actorOf(person), body);
    });
  });

  serve(router, routes.deleteAxis, async ({ person, params }) => {
    await db.transaction(async (client) => {
      await refuseLoss(client, person.workspace, { key: params.key, title: '', values: [] });
      await client.query('delete from axes where workspace = $1 and key = $2', [person.workspace, params.key]);
      await audit(client, actorOf(person), 'delete axis', params.key);
    });
  });

  serve(router, routes.saveProfile, async ({ person, params, body }) => {
    if (body.key !== params.key) throw new HttpProblem(400, 'The key of a profile cannot change.');
    await db.transaction((client) => writeProfile(client, actorOf(person), body));
  });

  serve(router, routes.deleteProfile, async ({ person, params }) => {
    await db.transaction(async (client) => {
      const user = await oneRow<{ title: string }>(
        client,
        `select title from variants where workspace = $1 and recipe->>'profile' = $2 order by title limit 1`,
        [person.workspace, params.key],
      );
      if (user) throw new HttpProblem(409, `The variant “${user.title}” uses this profile. Give it another one first.`);
      await client.query('delete from profiles where workspace = $1 and key = $2', [person.workspace, params.key]);
      await audit(client, actorOf(person), 'delete profile', params.key);
    });
  });
}

/**
 * Refuses to take away values that conditions in the library still name.
 * @throws HttpProblem 409 that names the value and a component that uses it
 */
async function refuseLoss(db: Queryable, workspace: string, axis: Axis): Promise<void> {
  const before = (await readAxes(db, workspace)).find((each) => each.key === axis.key);
  if (!before) return;
  const kept = new Set(flattenValues(axis).map(({ value }) => value.key));
  const lost = flattenValues(before).filter(({ value }) => !kept.has(value.key));
  if (lost.length === 0) return;
  const { rows } = await db.query<{ title: string; when: string }>(
    `select title, c as when from components, unnest(conditions) c where workspace = $1 and deleted_at is null`,
    [workspace],
  );
  for (const row of rows) {
    const missing = undefinedIn(row.when, [axis]).find(
      (key) => key.axis === axis.key && lost.some(({ value }) => value.key === key.value),
    );
    if (missing) {
      throw new HttpProblem(
        409,
        `“${row.title}” has a condition on the value “${missing.value}”; take it out there first.`,
      );
    }
  }
}
