import { ownSettingsSchema, type OwnSettings, type Role, type SignedIn } from '@allomorph/core';
import { hash } from '@node-rs/argon2';
import { oneRow, type Queryable } from '../db/database.js';

/** The person a request comes from. */
export interface Person extends SignedIn {
  readonly workspace: string;
}

export interface PersonColumns {
  id: string;
  workspace: string;
  sign_in: string;
  name: string;
  role: Role;
  settings: unknown;
}

export const personColumns = 'id, workspace, sign_in, name, role, settings';

export function personOf({ id, workspace, name, sign_in: signIn, role, settings }: PersonColumns): Person {
  return { id, workspace, name, signIn, role, settings: settingsOf(settings) };
}

/** What a person set; what is not, or not as it should be, is as at the beginning. */
function settingsOf(stored: unknown): OwnSettings {
  return ownSettingsSchema.safeParse(stored).data ?? ownSettingsSchema.parse({});
}

/** Adds a person to a workspace. The password is kept as an argon2id hash. */
export async function addPerson(
  db: Queryable,
  workspace: string,
  person: { readonly signIn: string; readonly name: string; readonly role: Role; readonly password: string },
): Promise<string> {
  const row = await oneRow<{ id: string }>(
    db,
    `insert into people (workspace, sign_in, name, role, password_hash, settings)
     values ($1, $2, $3, $4, $5, jsonb_build_object('colour', (select count(*) % 8 from people where workspace = $1)))
     returning id`,
    [workspace, person.signIn, person.name, person.role, await hash(person.password)],
  );
  return row?.id ?? '';
}

/** Gives a person another password. */
export async function setPassword(db: Queryable, person: string, password: string): Promise<void> {
  await db.query('update people set password_hash = $2 where id = $1', [person, await hash(password)]);
}
