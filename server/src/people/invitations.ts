import { createHash, randomBytes } from 'node:crypto';
import { routes, type EntryLink, type InvitationRow, type Role } from '@allomorph/core';
import type { Router } from 'express';
import { audit, type Actor } from '../audit/audit.js';
import { oneRow, type Database, type Queryable } from '../db/database.js';
import { actorOf, serve } from '../http/context.js';
import { HttpProblem } from '../http/problem.js';
import { addPerson, personColumns, personOf, setPassword, type PersonColumns } from './person.js';
import { beginSession, endSessionsOf, sessionInfo } from './sessions.js';

const validDays = 7;

interface Wanted {
  readonly name: string;
  readonly role: Role;
  /** Whose password is to be set anew. */
  readonly person?: string;
}

interface InvitationColumns {
  id: string;
  workspace: string;
  name: string;
  role: Role;
  person: string | null;
  made_by: string | null;
}

const digestOfToken = (token: string): string => createHash('sha256').update(token).digest('hex');

/** Makes a link by which somebody comes in once. */
export async function makeInvitation(db: Queryable, actor: Actor, wanted: Wanted, origin: string): Promise<EntryLink> {
  const token = randomBytes(24).toString('base64url');
  const row = await oneRow<{ expires_at: Date }>(
    db,
    `insert into invitations (workspace, token_digest, name, role, person, made_by, expires_at)
     values ($1, $2, $3, $4, $5, $6, now() + make_interval(days => $7)) returning expires_at`,
    [actor.workspace, digestOfToken(token), wanted.name, wanted.role, wanted.person ?? null, actor.person, validDays],
  );
  // Behind the number sign, so that it is sent to no server and stands in no log.
  return { address: `${origin}/join#${token}`, expiresAt: row?.expires_at.toISOString() ?? '' };
}

/** Makes the link by which the first keeper comes in; null where there is somebody already. Earlier ones end. */
export async function inviteFirst(db: Database, workspace: string, origin: string): Promise<string | null> {
  return db.transaction(async (client) => {
    await lockPeople(client, workspace);
    const somebody = await oneRow(client, 'select from people where workspace = $1 limit 1', [workspace]);
    if (somebody) return null;
    await client.query('delete from invitations where workspace = $1 and made_by is null and person is null', [
      workspace,
    ]);
    const link = await makeInvitation(client, { workspace, person: null }, { name: '', role: 'keeper' }, origin);
    return link.address;
  });
}

/** Changes of who may do what take turns, so that there is always a keeper left. */
export async function lockPeople(db: Queryable, workspace: string): Promise<void> {
  await db.query(`select pg_advisory_xact_lock(hashtextextended('people ' || $1, 0))`, [workspace]);
}

async function findInvitation(db: Queryable, token: string, lock: '' | 'for update' = ''): Promise<InvitationColumns> {
  const row = await oneRow<InvitationColumns>(
    db,
    `select id, workspace, name, role, person, made_by from invitations
      where token_digest = $1 and expires_at > now() ${lock}`,
    [digestOfToken(token)],
  );
  if (!row)
    throw new HttpProblem(404, 'This link was used already, was withdrawn or is too old. Ask a keeper for a new one.');
  return row;
}

/** Links by which people come in. */
export function invitationRoutes(router: Router, db: Database, origin: string): void {
  serve(router, routes.invitations, async ({ person }) => {
    const { rows } = await db.query<Omit<InvitationRow, 'expiresAt'> & { expiresAt: Date }>(
      `select i.id, coalesce(t.name, i.name) as name, coalesce(t.role, i.role) as role, i.person is not null as "isReset",
              coalesce(p.name, '') as "madeBy", i.expires_at as "expiresAt"
         from invitations i left join people p on p.id = i.made_by left join people t on t.id = i.person
        where i.workspace = $1 and i.expires_at > now() order by i.expires_at desc limit 500`,
      [person.workspace],
    );
    return rows.map((row) => ({ ...row, expiresAt: row.expiresAt.toISOString() }));
  });

  serve(router, routes.invite, ({ person, body }) =>
    db.transaction(async (client) => {
      const link = await makeInvitation(client, actorOf(person), body, origin);
      if (body.mail !== '') {
        const text =
          `Hello ${body.name},\n\n${person.name} invites you to write documentation together. ` +
          `This link lets you in once, until ${link.expiresAt.slice(0, 10)}:\n\n${link.address}\n`;
        await client.query('insert into outbox (workspace, recipient, subject, text) values ($1, $2, $3, $4)', [
          person.workspace,
          body.mail,
          `${person.name} invites you to Allomorph`,
          text,
        ]);
      }
      await audit(client, actorOf(person), 'invite', body.name, { role: body.role });
      return link;
    }),
  );

  serve(router, routes.withdrawInvitation, async ({ person, params }) => {
    const row = await oneRow<{ name: string }>(
      db,
      'delete from invitations where workspace = $1 and id = $2 returning name',
      [person.workspace, params.id],
    );
    if (!row) throw new HttpProblem(404, 'This invitation was used already or withdrawn.');
    await audit(db, actorOf(person), 'withdraw invitation', row.name);
  });

  serve(router, routes.outbox, async ({ person }) => {
    const { rows } = await db.query<{ id: string; to: string; subject: string; text: string; at: Date }>(
      `select id, recipient as to, subject, text, at from outbox where workspace = $1 order by at desc limit 200`,
      [person.workspace],
    );
    return rows.map((row) => ({ ...row, at: row.at.toISOString() }));
  });

  serve(router, routes.readInvitation, async ({ body }) => {
    const found = await findInvitation(db, body.token);
    const workspace = await oneRow<{ title: string }>(db, 'select title from workspaces where id = $1', [
      found.workspace,
    ]);
    const known = found.person
      ? await oneRow<PersonColumns>(db, `select ${personColumns} from people where id = $1`, [found.person])
      : undefined;
    return {
      workspace: workspace?.title ?? '',
      name: known?.name ?? found.name,
      role: known?.role ?? found.role,
      signIn: known?.sign_in ?? null,
      isFirst: found.made_by === null && found.person === null,
    };
  });

  serve(router, routes.acceptInvitation, async ({ body, request, response }) => {
    const person = await db.transaction(async (client) => {
      const found = await findInvitation(client, body.token, 'for update');
      await lockPeople(client, found.workspace);
      const id = found.person ?? (await join(client, found, body));
      if (found.person !== null) {
        await setPassword(client, id, body.password);
        await endSessionsOf(client, id);
      }
      await client.query('delete from invitations where id = $1 or person = $2', [found.id, found.person]);
      const row = await oneRow<PersonColumns>(
        client,
        `select ${personColumns} from people where id = $1 and is_active`,
        [id],
      );
      if (!row) throw new HttpProblem(403, 'This person may not sign in any more. Ask a keeper.');
      const actor = { workspace: found.workspace, person: id };
      await audit(client, actor, found.person === null ? 'join' : 'set password', row.sign_in);
      return personOf(row);
    });
    await beginSession(request, response, person);
    return sessionInfo(db, person);
  });
}

async function join(
  db: Queryable,
  { workspace, role }: InvitationColumns,
  { name, signIn, password }: { readonly name: string; readonly signIn: string; readonly password: string },
): Promise<string> {
  const taken = await oneRow(db, 'select from people where sign_in = $1', [signIn]);
  if (taken) throw new HttpProblem(409, `Somebody signs in as “${signIn}” already; choose another name.`);
  return addPerson(db, workspace, { name, signIn, role, password });
}
