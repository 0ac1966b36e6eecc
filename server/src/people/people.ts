import { routes, type PersonRow, type Role } from '@allomorph/core';
import { verify } from '@node-rs/argon2';
import type { Router } from 'express';
import { audit } from '../audit/audit.js';
import { oneRow, type Database, type Queryable } from '../db/database.js';
import { actorOf, serve } from '../http/context.js';
import { HttpProblem } from '../http/problem.js';
import { lockPeople, makeInvitation } from './invitations.js';
import { setPassword } from './person.js';
import { addressOf, beginSession, endSessionsOf, sessionInfo, sessionsOf } from './sessions.js';
import { beginAttempt, forgetAttempts } from './sign-in.js';

interface Row extends Omit<PersonRow, 'addedAt' | 'lastSeenAt'> {
  readonly addedAt: Date;
  readonly lastSeenAt: Date | null;
}

/** The people of a workspace, those who may sign in first. */
export async function readPeople(
  db: Queryable,
  workspace: string,
  id: string | null = null,
): Promise<readonly PersonRow[]> {
  const { rows } = await db.query<Row>(
    `select p.id, p.name, p.sign_in as "signIn", p.role, p.is_active as "isActive",
            coalesce((p.settings ->> 'colour')::integer, 0) as colour, p.added_at as "addedAt",
            p.last_seen_at as "lastSeenAt",
            (select count(*)::integer from session s where s.person = p.id and s.expire > now()) as sessions
       from people p where p.workspace = $1 and ($2::uuid is null or p.id = $2) order by p.is_active desc, lower(p.name)`,
    [workspace, id],
  );
  return rows.map((row) => ({
    ...row,
    addedAt: row.addedAt.toISOString(),
    lastSeenAt: row.lastSeenAt?.toISOString() ?? null,
  }));
}

async function requirePerson(db: Queryable, workspace: string, id: string): Promise<PersonRow> {
  const [row] = await readPeople(db, workspace, id);
  if (!row) throw new HttpProblem(404, 'There is no such person.');
  return row;
}

/**
 * Changes who somebody is and what they may do; other rights end their sessions.
 * @throws HttpProblem 404; 409 where no keeper would be left
 */
export async function savePerson(
  db: Queryable,
  workspace: string,
  id: string,
  change: { readonly name: string; readonly role: Role; readonly isActive: boolean },
): Promise<void> {
  await lockPeople(db, workspace);
  const before = await requirePerson(db, workspace, id);
  await db.query('update people set name = $2, role = $3, is_active = $4 where id = $1', [
    id,
    change.name,
    change.role,
    change.isActive,
  ]);
  const keeper = await oneRow(db, `select from people where workspace = $1 and role = 'keeper' and is_active limit 1`, [
    workspace,
  ]);
  if (!keeper) throw new HttpProblem(409, `“${before.name}” is the only keeper. Make somebody else a keeper first.`);
  if (before.role !== change.role || before.isActive !== change.isActive) await endSessionsOf(db, id);
}

/** People as keepers see them, and what everybody sets for themselves. */
export function peopleRoutes(router: Router, db: Database, origin: string, idleHours: number): void {
  serve(router, routes.people, ({ person }) => readPeople(db, person.workspace));

  serve(router, routes.savePerson, ({ person, params, body }) =>
    db.transaction(async (client) => {
      await savePerson(client, person.workspace, params.id, body);
      const saved = await requirePerson(client, person.workspace, params.id);
      await audit(client, actorOf(person), 'save person', saved.signIn, { role: saved.role, isActive: saved.isActive });
      return saved;
    }),
  );

  serve(router, routes.resetPerson, ({ person, params }) =>
    db.transaction(async (client) => {
      const { name, role, signIn } = await requirePerson(client, person.workspace, params.id);
      await client.query('delete from invitations where person = $1', [params.id]);
      const link = await makeInvitation(client, actorOf(person), { name, role, person: params.id }, origin);
      await audit(client, actorOf(person), 'let set a new password', signIn);
      return link;
    }),
  );

  serve(router, routes.saveWritersOutline, ({ person, body: { allowed } }) =>
    db.transaction(async (client) => {
      await client.query('update workspaces set writers_outline = $2 where id = $1', [person.workspace, allowed]);
      await audit(client, actorOf(person), allowed ? 'let writers outline' : 'keep outlines to keepers', '');
      return sessionInfo(client, person);
    }),
  );

  serve(router, routes.sessionsOf, async ({ person, params, request }) => {
    await requirePerson(db, person.workspace, params.id);
    return sessionsOf(db, params.id, request.sessionID, idleHours);
  });

  serve(router, routes.endSessions, ({ person, params }) =>
    db.transaction(async (client) => {
      const { signIn } = await requirePerson(client, person.workspace, params.id);
      await endSessionsOf(client, params.id);
      await audit(client, actorOf(person), 'end sessions', signIn);
    }),
  );

  serve(router, routes.saveOwn, async ({ person, body }) => {
    await db.query('update people set name = $2, settings = $3 where id = $1', [
      person.id,
      body.name,
      JSON.stringify(body.settings),
    ]);
    return sessionInfo(db, { ...person, ...body });
  });

  serve(router, routes.changePassword, async ({ person, body, request, response }) => {
    const row = await oneRow<{ password_hash: string }>(db, 'select password_hash from people where id = $1', [
      person.id,
    ]);
    // Whoever finds a window open may guess no more often than at the door.
    const address = addressOf(request);
    await beginAttempt(db, person.signIn, address, person.id);
    if (!(await verify(row?.password_hash ?? '', body.current).catch(() => false)))
      throw new HttpProblem(422, 'The password of until now is another one.');
    await db.transaction(async (client) => {
      await forgetAttempts(client, person.signIn, address);
      await setPassword(client, person.id, body.password);
      await endSessionsOf(client, person.id);
      await audit(client, actorOf(person), 'set password', person.signIn);
    });
    await beginSession(request, response, person);
  });

  serve(router, routes.ownSessions, ({ person, request }) => sessionsOf(db, person.id, request.sessionID, idleHours));

  serve(router, routes.endOtherSessions, ({ person, request }) => endSessionsOf(db, person.id, request.sessionID));
}
