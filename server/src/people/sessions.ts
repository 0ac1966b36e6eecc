import { createHash, randomBytes } from 'node:crypto';
import { promisify } from 'node:util';
import type { SessionInfo, SessionRow } from '@allomorph/core';
import connectPgSimple from 'connect-pg-simple';
import type { Request, RequestHandler, Response } from 'express';
import session, { type SessionData } from 'express-session';
import { LRUCache } from 'lru-cache';
import type { Config } from '../config.js';
import { oneRow, type Database, type Queryable } from '../db/database.js';
import { announceEnd } from '../events/events.js';
import { personColumns, personOf, type Person, type PersonColumns } from './person.js';

declare module 'express-session' {
  interface SessionData {
    /** The id of whoever signed in; rights are read anew at each request. */
    person: string;
    /** What requests that change something carry besides the cookie. */
    token: string;
    startedAt: number;
    address: string;
    browser: string;
  }
}
declare module 'express-serve-static-core' {
  interface Request {
    /** Who is signed in. */
    person?: Person;
  }
}

/** Sessions go only where the application itself answers: deliverables, written by authors, stand outside. */
const cookiePath = '/api';
const sessionCookie = 'allomorph-session';
const tokenCookie = 'XSRF-TOKEN';
const hour = 3_600_000;
/** That somebody is still there is written down no more often. */
const touchEvery = 60_000;

/** What of the settings sessions depend on. */
export type SessionConfig = Pick<Config, 'secureCookies' | 'idleHours' | 'sessionHours'>;

/** Sessions that are kept in the database, end when nobody comes back for long, and in any case after a time. */
export function sessions(db: Database, secret: string, config: SessionConfig): readonly RequestHandler[] {
  const touched = new LRUCache<string, true>({ max: 10_000, ttl: touchEvery });
  const PgStore = connectPgSimple(session);
  class Store extends PgStore {
    override touch(sid: string, data: SessionData, done?: () => void): void {
      if (touched.has(sid)) {
        done?.();
        return;
      }
      touched.set(sid, true);
      super.touch(sid, data, done);
      db.query('update people set last_seen_at = now() where id = $1', [data.person]).catch(() => undefined);
    }
  }
  return [
    session({
      name: sessionCookie,
      secret,
      store: new Store({ pool: db.pool, tableName: 'session' }),
      resave: false,
      saveUninitialized: false,
      rolling: true,
      proxy: config.secureCookies,
      cookie: {
        path: cookiePath,
        httpOnly: true,
        sameSite: 'lax',
        secure: config.secureCookies,
        maxAge: config.idleHours * hour,
      },
    }),
    readPerson(db, config.sessionHours * hour),
  ];
}

/** Whoever asks is read anew at each request: a changed role holds at once, and who is gone is signed out. */
function readPerson(db: Database, longest: number): RequestHandler {
  return async (request, _response, next) => {
    const { person, startedAt = 0 } = request.session;
    if (person !== undefined) {
      const row =
        Date.now() - startedAt < longest
          ? await oneRow<PersonColumns>(db, `select ${personColumns} from people where id = $1 and is_active`, [person])
          : undefined;
      if (row) request.person = personOf(row);
      else await promisify(request.session.regenerate.bind(request.session))();
    }
    next();
  };
}

/** Begins a session of a person, under a new name: one that somebody else may know does not become theirs. */
export async function beginSession(request: Request, response: Response, person: Person): Promise<void> {
  await promisify(request.session.regenerate.bind(request.session))();
  Object.assign(request.session, {
    person: person.id,
    startedAt: Date.now(),
    address: addressOf(request),
    browser: (request.get('User-Agent') ?? '').slice(0, 300),
  });
  request.person = person;
  giveToken(request, response);
  await promisify(request.session.save.bind(request.session))();
}

export async function endSession(request: Request, response: Response): Promise<void> {
  await promisify(request.session.destroy.bind(request.session))();
  response.clearCookie(sessionCookie, { path: cookiePath });
}

/** From where a request comes, as far as the proxies in front are trusted. */
export function addressOf(request: Request): string {
  return request.ip ?? '';
}

/** Puts the session's token where the interface's own scripts can read it and send it back. */
export function giveToken(request: Request, response: Response): void {
  request.session.token ??= randomBytes(24).toString('base64url');
  response.cookie(tokenCookie, request.session.token, {
    sameSite: 'lax',
    httpOnly: false,
    path: '/',
    secure: request.session.cookie.secure === true,
  });
}

/** Who is signed in, as the interface is told. */
export async function sessionInfo(db: Queryable, person: Person | null): Promise<SessionInfo> {
  if (!person) return { person: null, workspace: '', writersOutline: false };
  const { workspace, ...own } = person;
  const row = await oneRow<{ title: string; writersOutline: boolean }>(
    db,
    'select title, writers_outline as "writersOutline" from workspaces where id = $1',
    [workspace],
  );
  return { person: own, workspace: row?.title ?? '', writersOutline: row?.writersOutline ?? false };
}

/** Sessions are named to people by what cannot be used as one. */
const publicId = (sid: string): string => createHash('sha256').update(sid).digest('hex').slice(0, 32);

/** Where a person is signed in, the latest first. */
export async function sessionsOf(db: Queryable, person: string, own: string, idleHours: number): Promise<SessionRow[]> {
  const { rows } = await db.query<{ sid: string; sess: SessionData; expire: Date }>(
    'select sid, sess, expire from session where person = $1 and expire > now() order by expire desc limit 100',
    [person],
  );
  return rows.map(({ sid, sess, expire }) => ({
    id: publicId(sid),
    startedAt: new Date(sess.startedAt).toISOString(),
    lastSeenAt: new Date(expire.getTime() - idleHours * hour).toISOString(),
    address: sess.address,
    browser: sess.browser,
    isThis: sid === own,
  }));
}

/**
 * Ends the sessions of a person, and the streams of events that are open under them.
 * @param but the session that stays
 */
export async function endSessionsOf(db: Queryable, person: string, but = ''): Promise<void> {
  await db.query('delete from session where person = $1 and sid <> $2', [person, but]);
  await announceEnd(db, person);
}
