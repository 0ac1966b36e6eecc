import { randomBytes } from 'node:crypto';
import { routes } from '@allomorph/core';
import { hash, verify } from '@node-rs/argon2';
import type { Router } from 'express';
import { audit } from '../audit/audit.js';
import { oneRow, type Database, type Queryable } from '../db/database.js';
import { serve } from '../http/context.js';
import { HttpProblem } from '../http/problem.js';
import { personColumns, personOf, type PersonColumns } from './person.js';
import { addressOf, beginSession, endSession, sessionInfo } from './sessions.js';

const minutes = 15;
/** How many attempts may fail within that time. */
const limits = {
  /** For one name from one address. */
  pair: 10,
  /** From one address, whatever the name. */
  address: 100,
  /** For one name, from addresses where its owner never was: where they were, they come in whatever others try. */
  name: 30,
};
const knownForDays = 90;

/** Sign-in, sign-out and who is signed in. */
export function signInRoutes(router: Router, db: Database): void {
  serve(router, routes.session, ({ person }) => sessionInfo(db, person));

  serve(router, routes.signIn, async ({ body, request, response }) => {
    const signIn = body.name.toLowerCase();
    const address = addressOf(request);
    const row = await oneRow<PersonColumns & { password_hash: string; is_active: boolean }>(
      db,
      `select ${personColumns}, password_hash, is_active from people where sign_in = $1`,
      [signIn],
    );
    const failed = await beginAttempt(db, signIn, address, row?.id ?? null);
    // The same work is done for unknown names, so that timing does not tell them apart.
    const good = await verify(row?.password_hash ?? (await unusablePassword), body.password).catch(() => false);
    if (!row?.is_active || !good) {
      if (row)
        await audit(db, { workspace: row.workspace, person: null }, 'sign in refused', signIn, { address, failed });
      throw new HttpProblem(401, 'The name or the password is wrong.');
    }
    const person = personOf(row);
    await beginSession(request, response, person);
    await db.transaction(async (client) => {
      await forgetAttempts(client, signIn, address);
      await client.query(
        `insert into sign_in_addresses (person, address) values ($1, $2)
         on conflict (person, address) do update set at = now()`,
        [person.id, address],
      );
      await audit(client, { workspace: person.workspace, person: person.id }, 'sign in', signIn, { address });
    });
    return sessionInfo(db, person);
  });

  serve(router, routes.signOut, async ({ person, request, response }) => {
    await endSession(request, response);
    if (person) await audit(db, { workspace: person.workspace, person: person.id }, 'sign out', person.signIn);
  });
}

/** The right password was given. */
export async function forgetAttempts(db: Queryable, signIn: string, address: string): Promise<void> {
  await db.query('delete from sign_in_attempts where (sign_in = $1 and address = $2) or at < now() - $3::interval', [
    signIn,
    address,
    '1 day',
  ]);
}

const unusablePassword = hash(randomBytes(24).toString('hex'));

/**
 * Takes down that somebody gives a password, as a failure until it succeeds: of a hundred at once, the first are tried.
 * @returns which attempt in a row it is for this name from this address
 * @throws HttpProblem 429 where there were too many; this one is not tried, nor counted
 */
export async function beginAttempt(
  db: Queryable,
  signIn: string,
  address: string,
  person: string | null,
): Promise<number> {
  const added = await oneRow<{ id: string }>(
    db,
    'insert into sign_in_attempts (sign_in, address) values ($1, $2) returning id',
    [signIn, address],
  );
  const counted = await oneRow<{ pair: number; address: number; name: number; known: boolean }>(
    db,
    `select count(*) filter (where sign_in = $1 and address = $2)::integer as pair,
            count(*) filter (where address = $2)::integer as address,
            count(*) filter (where sign_in = $1)::integer as name,
            exists (select from sign_in_addresses
                     where person = $3 and address = $2 and at > now() - make_interval(days => $5)) as known
       from sign_in_attempts
      where (sign_in = $1 or address = $2) and at > now() - make_interval(mins => $4) and id <= $6`,
    [signIn, address, person, minutes, knownForDays, added?.id],
  );
  const { pair = 0, name = 0, known = false } = counted ?? {};
  if (pair > limits.pair || (counted?.address ?? 0) > limits.address || (name > limits.name && !known)) {
    await db.query('delete from sign_in_attempts where id = $1', [added?.id]);
    throw new HttpProblem(429, `Too many wrong passwords. Wait ${minutes} minutes and try again.`);
  }
  return pair;
}
