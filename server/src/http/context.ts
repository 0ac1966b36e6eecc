import { existsSync, mkdirSync, rmSync } from 'node:fs';
import { unlink } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { roles, type AnswerOf, type Received, type Role, type Route } from '@allomorph/core';
import express, { type IRouter, type Request, type RequestHandler, type Response } from 'express';
import multer, { MulterError } from 'multer';
import * as z from 'zod';
import type { Actor } from '../audit/audit.js';
import type { Person } from '../people/person.js';
import { HttpProblem } from './problem.js';
import { refuseBadText } from './text.js';

/** The person of a request as the one who acts. */
export function actorOf(person: Person): Actor {
  return { workspace: person.workspace, person: person.id };
}

/** What a handler is given: what came with the request, checked, and who sent it. */
type RouteInput<R extends Route> = Received<R> & {
  /** Null only where one need not have signed in. */
  readonly person: R['role'] extends Role ? Person : Person | null;
  /** The uploaded file of a route that takes one; it is gone when the request has been answered. */
  readonly file: Express.Multer.File | undefined;
  /** Aborted when whoever asked is gone before the answer. */
  readonly signal: AbortSignal;
  readonly request: Request;
  readonly response: Response;
};

/** Says that a handler has sent the response itself. */
export const handled = Symbol('handled');

/**
 * Serves a route of the contract: looks at who asks before anything of the body is read, checks what came, and sends
 * what the handler returns as JSON; undefined is sent as 204.
 */
export function serve<R extends Route>(
  router: IRouter,
  route: R,
  handle: (input: RouteInput<R>) => Promise<AnswerOf<R> | typeof handled>,
): void {
  const admit: RequestHandler = (request, _response, next) => {
    const { person } = request;
    if (route.role !== null) {
      if (!person) throw new HttpProblem(401, 'Sign in first.');
      requireRole(person, route.role);
    }
    next();
  };
  const answer: RequestHandler = async (request, response, next) => {
    const gone = new AbortController();
    response.on('close', () => gone.abort());
    try {
      const parse = (schema: unknown, value: unknown): unknown => {
        if (!(schema instanceof z.ZodType)) return undefined;
        refuseBadText(value);
        return schema.parse(value);
      };
      // The contract's types say what its schemas have just checked.
      // eslint-disable-next-line @typescript-eslint/no-unsafe-type-assertion
      const input = {
        person: request.person ?? null,
        params: parse(route.params, request.params),
        query: parse(route.query, request.query),
        body: parse(route.body, request.body),
        file: request.file,
        signal: gone.signal,
        request,
        response,
      } as unknown as RouteInput<R>;
      const result = await handle(input);
      if (result === handled) return;
      if (result === undefined) response.status(204).end();
      else response.json(result);
    } catch (error) {
      next(error);
    } finally {
      if (request.file) await unlink(request.file.path).catch(() => undefined);
    }
  };
  const receive = route.upload !== null ? receiveFile(route.upload) : route.role === null ? fewJson : json;
  router[route.method](route.path, admit, receive, answer);
}

const json = express.json({ limit: '8mb' });
/** From whom has not signed in, little is taken. */
const fewJson = express.json({ limit: '20kb' });

/** What a form holds besides its file. */
const formRoom = 8 << 20;
const uploads = join(tmpdir(), `allomorph-uploads-${process.pid}`);

/** Takes the file of a form onto the disk, part by part; one that says that it is too large is not read at all. */
function receiveFile(most: number): RequestHandler {
  if (!existsSync(uploads)) {
    mkdirSync(uploads, { mode: 0o700 });
    process.once('exit', () => rmSync(uploads, { recursive: true, force: true }));
  }
  // Browsers send names of files in UTF-8 (HTML, 4.10.22.7, “Multipart form data”).
  const receive = multer({
    dest: uploads,
    defParamCharset: 'utf8',
    limits: { fileSize: most, files: 1, fields: 10, fieldSize: formRoom },
  });
  const single = receive.single('file');
  return (request, response, next) => {
    if (Number(request.get('Content-Length') ?? 0) > most + formRoom) {
      response.set('Connection', 'close');
      next(tooLarge(most));
      return;
    }
    single(request, response, (error: unknown) => {
      if (error instanceof MulterError && error.code === 'LIMIT_FILE_SIZE') next(tooLarge(most));
      else next(error && new HttpProblem(400, 'The upload broke off or cannot be read.'));
    });
  };
}

function tooLarge(most: number): HttpProblem {
  return new HttpProblem(413, `The file is larger than ${most >> 20} MB.`);
}

function requireRole(person: Person, role: Role): void {
  if (roles.indexOf(person.role) < roles.indexOf(role)) {
    throw new HttpProblem(403, `This takes the role “${role}”; you are a ${person.role}.`);
  }
}
