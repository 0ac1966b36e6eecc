import type { Axis, Profile, Stamp, StoredProfile } from '@allomorph/core';
import { audit, type Actor } from '../audit/audit.js';
import type { Queryable } from '../db/database.js';

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

/** The profiles of a workspace by their titles. */
export async function readProfiles(db: Queryable, workspace: string): Promise<readonly StoredProfile[]> {
  const { rows } = await db.query<StoredProfile>(
    'select key, title, axes from profiles where workspace = $1 and deleted_at is null order by title, key',
    [workspace],
  );
  return rows;
}

/** Writes a profile, new or not. */
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

/** What is read of a stamp. */
export const stampColumns = 'key, title, stands_on as "on", derives_from as "from", standing as "when"';

/** The stamps of a workspace. */
export async function readStamps(db: Queryable, workspace: string): Promise<readonly Stamp[]> {
  const { rows } = await db.query<Stamp>(
    `select ${stampColumns} from stamps where workspace = $1 and deleted_at is null order by title, key`,
    [workspace],
  );
  return rows;
}

/** Writes a stamp, new or not. */
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
