import { randomBytes } from 'node:crypto';
import { promisify } from 'node:util';
import { hash, verify } from '@node-rs/argon2';
import { routes, type Role, type SessionInfo } from '@allomorph/core';
import type { Request, RequestHandler, Response, Router } from 'express';
import { rateLimit } from 'express-rate-limit';
import { oneRow, type Database, type Queryable } from '../db/database.js';
import { serve, type Person } from '../http/context.js';
import { HttpProblem } from '../http/problem.js';

interface PersonRow {
  id: string;
  workspace: string;
  sign_in: string;
  name: string;
  role: Role;
  password_hash: string;
}

/** Adds a person to a workspace. The password is kept as an argon2id hash. */
export async function addPerson(
  db: Queryable,
  workspace: string,
  person: { readonly signIn: string; readonly name: string; readonly role: Role; readonly password: string },
): Promise<string> {
  const row = await oneRow<{ id: string }>(
    db,
    'insert into people (workspace, sign_in, name, role, password_hash) values ($1, $2, $3, $4, $5) returning id',
    [workspace, person.signIn, person.name, person.role, await hash(person.password)],
  );
  return row?.id ?? '';
}

/** Whoever asks is read anew at each request: a changed role holds at once, and who is gone is signed out. */
export function readPerson(db: Database): RequestHandler {
  return async (request, _response, next) => {
    const { person } = request.session;
    if (person) {
      const row = await oneRow<PersonRow>(db, 'select * from people where id = $1', [person.id]);
      if (row) request.session.person = personOf(row);
      else delete request.session.person;
    }
    next();
  };
}

function personOf({ id, workspace, name, sign_in: signIn, role }: PersonRow): Person {
  return { id, workspace, name, signIn, role };
}

/** Sign-in, sign-out and who is signed in. */
export function peopleRoutes(router: Router, db: Database): void {
  const limit = rateLimit({
    windowMs: 5 * 60_000,
    limit: 20,
    skipSuccessfulRequests: true,
    standardHeaders: true,
    legacyHeaders: false,
    handler: (_request, _response, next) => {
      next(new HttpProblem(429, 'Too many failed attempts to sign in. Wait five minutes and try again.'));
    },
  });

  serve(router, routes.session, ({ request }) => sessionInfo(db, request));

  router.post(routes.signIn.path, limit);
  serve(router, routes.signIn, async ({ body, request, response }) => {
    const { name, password } = body;
    const row = await oneRow<PersonRow>(db, 'select * from people where sign_in = $1', [name.toLowerCase()]);
    // The same work is done for unknown names, so that timing does not tell them apart.
    const good = await verify(row?.password_hash ?? (await unusablePassword), password).catch(() => false);
    if (!row || !good) throw new HttpProblem(401, 'The name or the password is wrong.');
    await promisify(request.session.regenerate.bind(request.session))();
    request.session.person = personOf(row);
    giveToken(request, response);
    return sessionInfo(db, request);
  });

  serve(router, routes.signOut, async ({ request, response }) => {
    await promisify(request.session.destroy.bind(request.session))();
    response.clearCookie('allomorph');
  });
}

const unusablePassword = hash(randomBytes(24).toString('hex'));
const tokenCookie = 'XSRF-TOKEN';

/** Puts the session's token where the interface's own scripts can read it and send it back. */
export function giveToken(request: Request, response: Response): void {
  request.session.token ??= randomBytes(24).toString('base64url');
  response.cookie(tokenCookie, request.session.token, { sameSite: 'lax', httpOnly: false, path: '/' });
}

async function sessionInfo(db: Database, request: Request): Promise<SessionInfo> {
  const { person } = request.session;
  const workspace = person
    ? await oneRow<{ title: string }>(db, 'select title from workspaces where id = $1', [person.workspace])
    : undefined;
  return {
    person: person ? { name: person.name, signIn: person.signIn, role: person.role } : null,
    workspace: workspace?.title ?? '',
  };
}
