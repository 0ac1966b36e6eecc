import { roles, type AnswerOf, type Received, type Role, type Route } from '@allomorph/core';
import type { IRouter, Request, RequestHandler, Response } from 'express';
import type {} from 'express-session';
import multer from 'multer';
import { z } from 'zod';
import { HttpProblem } from './problem.js';

/** The person a request comes from. */
export interface Person {
  readonly id: string;
  readonly workspace: string;
  readonly name: string;
  readonly signIn: string;
  readonly role: Role;
}

declare module 'express-session' {
  interface SessionData {
    person: Person;
    token: string;
  }
}

/** What a handler is given: what came with the request, checked, and who sent it. */
type RouteInput<R extends Route> = Received<R> & {
  /** Null only where one need not have signed in. */
  readonly person: R['role'] extends Role ? Person : Person | null;
  /** The uploaded file of a route that takes one. */
  readonly file: Express.Multer.File | undefined;
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
  const upload: RequestHandler =
    route.upload === null
      ? (_request, _response, next) => next()
      : multer({
          storage: multer.memoryStorage(),
          limits: { fileSize: route.upload, files: 1, fields: 10 },
        }).single('file');
  const admit: RequestHandler = (request, _response, next) => {
    const { person } = request.session;
    if (route.role !== null) {
      if (!person) throw new HttpProblem(401, 'Sign in first.');
      requireRole(person, route.role);
    }
    next();
  };
  const answer: RequestHandler = async (request, response, next) => {
    try {
      const parse = (schema: unknown, value: unknown): unknown =>
        schema instanceof z.ZodType ? schema.parse(value) : undefined;
      // The contract's types say what its schemas have just checked.
      // eslint-disable-next-line @typescript-eslint/no-unsafe-type-assertion
      const input = {
        person: request.session.person ?? null,
        params: route.params.parse(request.params),
        query: parse(route.query, request.query),
        body: parse(route.body, request.body),
        file: request.file,
        request,
        response,
      } as unknown as RouteInput<R>;
      const result = await handle(input);
      if (result === handled) return;
      if (result === undefined) response.status(204).end();
      else response.json(result);
    } catch (error) {
      next(error);
    }
  };
  router[route.method](route.path, admit, upload, answer);
}

function requireRole(person: Person, role: Role): void {
  if (roles.indexOf(person.role) < roles.indexOf(role)) {
    throw new HttpProblem(403, `This takes the role “${role}”; you are a ${person.role}.`);
  }
}
