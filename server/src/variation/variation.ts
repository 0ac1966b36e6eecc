import {
  flattenValues,
  mostStampDerivations,
  routes,
  stampTarget,
  undefinedIn,
  wayOfStamp,
  type Axis,
  type Profile,
  type Revised,
  type Stamp,
  type StampUse,
  type StoredProfile,
} from '@allomorph/core';
import type { Router } from 'express';
import { oneRow, type Database, type Queryable } from '../db/database.js';
import { actorOf, serve } from '../http/context.js';
import { HttpProblem } from '../http/problem.js';
import { audit, type Actor } from '../audit/audit.js';
import { readDesigns } from '../designs/designs.js';
import { lockLibrary } from '../library/components.js';

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

export async function writeProfile(
  db: Queryable,
  actor: Actor,
  profile: Pick<StoredProfile, 'key' | 'title'> & Profile,
): Promise<void> {
  await db.query(
    `insert into profiles (workspace, key, title, axes) values ($1, $2, $3, $4)
     on conflict (workspace, key) do update
       set title = excluded.title, axes = excluded.axes, revision = profiles.revision + 1`,
    [actor.workspace, profile.key, profile.title, JSON.stringify(profile.axes)],
  );
  await audit(db, actor, 'save profile', profile.key);
}

const stampColumns = 'key, title, stands_on as "on", derives_from as "from", standing as "when"';

/** The stamps of a workspace. */
export async function readStamps(db: Queryable, workspace: string): Promise<readonly Stamp[]> {
  const { rows } = await db.query<Stamp>(
    `select ${stampColumns} from stamps where workspace = $1 and deleted_at is null order by title, key`,
    [workspace],
  );
  return rows;
}

export async function writeStamp(db: Queryable, actor: Actor, { key, title, on, from, when }: Stamp): Promise<void> {
  await db.query(
    `insert into stamps (workspace, key, title, stands_on, derives_from, standing) values ($1, $2, $3, $4, $5, $6)
     on conflict (workspace, key) do update
       set title = excluded.title, stands_on = excluded.stands_on, derives_from = excluded.derives_from,
           standing = excluded.standing, revision = stamps.revision + 1`,
    [actor.workspace, key, title, on, from, when],
  );
  await audit(db, actor, 'save stamp', key);
}

/** What of a workspace's vocabulary is saved against its revision. */
const revised = {
  axis: { table: 'axes', columns: 'key, title, axis_values as values, revision', order: 'position, key' },
  profile: { table: 'profiles', columns: 'key, title, axes, revision', order: 'title, key' },
  stamp: { table: 'stamps', columns: `${stampColumns}, revision`, order: 'title, key' },
} as const;
interface RevisedKinds {
  axis: Axis & Revised;
  profile: StoredProfile & Revised;
  stamp: Stamp & Revised;
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

/** Axes, profiles, stamps and designs. */
export function variationRoutes(router: Router, db: Database): void {
  serve(router, routes.variation, async ({ person }) => ({
    axes: await readRevised(db, person.workspace, 'axis'),
    profiles: await readRevised(db, person.workspace, 'profile'),
    stamps: await readRevised(db, person.workspace, 'stamp'),
    designs: await readDesigns(db, person.workspace),
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

  serve(router, routes.saveStamp, async ({ person, params, body }) => {
    if (body.key !== params.key) throw new HttpProblem(400, 'The key of a stamp cannot change.');
    return db.transaction(async (client) => {
      const { base, ...stamp } = body;
      await refuseStale(client, person.workspace, 'stamp', body);
      await refuseDerivation(client, person.workspace, stamp);
      await writeStamp(client, actorOf(person), stamp);
      return { ...stamp, revision: base + 1 };
    });
  });

  serve(router, routes.deleteStamp, async ({ person, params }) => {
    await db.transaction(async (client) => {
      // In turn with those who save content, so that none saves it with a stamp that goes meanwhile.
      await lockLibrary(client, person.workspace);
      const user = await oneRow<{ title: string }>(
        client,
        `select coalesce(c.title, p.title) as title from component_references f
           left join components c on f.source_kind = 'component' and c.workspace = f.workspace and c.key = f.source
            and c.deleted_at is null
           left join publications p on f.source_kind = 'publication' and p.workspace = f.workspace and p.key = f.source
            and p.deleted_at is null
          where f.workspace = $1 and f.target = $2 and coalesce(c.key, p.key) is not null order by 1 limit 1`,
        [person.workspace, stampTarget(params.key)],
      );
      if (user) throw new HttpProblem(409, `“${user.title}” bears this stamp; take it off there first.`);
      const derived = (await readStamps(client, person.workspace)).find(({ from }) => from === params.key);
      if (derived) throw new HttpProblem(409, `The stamp “${derived.title}” derives from this one.`);
      await putIntoBin(client, actorOf(person), 'stamp', params.key);
      await audit(client, actorOf(person), 'delete stamp', params.key);
    });
  });

  serve(router, routes.stampUses, async ({ person }) => {
    const { rows } = await db.query<StampUse>(
      `select substr(f.target, $2) as stamp, count(distinct f.source)::integer as components
         from component_references f
         join components c on c.workspace = f.workspace and c.key = f.source and c.deleted_at is null
        where f.workspace = $1 and f.source_kind = 'component' and f.kind = 'stamp' group by f.target`,
      [person.workspace, stampTarget('').length + 1],
    );
    return rows;
  });
}

/** Refuses a stamp that would derive from what is not there, or from itself. */
async function refuseDerivation(db: Queryable, workspace: string, stamp: Stamp): Promise<void> {
  // In turn with each other, so that no way of derivations closes that neither sees.
  await db.query('select from workspaces where id = $1 for update', [workspace]);
  if (stamp.from === null) return;
  const stamps = (await readStamps(db, workspace)).filter(({ key }) => key !== stamp.key);
  if (stamp.from !== stamp.key && !stamps.some(({ key }) => key === stamp.from))
    throw new HttpProblem(422, `There is no stamp “${stamp.from}” to derive from.`);
  const way = wayOfStamp(stamp.from, [...stamps, stamp]);
  if (way.includes(stamp)) throw new HttpProblem(422, `“${stamp.title}” would derive from itself.`);
  if (way.length >= mostStampDerivations)
    throw new HttpProblem(422, `More than ${mostStampDerivations} stamps derive from each other here.`);
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
  const vocabulary = { axes: [axis], stamps: [] };
  const namesLost = (when: string): string | undefined =>
    undefinedIn(when, vocabulary).find(
      (key) => key.axis === axis.key && lost.some(({ value }) => value.key === key.value),
    )?.value ?? undefined;
  for (const { title, when } of await readStamps(db, workspace)) {
    const missing = when === null ? undefined : namesLost(when);
    if (missing !== undefined)
      throw new HttpProblem(
        409,
        `The stamp “${title}” has a standing condition on the value “${missing}”; take it out there first.`,
      );
  }
  const { rows } = await db.query<{ title: string; when: string }>(
    `select title, c as when from components, unnest(conditions) c where workspace = $1 and deleted_at is null`,
    [workspace],
  );
  for (const row of rows) {
    const missing = namesLost(row.when);
    if (missing !== undefined)
      throw new HttpProblem(409, `“${row.title}” has a condition on the value “${missing}”; take it out there first.`);
  }
}
