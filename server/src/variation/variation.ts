import {
  flattenValues,
  routes,
  undefinedIn,
  type Axis,
  type Design,
  type Revised,
  type StoredProfile,
} from '@allomorph/core';
import type { Router } from 'express';
import { oneRow, type Database, type Queryable } from '../db/database.js';
import { actorOf, serve } from '../http/context.js';
import { HttpProblem } from '../http/problem.js';
import { audit, type Actor } from '../audit/audit.js';

/** The axes of a workspace in their order. */
export async function readAxes(db: Queryable, workspace: string): Promise<readonly Axis[]> {
  const { rows } = await db.query<Axis>(
    'select key, title, axis_values as values from axes where workspace = $1 and deleted_at is null order by position, key',
    [workspace],
  );
  return rows;
}

/** Writes an axis; a new one comes last. */
export async function writeAxis(db: Queryable, actor: Actor, axis: Axis): Promise<void> {
  await db.query(
    `insert into axes (workspace, key, title, position, axis_values)
     values ($1, $2, $3, (select coalesce(max(position), 0) + 1 from axes where workspace = $1), $4)
     on conflict (workspace, key) do update
       set title = excluded.title, axis_values = excluded.axis_values, revision = axes.revision + 1`,
    [actor.workspace, axis.key, axis.title, JSON.stringify(axis.values)],
  );
  await audit(db, actor, 'save axis', axis.key);
}

export async function readProfiles(db: Queryable, workspace: string): Promise<readonly StoredProfile[]> {
  const { rows } = await db.query<StoredProfile>(
    'select key, title, axes from profiles where workspace = $1 and deleted_at is null order by title, key',
    [workspace],
  );
  return rows;
}

export async function writeProfile(db: Queryable, actor: Actor, profile: StoredProfile): Promise<void> {
  await db.query(
    `insert into profiles (workspace, key, title, axes) values ($1, $2, $3, $4)
     on conflict (workspace, key) do update
       set title = excluded.title, axes = excluded.axes, revision = profiles.revision + 1`,
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

/** What of a workspace's vocabulary is saved against its revision. */
const revised = {
  axis: { table: 'axes', columns: 'key, title, axis_values as values, revision', order: 'position, key' },
  profile: { table: 'profiles', columns: 'key, title, axes, revision', order: 'title, key' },
} as const;
interface RevisedKinds {
  axis: Axis & Revised;
  profile: StoredProfile & Revised;
}

async function readRevised<Kind extends keyof RevisedKinds>(
  db: Queryable,
  workspace: string,
  kind: Kind,
): Promise<readonly RevisedKinds[Kind][]> {
  const { columns, table, order } = revised[kind];
  const { rows } = await db.query<RevisedKinds[Kind]>(
    `select ${columns} from ${table} where workspace = $1 and deleted_at is null order by ${order}`,
    [workspace],
  );
  return rows;
}

/**
 * Refuses a change of something that somebody changed meanwhile; holds it for this transaction otherwise.
 * @param base the revision that was changed; 0: there is to be none
 * @throws HttpProblem 409 with what there is now, if anything
 */
async function refuseStale(
  db: Queryable,
  workspace: string,
  kind: keyof RevisedKinds,
  { key, title, base }: { readonly key: string; readonly title: string; readonly base: number },
): Promise<void> {
  const { columns, table } = revised[kind];
  // Of two that make one with the same key, the second waits here for the first.
  if (base === 0) await db.query('select from workspaces where id = $1 for update', [workspace]);
  const found = await oneRow<RevisedKinds[typeof kind] & { inBin: boolean }>(
    db,
    `select ${columns}, deleted_at is not null as "inBin" from ${table} where workspace = $1 and key = $2 for update`,
    [workspace, key],
  );
  const { inBin = false, ...row } = found ?? {};
  if (found && inBin && base === 0)
    throw new HttpProblem(
      409,
      `“${found.title}”, with the same key, is in the bin. Bring it back, or use another key.`,
    );
  const current = found && !inBin ? { ...row, title: found.title, revision: found.revision } : undefined;
  if ((current?.revision ?? 0) === base) return;
  if (!current) throw new HttpProblem(409, `Somebody deleted “${title}” meanwhile.`);
  const message =
    base === 0 ? `There is already one with the key “${key}”.` : `Somebody changed “${current.title}” meanwhile.`;
  throw new HttpProblem(409, message, { current });
}

async function putIntoBin(db: Queryable, actor: Actor, kind: keyof RevisedKinds, key: string): Promise<void> {
  await db.query(
    `update ${revised[kind].table} set deleted_at = now(), deleted_by = $3 where workspace = $1 and key = $2`,
    [actor.workspace, key, actor.person],
  );
}

/** Axes, profiles and designs. */
export function variationRoutes(router: Router, db: Database): void {
  serve(router, routes.variation, async ({ person }) => ({
    axes: await readRevised(db, person.workspace, 'axis'),
    profiles: await readRevised(db, person.workspace, 'profile'),
    designs: (await readDesigns(db, person.workspace)).map(({ key, title }) => ({ key, title })),
  }));

  serve(router, routes.saveAxis, async ({ person, params, body }) => {
    if (body.key !== params.key) throw new HttpProblem(400, 'The key of an axis cannot change.');
    return db.transaction(async (client) => {
      const { base, ...axis } = body;
      await refuseStale(client, person.workspace, 'axis', body);
      await refuseLoss(client, person.workspace, axis);
      await writeAxis(client, actorOf(person), axis);
      return { ...axis, revision: base + 1 };
    });
  });

  serve(router, routes.deleteAxis, async ({ person, params }) => {
    await db.transaction(async (client) => {
      await refuseLoss(client, person.workspace, { key: params.key, title: '', values: [] });
      await putIntoBin(client, actorOf(person), 'axis', params.key);
      await audit(client, actorOf(person), 'delete axis', params.key);
    });
  });

  serve(router, routes.saveProfile, async ({ person, params, body }) => {
    if (body.key !== params.key) throw new HttpProblem(400, 'The key of a profile cannot change.');
    return db.transaction(async (client) => {
      const { base, ...profile } = body;
      await refuseStale(client, person.workspace, 'profile', body);
      await writeProfile(client, actorOf(person), profile);
      return { ...profile, revision: base + 1 };
    });
  });

  serve(router, routes.deleteProfile, async ({ person, params }) => {
    await db.transaction(async (client) => {
      const user = await oneRow<{ title: string }>(
        client,
        `select title from variants where workspace = $1 and recipe->>'profile' = $2 and deleted_at is null order by title limit 1`,
        [person.workspace, params.key],
      );
      if (user) throw new HttpProblem(409, `The variant “${user.title}” uses this profile. Give it another one first.`);
      await putIntoBin(client, actorOf(person), 'profile', params.key);
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
