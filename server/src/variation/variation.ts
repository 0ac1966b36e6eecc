import {
  flattenValues,
  leavesIn,
  mostStampDerivations,
  parseCondition,
  routes,
  stampAxis,
  stampTarget,
  wayOfStamp,
  type Axis,
  type Revised,
  type Stamp,
  type StampUse,
  type StoredProfile,
  type ValueUse,
} from '@allomorph/core';
import type { Router } from 'express';
import { oneRow, type Database, type Queryable } from '../db/database.js';
import { actorOf, serve } from '../http/context.js';
import { HttpProblem } from '../http/problem.js';
import { audit, type Actor } from '../audit/audit.js';
import { readDesigns } from '../designs/designs.js';
import { lockLibrary } from '../library/components.js';
import { allChanges, planFor } from './give-up.js';
import { readAxes, readStamps, stampColumns, writeAxis, writeProfile, writeStamp } from './vocabulary.js';

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

  serve(router, routes.orderAxes, async ({ person, body: { keys } }) => {
    await db.transaction(async (client) => {
      // Axes that were made meanwhile come last, in their order.
      await client.query(
        `update axes a set position = o.position from (
           select key, row_number() over (order by array_position($2::text[], key) nulls last, position, key) as position
             from axes where workspace = $1) o
          where a.workspace = $1 and a.key = o.key`,
        [person.workspace, keys],
      );
      await audit(client, actorOf(person), 'order axes', keys.join(', '));
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

  serve(router, routes.valueUses, ({ person }) => valueUses(db, person.workspace));

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
 * Refuses to take away values that conditions still name.
 * @throws HttpProblem 409 that names the value and something that uses it
 */
async function refuseLoss(db: Queryable, workspace: string, axis: Axis): Promise<void> {
  const before = (await readAxes(db, workspace)).find((each) => each.key === axis.key);
  if (!before) return;
  const kept = new Set(flattenValues(axis).map(({ value }) => value.key));
  for (const { value } of flattenValues(before)) {
    if (kept.has(value.key)) continue;
    const [change] = allChanges(await planFor(db, workspace, { axis: axis.key, value: value.key, into: null }));
    if (!change) continue;
    const { kind, title } = change.named;
    const where = kind === 'component' ? `“${title}”` : `The ${kind} “${title}”`;
    throw new HttpProblem(
      409,
      `${where} has a condition on the value “${value.key}”; retire the value, or take it out there first.`,
    );
  }
}

/** In how many components each value is named by a condition; those that none names are left out. */
async function valueUses(db: Queryable, workspace: string): Promise<readonly ValueUse[]> {
  const { rows } = await db.query<{ conditions: readonly string[] }>(
    `select conditions from components where workspace = $1 and deleted_at is null and conditions <> '{}'`,
    [workspace],
  );
  const uses = new Map<string, { axis: string; value: string; components: number }>();
  for (const { conditions } of rows) {
    const named = new Map<string, { axis: string; value: string }>();
    for (const when of conditions) {
      const parsed = parseCondition(when);
      if (!parsed.ok) continue;
      for (const { axis, values } of leavesIn(parsed.condition))
        for (const value of values) named.set(`${axis}=${value}`, { axis, value });
    }
    for (const [key, each] of named) {
      const use = uses.get(key) ?? { ...each, components: 0 };
      use.components += 1;
      uses.set(key, use);
    }
  }
  return [...uses.values()].filter(({ axis }) => axis !== stampAxis);
}
